import type { Call, Mesh, Part } from '../../document';
import { wrongSided, windingPlan, type Follows } from '../../geometry';
import type { Check, CheckContext, Mend, MendWay } from '../types';
import { count, nameList } from '../wording';
import { figureCache } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const known = figureCache();

/** Worked out once for the same arrays. */
function wrongOf({ blobs }: CheckContext, mesh: Mesh): number {
  const key = mesh.primitives
    .map(({ attributes: { POSITION, NORMAL }, indices }) => `${POSITION?.blob}/${NORMAL?.blob}/${indices.blob}`)
    .join(' ');
  let figure = known.get(key);
  if (figure === undefined) {
    if (known.size > 20_000) known.clear();
    known.set(key, (figure = wrongSided(mesh, blobs)));
  }
  return figure;
}

const WAYS: Record<Follows, string> = {
  normals: 'Turn the triangles to their normals',
  triangles: 'Turn the normals to their triangles',
};

/** What a way of turning does to each part, in words. */
function changesOf({ kit, blobs }: CheckContext, found: readonly Part[], follow: Follows): string[] {
  return found.flatMap((part) => {
    const { turned, normals } = windingPlan(kit.meshes[part.mesh!], blobs, follow);
    const done = [
      ...(turned > 0 ? [`${count(turned, 'triangle')} shown from the other side`] : []),
      ...(normals > 0 ? [`normals of ${count(normals, 'triangle')} turned to the side that is shown`] : []),
    ];
    return done.length > 0 ? [`${part.name}: ${done.join(', ')}`] : [];
  });
}

function mendOf(context: CheckContext, found: readonly Part[], total: number): Mend {
  const { kit, blobs } = context;
  const call = (unclear: Follows): Call => ({ operation: 'shape.turn-windings', args: { parts: idsOf(found), unclear } });
  const way = (follow: Follows): MendWay => ({ title: WAYS[follow], call: call(follow), changes: changesOf(context, found, follow) });
  const first = way('normals');
  const isUnclear = found.some((part) => windingPlan(kit.meshes[part.mesh!], blobs, 'normals').unclear > 0);
  return {
    title: `Bring ${count(total, 'triangle')} the right way round`,
    safe: false,
    call: first.call,
    changes: first.changes,
    ...(isUnclear ? { ways: [first, way('triangles')], looks: true } : {}),
  };
}

/** Solids show their outside, and triangles run the way round that their normals say. */
export const geometryWindings: Check = {
  id: 'geometry.windings',
  family: 'geometry',
  stage: 'shape',
  about: 'Solids show their outside, and triangles run the way round that their normals say',
  run(context) {
    const found = context.parts
      .map((part) => ({ part, figure: part.mesh === null ? 0 : wrongOf(context, context.kit.meshes[part.mesh]) }))
      .filter(({ figure }) => figure > 0);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const parts = found.map(({ part }) => part);
    return [
      {
        title: 'Triangles inside out',
        message: `${count(total, 'triangle is', 'triangles are')} shown from the wrong side, or shaded from it, in ${nameList(namesOf(parts))}.`,
        measured: count(total, 'triangle'),
        limit: '0',
        parts: idsOf(parts),
        mend: mendOf(context, parts, total),
      },
    ];
  },
};
