import type { Blobs, Mesh } from '../../document';
import { coverUv, newUvCells, overlapShare } from '../../geometry';
import { count, figure } from '../wording';
import { figureCache } from './by-primitive';

const known = figureCache();

function overlapOf(mesh: Mesh, blobs: Blobs): number {
  const key = mesh.primitives.map(({ attributes, indices }) => `${attributes.TEXCOORD_0?.blob}/${indices.blob}`).join('|');
  let share = known.get(key);
  if (share === undefined) {
    const cells = newUvCells();
    for (const primitive of mesh.primitives) coverUv(primitive, blobs, cells);
    if (known.size > 20_000) known.clear();
    known.set(key, (share = overlapShare(cells)));
  }
  return share;
}

import type { Check } from '../types';

/** UVs of one part lie beside one another, not on top. */
export const uvOverlap: Check = {
  id: 'uv.overlap',
  family: 'uv',
  stage: 'shape',
  about: 'UVs of one part lie beside one another, not on top',
  limit: 'per cent of the covered picture',
  run(context, rule) {
    const over = context.parts
      .map((part) => ({ part, percent: part.mesh === null ? 0 : 100 * overlapOf(context.kit.meshes[part.mesh], context.blobs) }))
      .filter(({ percent }) => percent > rule.limit!)
      .sort((a, b) => b.percent - a.percent);
    if (over.length === 0) return [];
    const [worst] = over;
    return [
      {
        title: 'UVs on top of one another',
        message: `${figure(worst.percent, 1)} % of the picture that “${worst.part.name}” uses is used more than once${over.length > 1 ? `, and too much in ${count(over.length - 1, 'further part')}` : ''}.`,
        measured: `${figure(worst.percent, 1)} %`,
        limit: `${figure(rule.limit!, 1)} %`,
        share: rule.limit! > 0 ? worst.percent / rule.limit! : undefined,
        parts: over.map(({ part }) => part.id),
      },
    ];
  },
};
