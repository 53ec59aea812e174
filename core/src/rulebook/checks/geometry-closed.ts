import { openEdges } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';
import { partsOfRule } from './parts-of-rule';

/** The surface is closed: every edge lies between two triangles. */
export const geometryClosed = counted({
  id: 'geometry.closed',
  family: 'geometry',
  stage: 'shape',
  about: 'The surface is closed: every edge lies between two triangles',
  measure: memoByArrays(openEdges),
  title: 'Surface with holes',
  noun: ['edge', 'edges'],
  say: (total) => `${count(total, 'edge is', 'edges are')} open, in`,
  among: partsOfRule,
});
