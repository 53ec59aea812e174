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
  const cell = Math.max((extents / (3 * triangles)) * 1.5, 1e-6);
  const cells = new Map<number, number[]>();
  const key = (x: number, y: number, z: number) => ((x + 4096) * 8192 + (y + 4096)) * 8192 + (z + 4096);
  const found: [number, number][] = [];
  const seen = new Set<number>();
  for (let t = 0; t < triangles; t++) {
    const low = [0, 1, 2].map((axis) => Math.floor(boxes[6 * t + axis] / cell));
    const high = [0, 1, 2].map((axis) => Math.floor(boxes[6 * t + 3 + axis] / cell));
    for (let x = low[0]; x <= high[0]; x++)
      for (let y = low[1]; y <= high[1]; y++)
        for (let z = low[2]; z <= high[2]; z++) {
          const list = cells.get(key(x, y, z));
          if (!list) {
            cells.set(key(x, y, z), [t]);
            continue;
          }
          for (const other of list) {
            if (!boxesMeet(boxes, t, other) || neighbours(places, indices, t, other)) continue;
            const pair = other * 2 ** 26 + t;
            if (seen.has(pair)) continue;
            seen.add(pair);
            if (!trianglesCross(positions, indices, t, other)) continue;
            found.push([other, t]);
            if (found.length >= most) return found;
          }
          list.push(t);
        }
  }
  return found;
}

function boxesMeet(boxes: Float32Array, a: number, b: number): boolean {
  for (let axis = 0; axis < 3; axis++)
    if (boxes[6 * a + axis] > boxes[6 * b + 3 + axis] || boxes[6 * b + axis] > boxes[6 * a + 3 + axis]) return false;
  return true;
}

function neighbours(places: Uint32Array, indices: ArrayLike<number>, a: number, b: number): boolean {
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) if (places[indices[3 * a + i]] === places[indices[3 * b + j]]) return true;
  return false;
}

function trianglesCross(positions: Float32Array, indices: ArrayLike<number>, a: number, b: number): boolean {
  for (let i = 0; i < 3; i++) {
    if (edgeCuts(positions, indices[3 * a + i], indices[3 * a + ((i + 1) % 3)], indices, b)) return true;
    if (edgeCuts(positions, indices[3 * b + i], indices[3 * b + ((i + 1) % 3)], indices, a)) return true;
  }
  return false;
}

function edgeCuts(p: Float32Array, from: number, to: number, indices: ArrayLike<number>, triangle: number): boolean {
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
  if (Math.abs(det) < 1e-18) return false;
  const sx = p[o] - p[a];
  const sy = p[o + 1] - p[a + 1];
  const sz = p[o + 2] - p[a + 2];
  const u = (sx * hx + sy * hy + sz * hz) / det;
  if (u <= 0 || u >= 1) return false;
  const qx = sy * uz - sz * uy;
  const qy = sz * ux - sx * uz;
  const qz = sx * uy - sy * ux;
  const v = (dx * qx + dy * qy + dz * qz) / det;
  if (v <= 0 || u + v >= 1) return false;
  const t = (vx * qx + vy * qy + vz * qz) / det;
  return t > 0 && t < 1;
}
