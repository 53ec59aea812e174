import { noiseOf } from '../../shape';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** No number is a hair off a multiple of the step. */
export const transformsNoise: Check = {
  id: 'transforms.noise',
  family: 'transforms',
  stage: 'shape',
  about: 'No number is a hair off a multiple of the step',
  run({ parts: all, rulebook }) {
    const steps = { stepMetres: rulebook.stepMetres, stepDegrees: rulebook.stepDegrees };
    const noisy = all
      .map((part) => ({ part, noise: noiseOf(part, steps) }))
      .filter(({ noise }) => noise.translation || noise.rotation || noise.scale);
    if (noisy.length === 0) return [];
    const parts = noisy.map(({ part }) => part.id);
    return [
      {
        title: 'Number noise',
        message: `${count(noisy.length, 'part has', 'parts have')} numbers a hair off the step: ${nameList(noisy.map(({ part }) => part.name))}.`,
        measured: `off by up to ${Math.max(...noisy.map(({ noise }) => noise.worst)).toPrecision(2)}`,
        limit: `whole steps of ${rulebook.stepMetres} m, ${rulebook.stepDegrees}°`,
        parts,
        mend: {
          title: `Clean the numbers of ${count(noisy.length, 'part')}`,
          safe: true,
          call: { operation: 'shape.clean-noise', args: { parts, ...steps } },
        },
      },
    ];
  },
};
