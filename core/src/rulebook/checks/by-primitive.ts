import type { Blobs, Part, Primitive } from '../../document';
import type { CheckContext } from '../types';

const caches: Map<string, number>[] = [];

/** Forgets every figure: for benchmarks, which want to see them worked out. */
export function forgetFigures(): void {
  for (const cache of caches) cache.clear();
}

/** A store of figures by the names of what they were worked out from. */
export function figureCache(): Map<string, number> {
  const cache = new Map<string, number>();
  caches.push(cache);
  return cache;
}

export type Measure = (primitive: Primitive, blobs: Blobs) => number;

/**
 * A figure worked out once for each primitive's arrays: the same arrays are measured again at every edit otherwise.
 * The arrays are named by their contents, so a figure never grows stale.
 *
 * @param attributes What is measured besides POSITION and the indices.
 */
export function memoByArrays(measure: Measure, ...attributes: string[]): Measure {
  const known = figureCache();
  return (primitive, blobs) => {
    const key = `${primitive.attributes.POSITION?.blob}/${attributes.map((name) => primitive.attributes[name]?.blob).join('/')}/${primitive.indices.blob}`;
    let figure = known.get(key);
    if (figure === undefined) {
      if (known.size > 20_000) known.clear();
      figure = measure(primitive, blobs);
      known.set(key, figure);
    }
    return figure;
  };
}

/** Figures of a part's primitives, added up or, with `most`, the greatest of them. */
export function figureOf({ kit, blobs }: CheckContext, part: Part, measure: Measure, most = false): number {
  if (part.mesh === null) return 0;
  return kit.meshes[part.mesh].primitives.reduce(
    (sum, primitive) => (most ? Math.max(sum, measure(primitive, blobs)) : sum + measure(primitive, blobs)),
    0,
  );
}

/** Parts whose mesh has a figure above 0, with the sum over its primitives. */
export function partsWith(context: CheckContext, measure: Measure, parts: Part[] = context.parts): { part: Part; figure: number }[] {
  return parts.map((part) => ({ part, figure: figureOf(context, part, measure) })).filter(({ figure }) => figure > 0);
}
