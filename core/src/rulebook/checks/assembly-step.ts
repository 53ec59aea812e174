import type { Check } from '../types';
import { count, figure, nameList } from '../wording';

/** A value nearer than this to a whole step is there. */
const SAME = 1e-6;
/** Nearer than this it is number noise, and nothing is seen of putting it there. */
const NOISE = 1e-4;

/** Couplings stand on whole steps in the axes of the body that holds them. */
export const assemblyStep: Check = {
  id: 'assembly.step',
  family: 'assembly',
  stage: 'rig',
  about: 'Couplings stand on whole steps in the axes of the body that holds them',
  run({ kit, rulebook }) {
    const step = rulebook.stepMetres;
    const off = (value: number) => Math.abs(value - Math.round(value / step) * step);
    const found = (kit.couplings ?? [])
      .map((coupling) => ({ coupling, by: Math.max(...coupling.at.map(off)) }))
      .filter(({ by }) => by > SAME);
    if (found.length === 0) return [];
    const most = Math.max(...found.map(({ by }) => by));
    const ends = new Set(found.map(({ coupling }) => coupling.to));
    return [
      {
        title: 'Couplings off the step',
        message: `${nameList(found.map(({ coupling }) => coupling.name))} ${found.length === 1 ? 'stands' : 'stand'} up to ${figure(most * 1000, 2)} mm off the ${figure(step)} m step.`,
        measured: `${figure(most * 1000, 2)} mm`,
        limit: `steps of ${figure(step)} m`,
        parts: (kit.bodies ?? []).filter(({ id }) => ends.has(id)).flatMap(({ parts }) => parts),
        mend: {
          title: `Put ${count(found.length, 'coupling')} onto the step`,
          safe: most <= NOISE,
          call: { operation: 'rig.snap-couplings', args: { couplings: found.map(({ coupling }) => coupling.id), stepMetres: step } },
          ...(most <= NOISE
            ? {}
            : { changes: found.map(({ coupling, by }) => `${coupling.name}: moved by up to ${figure(by * 1000, 2)} mm an axis`) }),
        },
      },
    ];
  },
};
