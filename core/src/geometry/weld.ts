import { putArray, readArray, type Accessor, type Blobs, type Primitive } from '../document';
import { degenerateTriangles, dropTriangles, dropUnused } from './surfaces';

/**
 * Makes one vertex of those that stand within a distance and are alike in all else (normals, UVs, colours, weights, morph targets): the
 * first stays where it is. Cells of the distance's size are looked up, so that the time grows with the number of vertices. Triangles that
 * lose their area go.
 *
 * @param distance Metres in the mesh's own axes; 0 welds what stands at the very same place.
 */
export function weldPrimitive(primitive: Primitive, distance: number, blobs: Blobs): Primitive {
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const alike = lookOf(primitive, blobs);
  const cell = distance > 0 ? distance : 1e-12;
  const cells = new Map<string, number[]>();
  const first = new Uint32Array(positions.length / 3);
  let welded = 0;
  for (let v = 0; v < first.length; v++) {
    const [x, y, z] = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    const near = distance > 0 ? [-1, 0, 1] : [0];
    const [i, j, k] = distance > 0 ? [Math.floor(x / cell), Math.floor(y / cell), Math.floor(z / cell)] : [x + 0, y + 0, z + 0];
    let found = -1;
    for (const a of near)
      for (const b of near)
        for (const c of near) {
          if (found >= 0) continue;
          found =
            cells
              .get(`${i + a},${j + b},${k + c}`)
              ?.find(
                (other) =>
                  Math.hypot(positions[3 * other] - x, positions[3 * other + 1] - y, positions[3 * other + 2] - z) <= distance &&
                  alike(other, v),
              ) ?? -1;
        }
    first[v] = found >= 0 ? found : v;
    if (found >= 0) welded++;
    else {
      const key = `${i},${j},${k}`;
      const list = cells.get(key);
      if (list) list.push(v);
      else cells.set(key, [v]);
    }
  }
  if (welded === 0) return primitive;
  const made = {
    ...primitive,
    indices: putArray(
      blobs,
      indices.map((vertex) => first[vertex]),
      1,
    ),
  };
  return dropUnused(dropTriangles(made, degenerateTriangles(made, blobs), blobs), blobs);
}

/** Normals and weights may differ in their last digits. */
const NEAR = 1e-5;

function lookOf(primitive: Primitive, blobs: Blobs): (a: number, b: number) => boolean {
  const all: [string, Accessor][] = [
    ...Object.entries(primitive.attributes),
    ...(primitive.targets ?? []).flatMap((target) => Object.entries(target)),
  ];
  const rows = all
    .filter(([semantic, accessor]) => accessor !== primitive.attributes.POSITION || semantic !== 'POSITION')
    .map(([, accessor]) => ({ values: readArray(blobs, accessor), size: accessor.size }));
  return (a, b) =>
    rows.every(({ values, size }) => {
      for (let k = 0; k < size; k++) if (Math.abs(values[size * a + k] - values[size * b + k]) > NEAR) return false;
      return true;
    });
}
