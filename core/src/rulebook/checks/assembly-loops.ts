import { assemblyTree } from '../../rig';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** Couplings do not close a ring. */
export const assemblyLoops: Check = {
  id: 'assembly.loops',
  family: 'assembly',
  stage: 'rig',
  about: 'Couplings do not close a ring',
  run({ kit }) {
    const { loops } = assemblyTree(kit);
    if (loops.length === 0) return [];
    const ends = new Set(loops.flatMap(({ from, to }) => [from, to]));
    return [
      {
        title: 'Couplings that close a ring',
        message: `${nameList(loops.map(({ name }) => name))} ${loops.length === 1 ? 'couples' : 'couple'} bodies that others hold together already.`,
        measured: count(loops.length, 'ring'),
        limit: '0 rings',
        parts: (kit.bodies ?? []).filter(({ id }) => ends.has(id)).flatMap(({ parts }) => parts),
        mend: {
          title: `Take out ${nameList(loops.map(({ name }) => name))}`,
          safe: false,
          call: { operation: 'rig.uncouple', args: { couplings: loops.map(({ id }) => id) } },
          changes: loops.map(({ name }) => `${name}: taken out; both bodies stay held by the others`),
        },
      },
    ];
  },
};
