import { openEdges } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf, partsOfRule } from './parts-of-rule';

const measure = memoByArrays(openEdges);

/** The surface is closed: every edge lies between two triangles. */
export const geometryClosed: Check = {
  id: 'geometry.closed',
  family: 'geometry',
  stage: 'shape',
  about: 'The surface is closed: every edge lies between two triangles',
  run(context, rule) {
    const found = partsWith(context, measure, partsOfRule(context, rule));
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Surface with holes',
        message: `${count(total, 'edge is', 'edges are')} open, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'edge', 'edges'),
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
