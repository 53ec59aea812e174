import { partsInOrder, type Blobs, type Kit, type Part, type Primitive } from '../../document';

/**
 * A figure worked out once for each primitive's arrays: the same arrays are measured again at every edit otherwise.
 * The arrays are named by their contents, so a figure never grows stale.
 */
export function memoByArrays(measure: (primitive: Primitive, blobs: Blobs) => number, attribute: string): (primitive: Primitive, blobs: Blobs) => number {
  const known = new Map<string, number>();
  return (primitive, blobs) => {
    const key = `${primitive.attributes.POSITION?.blob}/${primitive.attributes[attribute]?.blob}/${primitive.indices.blob}`;
    let figure = known.get(key);
    if (figure === undefined) {
      if (known.size > 20_000) known.clear();
      figure = measure(primitive, blobs);
      known.set(key, figure);
    }
    return figure;
  };
}

/** Parts whose mesh has a figure above 0, with the sum over its primitives. */
export function partsWith(kit: Kit, blobs: Blobs, measure: (primitive: Primitive, blobs: Blobs) => number): { part: Part; figure: number }[] {
  return partsInOrder(kit)
    .map((part) => ({ part, figure: part.mesh === null ? 0 : kit.meshes[part.mesh].primitives.reduce((sum, primitive) => sum + measure(primitive, blobs), 0) }))
    .filter(({ figure }) => figure > 0);
}
