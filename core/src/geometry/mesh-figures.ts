import { readArray, type Blobs, type Primitive } from '../document';

/** Figures of one primitive's arrays: what the checks of surfaces, UVs and weights count. */

const positionsOf = (primitive: Primitive, blobs: Blobs) =>
  primitive.attributes.POSITION ? readArray<Float32Array>(blobs, primitive.attributes.POSITION) : new Float32Array(0);
const indicesOf = (primitive: Primitive, blobs: Blobs) => readArray<Uint32Array>(blobs, primitive.indices);

/** Coordinates that are no numbers. */
export function notFinite(primitive: Primitive, blobs: Blobs): number {
  let count = 0;
  for (const value of positionsOf(primitive, blobs)) if (!Number.isFinite(value)) count++;
  return count;
}

/** Vertices that no triangle uses. */
export function unusedVertices(primitive: Primitive, blobs: Blobs): number {
  const used = new Uint8Array(primitive.attributes.POSITION?.count ?? 0);
  const indices = indicesOf(primitive, blobs);
  for (let i = 0; i < indices.length; i++) used[indices[i]] = 1;
  let unused = 0;
  for (let i = 0; i < used.length; i++) unused += 1 - used[i];
  return unused;
}

/** Triangles whose corners run the other way round than their vertices' normals say. */
export function flippedTriangles(primitive: Primitive, blobs: Blobs): number {
  if (!primitive.attributes.NORMAL) return 0;
  const p = positionsOf(primitive, blobs);
  const n = readArray<Float32Array>(blobs, primitive.attributes.NORMAL);
  const indices = indicesOf(primitive, blobs);
  let flipped = 0;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const a = 3 * indices[i];
    const b = 3 * indices[i + 1];
    const c = 3 * indices[i + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const dot =
      (uy * vz - uz * vy) * (n[a] + n[b] + n[c]) +
      (uz * vx - ux * vz) * (n[a + 1] + n[b + 1] + n[c + 1]) +
      (ux * vy - uy * vx) * (n[a + 2] + n[b + 2] + n[c + 2]);
    if (dot < 0) flipped++;
  }
  return flipped;
}

/** For every vertex the number of its place: vertices at the same place have the same. Open addressing over the floats' bits. */
export function weldedPlaces(positions: Float32Array): Uint32Array {
  const count = positions.length / 3;
  // Adding 0 makes −0 and 0 one.
  const clean = positions.map((value) => value + 0);
  const bits = new Uint32Array(clean.buffer);
  let size = 16;
  while (size < 2 * count) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const places = new Uint32Array(count);
  for (let v = 0; v < count; v++) {
    const x = bits[3 * v];
    const y = bits[3 * v + 1];
    const z = bits[3 * v + 2];
    let slot = (Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & (size - 1);
    for (;;) {
      const other = table[slot];
      if (other < 0) {
        table[slot] = v;
        places[v] = v;
        break;
      }
      if (bits[3 * other] === x && bits[3 * other + 1] === y && bits[3 * other + 2] === z) {
        places[v] = other;
        break;
      }
      slot = (slot + 1) & (size - 1);
    }
  }
  return places;
}

/** Edges that not exactly two triangles share, vertices at one place taken as one. */
export function openEdges(primitive: Primitive, blobs: Blobs): number {
  const places = weldedPlaces(positionsOf(primitive, blobs));
  const indices = indicesOf(primitive, blobs);
  const uses = new Map<number, number>();
  for (let i = 0; i + 2 < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const a = places[indices[i + k]];
      const b = places[indices[i + ((k + 1) % 3)]];
      if (a === b) continue;
      const key = a < b ? a * places.length + b : b * places.length + a;
      uses.set(key, (uses.get(key) ?? 0) + 1);
    }
  }
  let open = 0;
  for (const count of uses.values()) if (count !== 2) open++;
  return open;
}

const uvOf = (primitive: Primitive, blobs: Blobs) =>
  primitive.attributes.TEXCOORD_0 ? readArray<Float32Array>(blobs, primitive.attributes.TEXCOORD_0) : null;

/** A hair over the border is rounding. */
const UV_NEAR = 1e-4;

/** Vertices whose first UV lies outside the unit square. */
export function uvOutside(primitive: Primitive, blobs: Blobs): number {
  const uv = uvOf(primitive, blobs);
  let outside = 0;
  if (uv)
    for (let i = 0; i < uv.length; i += 2)
      if (uv[i] < -UV_NEAR || uv[i] > 1 + UV_NEAR || uv[i + 1] < -UV_NEAR || uv[i + 1] > 1 + UV_NEAR) outside++;
  return outside;
}

const UV_CELLS = 512;

