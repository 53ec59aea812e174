import type { Check } from '../types';
import { count, figure, nameList } from '../wording';

/** Nearer to 1 than this it is number noise. */
const NEAR = 1e-4;

/** Every part's scale is 1. */
export const transformsUnitScale: Check = {
  id: 'transforms.unit-scale',
  family: 'transforms',
  stage: 'shape',
  about: 'Every part’s scale is 1',
  run({ parts }) {
    const wrong = parts.filter((part) => part.scale.some((value) => Math.abs(value - 1) > NEAR));
    if (wrong.length === 0) return [];
    const worst = wrong.flatMap((part) => part.scale).reduce((a, b) => (Math.abs(b - 1) > Math.abs(a - 1) ? b : a));
    const mendable = wrong.every((part) => part.scale.every((value) => value !== 0));
    return [
      {
        title: 'Scale is not 1',
        message: `${count(wrong.length, 'part is', 'parts are')} scaled: ${nameList(wrong.map((part) => part.name))}.`,
        measured: `× ${figure(worst, 4)}`,
        limit: '× 1',
        parts: wrong.map((part) => part.id),
        mend: mendable
          ? {
              title: `Apply scale to ${count(wrong.length, 'part')}`,
              safe: true,
              call: { operation: 'shape.apply-scale', args: { parts: wrong.map((part) => part.id) } },
            }
          : undefined,
      },
    ];
  },
};
