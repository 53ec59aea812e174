import { weldedPlaces } from '../geometry';

/**
 * Pairs of triangles that run through one another; those that share a place are neighbours and do not count. Boxes of triangles are sorted
 * into cells about as large as a triangle; pairs in one cell are tried edge against triangle (Möller & Trumbore 1997), both ways.
 *
 * @param positions 3 numbers a vertex @param indices 3 a triangle @param most Stops there.
 */
export function crossings(positions: Float32Array, indices: ArrayLike<number>, most = 20_000): [number, number][] {
  const triangles = Math.floor(indices.length / 3);
  if (triangles === 0) return [];
  const places = weldedPlaces(positions);
  const { boxes, cell } = boxesOfTriangles(positions, indices);
  const cells = new Map<number, number[]>();
  const found: [number, number][] = [];
  const seen = new Set<number>();
  for (let t = 0; t < triangles; t++) {
    const full = eachCell(boxes, t, cell, (key) => {
      const list = cells.get(key);
      if (!list) {
        cells.set(key, [t]);
        return false;
      }
      for (const other of list) {
        if (!boxesMeet(boxes, t, boxes, other) || neighbours(places, indices, t, other)) continue;
        const pair = other * 2 ** 26 + t;
        if (seen.has(pair)) continue;
        seen.add(pair);
        if (!trianglesCross(positions, indices, t, other)) continue;
        found.push([other, t]);
        if (found.length >= most) return true;
      }
      list.push(t);
      return false;
    });
    if (full) break;
  }
  return found;
}

/** Least and greatest corner of every triangle, 6 numbers each, and a side of cells about as large as a triangle. */
function boxesOfTriangles(positions: Float32Array, indices: ArrayLike<number>): { boxes: Float32Array; cell: number } {
  const triangles = Math.floor(indices.length / 3);
  const boxes = new Float32Array(6 * triangles);
  let extents = 0;
  for (let t = 0; t < triangles; t++) {
    for (let axis = 0; axis < 3; axis++) {
      const a = positions[3 * indices[3 * t] + axis];
      const b = positions[3 * indices[3 * t + 1] + axis];
      const c = positions[3 * indices[3 * t + 2] + axis];
      boxes[6 * t + axis] = Math.min(a, b, c);
      boxes[6 * t + 3 + axis] = Math.max(a, b, c);
      extents += boxes[6 * t + 3 + axis] - boxes[6 * t + axis];
    }
  }
  return { boxes, cell: Math.max((extents / (3 * Math.max(1, triangles))) * 1.5, 1e-6) };
}

/** Calls `visit` with the number of each cell that a box lies in, until it gives true; gives whether it did. */
function eachCell(boxes: Float32Array, t: number, cell: number, visit: (key: number) => boolean): boolean {
  const low = (axis: number) => Math.floor(boxes[6 * t + axis] / cell);
  const high = (axis: number) => Math.floor(boxes[6 * t + 3 + axis] / cell);
  const [x1, y1, z1] = [high(0), high(1), high(2)];
  for (let x = low(0); x <= x1; x++)
    for (let y = low(1); y <= y1; y++)
      for (let z = low(2); z <= z1; z++) if (visit(((x + 4096) * 8192 + (y + 4096)) * 8192 + (z + 4096))) return true;
  return false;
}