/** Adds to every cell of a 512 × 512 map how many triangles' UVs cover its middle (edge functions with a fill rule; Pineda 1988). */
export function coverUv(primitive: Primitive, blobs: Blobs, cells: Uint8Array): void {
  const uv = uvOf(primitive, blobs);
  if (!uv) return;
  const indices = indicesOf(primitive, blobs);
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const a = 2 * indices[i];
    const b = 2 * indices[i + 1];
    const c = 2 * indices[i + 2];
    const ax = uv[a] * UV_CELLS;
    const ay = uv[a + 1] * UV_CELLS;
    const bx = uv[b] * UV_CELLS;
    const by = uv[b + 1] * UV_CELLS;
    const cx = uv[c] * UV_CELLS;
    const cy = uv[c + 1] * UV_CELLS;
    const x0 = Math.ceil(Math.min(ax, bx, cx) - 0.5);
    const x1 = Math.floor(Math.max(ax, bx, cx) - 0.5);
    if (x0 > x1) continue;
    const y0 = Math.ceil(Math.min(ay, by, cy) - 0.5);
    const y1 = Math.floor(Math.max(ay, by, cy) - 0.5);
    if (y0 > y1) continue;
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area > 0) cover(ax, ay, bx, by, cx, cy, x0, x1, y0, y1, cells);
    else if (area < 0) cover(bx, by, ax, ay, cx, cy, x0, x1, y0, y1, cells);
  }
}

/** Fills a triangle that runs counter-clockwise, within columns and rows of cells. */
function cover(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  x0: number,
  x1: number,
  y0: number,
  y1: number,
  cells: Uint8Array,
): void {
  const left = Math.max(0, x0);
  const right = Math.min(UV_CELLS - 1, x1);
  const top = Math.min(UV_CELLS - 1, y1);
  for (let y = Math.max(0, y0); y <= top; y++) {
    const py = y + 0.5;
    for (let x = left; x <= right; x++) {
      const px = x + 0.5;
      if (!isInside((bx - ax) * (py - ay) - (by - ay) * (px - ax), bx - ax, by - ay)) continue;
      if (!isInside((cx - bx) * (py - by) - (cy - by) * (px - bx), cx - bx, cy - by)) continue;
      if (!isInside((ax - cx) * (py - cy) - (ay - cy) * (px - cx), ax - cx, ay - cy)) continue;
      const cell = y * UV_CELLS + x;
      if (cells[cell] < 255) cells[cell]++;
    }
  }
}

/** A middle on an edge belongs to one of the two triangles that share it. */
function isInside(value: number, dx: number, dy: number): boolean {
  return value > 0 || (value === 0 && (dy > 0 || (dy === 0 && dx < 0)));
}

/** A square of cells over UV 0 to 1, all empty. */
export const newUvCells = () => new Uint8Array(UV_CELLS * UV_CELLS);

/** Which share of the covered cells is covered more than once, from 0 to 1. */
export function overlapShare(cells: Uint8Array): number {
  let covered = 0;
  let twice = 0;
  for (const count of cells) {
    if (count > 0) covered++;
    if (count > 1) twice++;
  }
  return covered === 0 ? 0 : twice / covered;
}

function eachWeight(primitive: Primitive, blobs: Blobs, visit: (vertex: number, sum: number, held: number) => void): void {
  const sets: ArrayLike<number>[] = [];
  for (let n = 0; primitive.attributes[`WEIGHTS_${n}`]; n++) sets.push(readArray(blobs, primitive.attributes[`WEIGHTS_${n}`]));
  if (sets.length === 0) return;
  for (let v = 0; v < sets[0].length / 4; v++) {
    let sum = 0;
    let held = 0;
    for (const set of sets) {
      for (let k = 4 * v; k < 4 * v + 4; k++) {
        sum += set[k];
        if (set[k] > 0) held++;
      }
    }
    visit(v, sum, held);
  }
}

/** The most joints that hold one vertex. */
export function mostInfluences(primitive: Primitive, blobs: Blobs): number {
  let most = 0;
  eachWeight(primitive, blobs, (_, __, held) => (most = Math.max(most, held)));
  return most;
}

/** Vertices that no joint holds. */
export function unweightedVertices(primitive: Primitive, blobs: Blobs): number {
  let count = 0;
  eachWeight(primitive, blobs, (_, sum) => (count += sum <= 0 ? 1 : 0));
  return primitive.attributes.WEIGHTS_0 ? count : (primitive.attributes.POSITION?.count ?? 0);
}

/** Held vertices whose weights do not add up to 1, by more than a thousandth. */
export function unevenSums(primitive: Primitive, blobs: Blobs): number {
  let count = 0;
  eachWeight(primitive, blobs, (_, sum) => (count += sum > 0 && Math.abs(sum - 1) > 1e-3 ? 1 : 0));
  return count;
}

/** Vertices that more than one joint holds. */
export function sharedVertices(primitive: Primitive, blobs: Blobs): number {
  let count = 0;
  eachWeight(primitive, blobs, (_, __, held) => (count += held > 1 ? 1 : 0));
  return count;
}
