import type { Check } from '../types';
import { count, nameList } from '../wording';

/** Every coupling stops somewhere, and has some way to go. */
export const assemblyLimits: Check = {
  id: 'assembly.limits',
  family: 'assembly',
  stage: 'rig',
  about: 'Every coupling stops somewhere, and has some way to go',
  run({ kit }) {
    const found = (kit.couplings ?? []).filter(
      ({ kind, min, max }) => max === null || (kind !== 'ball' && min === null) || max - (min ?? 0) <= 0,
    );
    if (found.length === 0) return [];
    const ends = new Set(found.flatMap(({ to }) => [to]));
    return [
      {
        title: 'Couplings without limits',
        message: `${nameList(found.map(({ name }) => name))} ${found.length === 1 ? 'has' : 'have'} no limits, or no way to go between them.`,
        measured: count(found.length, 'coupling'),
        limit: '0 couplings',
        parts: (kit.bodies ?? []).filter(({ id }) => ends.has(id)).flatMap(({ parts }) => parts),
      },
    ];
  },
};
