import { putArray, readArray, type Accessor, type Blobs, type Primitive } from '../document';
import { weldedPlaces } from './mesh-figures';
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
  const first = firstWithin(positions, distance, alike);
  const welded = first.reduce((sum, one, v) => sum + Number(one !== v), 0);
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

/**
 * For every vertex the first one within a distance that is like it, or itself. Only those that stand for themselves are compared with, so
 * that a chain of near vertices does not run together.
 */
function firstWithin(positions: Float32Array, distance: number, alike: (a: number, b: number) => boolean): Uint32Array {
  const cells = distance > 0 ? cellsAround(positions, distance) : cellsOfPlaces(positions);
  const first = new Uint32Array(positions.length / 3);
  const lists = new Map<number, number[]>();
  for (let v = 0; v < first.length; v++) {
    const near = (other: number) => placeDistance(positions, other, v) <= distance && alike(other, v);
    let found: number | undefined;
    for (const cell of cells(v)) {
      found = lists.get(cell)?.find(near);
      if (found !== undefined) break;
    }
    first[v] = found ?? v;
    if (found !== undefined) continue;
    const [own] = cells(v);
    const list = lists.get(own);
    if (list) list.push(v);
    else lists.set(own, [v]);
  }
  return first;
}

function placeDistance(positions: Float32Array, a: number, b: number): number {
  return Math.hypot(
    positions[3 * a] - positions[3 * b],
    positions[3 * a + 1] - positions[3 * b + 1],
    positions[3 * a + 2] - positions[3 * b + 2],
  );
}

type Cells = (vertex: number) => readonly number[];

function cellsOfPlaces(positions: Float32Array): Cells {
  const places = weldedPlaces(positions);
  return (vertex) => [places[vertex]];
}

/**
 * The cells, as wide as the distance, of a vertex: its own first, then the 26 around it. Numbered by a hash (Teschner and others 2003), so
 * that two far apart may share a number; who asks compares distances.
 */
function cellsAround(positions: Float32Array, distance: number): Cells {
  return (vertex) => {
    const at = [0, 1, 2].map((axis) => Math.floor(positions[3 * vertex + axis] / distance));
    return STEPS.map(([x, y, z]) => Math.imul(at[0] + x, 73856093) ^ Math.imul(at[1] + y, 19349663) ^ Math.imul(at[2] + z, 83492791));
  };
}

const STEPS = [0, 1, -1].flatMap((x) => [0, 1, -1].flatMap((y) => [0, 1, -1].map((z) => [x, y, z] as const)));

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
