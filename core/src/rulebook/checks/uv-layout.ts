import { uvLayout as layoutOf } from '../../geometry';
import type { Mesh } from '../../document';
import type { Check, CheckContext, Said } from '../types';

/** UVs lie where the platform's own picture expects them, corner by corner. */
export const uvLayout: Check = {
  id: 'uv.layout',
  family: 'uv',
  stage: 'shape',
  about: 'UVs lie where the platform’s own picture expects them, corner by corner',
  needs: ({ uv }) => (uv?.layouts?.length ? null : 'which layouts are fixed (uv.layouts)'),
  run(context) {
    const { kit, rulebook, parts } = context;
    return rulebook.uv!.layouts!.flatMap(({ part: name, fingerprint, about }): Said[] =>
      parts
        .filter((part) => part.name === name && part.mesh !== null)
        .flatMap((part): Said[] => {
          const own = layoutCached(context, kit.meshes[part.mesh!]);
          if (own === fingerprint) return [];
          return [
            {
              key: part.id,
              title: 'UV layout is not the fixed one',
              message:
                own === null
                  ? `“${name}” has no UVs. ${about}`
                  : `The UVs of “${name}” do not lie as ${rulebook.title} lays them out. ${about}`,
              measured: own ?? 'no UVs',
              limit: fingerprint,
              parts: [part.id],
            },
          ];
        }),
    );
  },
};

const known = new Map<string, string | null>();

/** Worked out once for the same arrays, which are named by what they hold. */
function layoutCached({ blobs }: CheckContext, mesh: Mesh): string | null {
  const key = mesh.primitives.map(({ attributes, indices }) => `${attributes.TEXCOORD_0?.blob}/${indices.blob}`).join(' ');
  let layout = known.get(key);
  if (layout === undefined) {
    if (known.size > 2000) known.clear();
    layout = layoutOf(mesh, blobs);
    known.set(key, layout);
  }
  return layout;
}
