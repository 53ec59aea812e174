import type { Check } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** No part is mirrored by a negative scale. */
export const transformsMirrored: Check = {
  id: 'transforms.mirrored',
  family: 'transforms',
  stage: 'shape',
  about: 'No part is mirrored by a negative scale',
  run({ parts }) {
    const wrong = parts.filter((part) => part.scale.some((value) => value < 0));
    if (wrong.length === 0) return [];
    return [
      {
        title: 'Mirrored by a negative scale',
        message: `${count(wrong.length, 'part has', 'parts have')} a negative scale: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'part'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Apply scale to ${count(wrong.length, 'part')}`,
          safe: true,
          call: { operation: 'shape.apply-scale', args: { parts: idsOf(wrong) } },
        },
      },
    ];
  },
};
