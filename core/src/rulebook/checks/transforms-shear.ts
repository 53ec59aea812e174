import { decomposeMatrix } from '../../geometry';
import type { Check } from '../types';
import { count, figure, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** More than this is no rounding: the cosine between two axes that should stand at right angles. */
const NEAR = 1e-4;

/** No part is skewed: a turn below an uneven scale. */
export const transformsShear: Check = {
  id: 'transforms.shear',
  family: 'transforms',
  stage: 'shape',
  about: 'No part is skewed by a turn below an uneven scale',
  run({ parts, rest }) {
    const poser = rest();
    const sheared = parts
      .map((part) => ({ part, shear: decomposeMatrix(poser.worldOf(part.id)).shear }))
      .filter(({ shear }) => shear > NEAR);
    if (sheared.length === 0) return [];
    const wrong = sheared.map(({ part }) => part);
    return [
      {
        title: 'Skewed parts',
        message: `${count(wrong.length, 'part is', 'parts are')} skewed, turned below an uneven scale: ${nameList(namesOf(wrong))}. Apply the scale above them.`,
        measured: `skew ${figure(Math.max(...sheared.map(({ shear }) => shear)), 4)}`,
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
