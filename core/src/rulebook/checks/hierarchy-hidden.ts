import type { Check } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** Parts that are hidden on the bench go into the package all the same. */
export const hierarchyHidden: Check = {
  id: 'hierarchy.hidden-parts',
  family: 'hierarchy',
  stage: 'ship',
  about: 'Parts that are hidden on the bench go into the package all the same',
  run({ parts }) {
    const hidden = parts.filter((part) => part.hidden);
    if (hidden.length === 0) return [];
    return [
      {
        title: 'Hidden parts go in too',
        message: `${count(hidden.length, 'part is', 'parts are')} hidden on the bench and will be in the package: ${nameList(namesOf(hidden))}.`,
        measured: count(hidden.length, 'part'),
        limit: 'all parts seen',
        parts: idsOf(hidden),
        mend: {
          title: `Show ${count(hidden.length, 'part')}`,
          safe: false,
          call: { operation: 'shape.set-hidden', args: { parts: idsOf(hidden), hidden: false } },
          changes: hidden.map((part) => `${part.name} is seen on the bench`),
        },
      },
    ];
  },
};