/** Triangles that stay where they are, in cells, to try others against that move. */
export class StandingTriangles {
  private readonly boxes: Float32Array;
  private readonly cell: number;
  private readonly cells = new Map<number, number[]>();
  /** Of all of them, as one box. */
  private readonly bounds = Float32Array.from([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);

  /** @param positions 3 numbers a vertex @param indices 3 a triangle. */
  constructor(
    private readonly positions: Float32Array,
    private readonly indices: Uint32Array,
  ) {
    const { boxes, cell } = boxesOfTriangles(positions, indices);
    this.boxes = boxes;
    this.cell = cell;
    for (let i = 0; i < boxes.length; i += 6)
      for (let axis = 0; axis < 3; axis++) {
        this.bounds[axis] = Math.min(this.bounds[axis], boxes[i + axis]);
        this.bounds[3 + axis] = Math.max(this.bounds[3 + axis], boxes[i + 3 + axis]);
      }
    for (let t = 0; t < indices.length / 3; t++)
      eachCell(boxes, t, cell, (key) => {
        const list = this.cells.get(key);
        if (list) list.push(t);
        else this.cells.set(key, [t]);
        return false;
      });
  }

  /** Calls `met` with every triangle of others that runs through a standing one, and where, until it gives true. */
  crossedBy(positions: Float32Array, indices: Uint32Array, met: (triangle: number, x: number, y: number, z: number) => boolean): boolean {
    const { boxes } = boxesOfTriangles(positions, indices);
    const corners = new Float32Array(18);
    const seen = new Set<number>();
    for (let t = 0; t < indices.length / 3; t++) {
      if (!boxesMeet(boxes, t, this.bounds, 0)) continue;
      seen.clear();
      for (let k = 0; k < 9; k++) corners[9 + k] = positions[3 * indices[3 * t + Math.floor(k / 3)] + (k % 3)];
      const stop = eachCell(boxes, t, this.cell, (key) => {
        for (const other of this.cells.get(key) ?? []) {
          if (seen.has(other) || !boxesMeet(boxes, t, this.boxes, other)) continue;
          seen.add(other);
          for (let k = 0; k < 9; k++) corners[k] = this.positions[3 * this.indices[3 * other + Math.floor(k / 3)] + (k % 3)];
          if (eachCut(corners, SIX, 0, 1, (x, y, z) => met(t, x, y, z))) return true;
        }
        return false;
      });
      if (stop) return true;
    }
    return false;
  }
}

/** Two triangles with corners of their own. */
const SIX = Uint32Array.from([0, 1, 2, 3, 4, 5]);

function boxesMeet(boxes: Float32Array, a: number, others: Float32Array, b: number): boolean {
  for (let axis = 0; axis < 3; axis++)
    if (boxes[6 * a + axis] > others[6 * b + 3 + axis] || others[6 * b + axis] > boxes[6 * a + 3 + axis]) return false;
  return true;
}

function neighbours(places: Uint32Array, indices: ArrayLike<number>, a: number, b: number): boolean {
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) if (places[indices[3 * a + i]] === places[indices[3 * b + j]]) return true;
  return false;
}

const trianglesCross = (positions: Float32Array, indices: ArrayLike<number>, a: number, b: number): boolean =>
  eachCut(positions, indices, a, b, () => true);

/** Calls `visit` with each place where an edge of one of two triangles goes through the other, until it gives true. */
function eachCut(
  positions: Float32Array,
  indices: ArrayLike<number>,
  a: number,
  b: number,
  visit: (x: number, y: number, z: number) => boolean,
): boolean {
  for (let side = 0; side < 6; side++) {
    const [of, through] = side < 3 ? [a, b] : [b, a];
    const from = indices[3 * of + (side % 3)];
    const to = indices[3 * of + ((side + 1) % 3)];
    const t = edgeCuts(positions, from, to, indices, through);
    if (t === null) continue;
    const at = (axis: number) => positions[3 * from + axis] + t * (positions[3 * to + axis] - positions[3 * from + axis]);
    if (visit(at(0), at(1), at(2))) return true;
  }
  return false;
}

/** Where along an edge it goes through a triangle, 0 to 1; null where it does not. */
function edgeCuts(p: Float32Array, from: number, to: number, indices: ArrayLike<number>, triangle: number): number | null {
  const a = 3 * indices[3 * triangle];
  const b = 3 * indices[3 * triangle + 1];
  const c = 3 * indices[3 * triangle + 2];
  const o = 3 * from;
  const dx = p[3 * to] - p[o];
  const dy = p[3 * to + 1] - p[o + 1];
  const dz = p[3 * to + 2] - p[o + 2];
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[c] - p[a];
  const vy = p[c + 1] - p[a + 1];
  const vz = p[c + 2] - p[a + 2];
  const hx = dy * vz - dz * vy;
  const hy = dz * vx - dx * vz;
  const hz = dx * vy - dy * vx;
  const det = ux * hx + uy * hy + uz * hz;
  if (Math.abs(det) < 1e-18) return null;
  const sx = p[o] - p[a];
  const sy = p[o + 1] - p[a + 1];
  const sz = p[o + 2] - p[a + 2];
  const u = (sx * hx + sy * hy + sz * hz) / det;
  if (u <= 0 || u >= 1) return null;
  const qx = sy * uz - sz * uy;
  const qy = sz * ux - sx * uz;
  const qz = sx * uy - sy * ux;
  const v = (dx * qx + dy * qy + dz * qz) / det;
  if (v <= 0 || u + v >= 1) return null;
  const t = (vx * qx + vy * qy + vz * qz) / det;
  return t > 0 && t < 1 ? t : null;
}
