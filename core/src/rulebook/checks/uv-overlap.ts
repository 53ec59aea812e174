import type { Blobs, Mesh } from '../../document';
import { coverUv, newUvCells, overlapShare } from '../../geometry';
import { figure } from '../wording';

const known = new Map<string, number>();

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

import type { Check, Said } from '../types';

/** UVs of one part lie beside one another, not on top. */
export const uvOverlap: Check = {
  id: 'uv.overlap',
  family: 'uv',
  stage: 'shape',
  about: 'UVs of one part lie beside one another, not on top',
  limit: 'per cent of the covered picture',
  run(context, rule) {
    return context.parts.flatMap((part): Said[] => {
      const share = part.mesh === null ? 0 : overlapOf(context.kit.meshes[part.mesh], context.blobs);
      if (100 * share <= rule.limit!) return [];
      return [
        {
          key: part.id,
          title: 'UVs on top of one another',
          message: `${figure(100 * share, 1)} % of the picture that “${part.name}” uses is used more than once.`,
          measured: `${figure(100 * share, 1)} %`,
          limit: `${figure(rule.limit!, 1)} %`,
          share: rule.limit! > 0 ? (100 * share) / rule.limit! : undefined,
          parts: [part.id],
        },
      ];
    });
  },
};
