import type { Solid } from './solid';

type Point = [number, number, number];
/** Distance to a surface, metres, negative inside. */
export type Distance = (x: number, y: number, z: number) => number;

/** A rounded cone between two balls. */
export function limb([ax, ay, az]: Point, ra: number, [bx, by, bz]: Point, rb: number): Distance {
  const [dx, dy, dz] = [bx - ax, by - ay, bz - az];
  const square = dx * dx + dy * dy + dz * dz;
  return (x, y, z) => {
    const u = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy + (z - az) * dz) / square));
    return Math.hypot(x - ax - u * dx, y - ay - u * dy, z - az - u * dz) - (ra + u * (rb - ra));
  };
}

/** An ellipsoid, nearly: the distance is right at the surface and in its sign. */
export function egg([cx, cy, cz]: Point, [rx, ry, rz]: Point): Distance {
  return (x, y, z) => {
    const [px, py, pz] = [(x - cx) / rx, (y - cy) / ry, (z - cz) / rz];
    const k = Math.hypot(px, py, pz);
    const g = Math.hypot(px / rx, py / ry, pz / rz);
    return g === 0 ? -Math.min(rx, ry, rz) : (k * (k - 1)) / g;
  };
}

/** Several shapes grown into one another over `soft` metres (polynomial smooth minimum). */
export function blend(soft: number, ...shapes: Distance[]): Distance {
  return (x, y, z) =>
    shapes.reduce((least, shape) => {
      const other = shape(x, y, z);
      const h = Math.max(soft - Math.abs(least - other), 0) / soft;
      return Math.min(least, other) - h * h * soft * 0.25;
    }, 1e3);
}

/** The same on both sides of x = 0. */
export const bothSides =
  (shape: Distance): Distance =>
  (x, y, z) =>
    shape(Math.abs(x), y, z);

/**
 * The surface of a shape as triangles of about one size (naive surface nets, Gibson 1998), its vertices drawn onto the surface.
 * The front and the back are laid side by side in the picture.
 */
export function meshOf(shape: Distance, min: Point, max: Point, step: number): Solid {
  // A layer of cells lies on either side of x = 0, so that both sides are cut alike.
  const low = [Math.floor(min[0] / step), Math.floor(min[1] / step), Math.floor(min[2] / step)];
  const size = [0, 1, 2].map((axis) => Math.ceil(max[axis] / step) - low[axis] + 1);
  const at = (i: number, j: number, k: number) => i + size[0] * (j + size[1] * k);
  const values = new Float64Array(size[0] * size[1] * size[2]);
  for (let k = 0; k < size[2]; k++)
    for (let j = 0; j < size[1]; j++)
      for (let i = 0; i < size[0]; i++) values[at(i, j, k)] = shape((i + low[0]) * step, (j + low[1]) * step, (k + low[2]) * step);
  const vertexOf = new Map<number, number>();
  const points: Point[] = [];
  for (let k = 0; k + 1 < size[2]; k++)
    for (let j = 0; j + 1 < size[1]; j++)
      for (let i = 0; i + 1 < size[0]; i++) {
        const point = crossing(values, at, i, j, k);
        if (!point) continue;
        vertexOf.set(at(i, j, k), points.length);
        points.push(drawn(shape, [(point[0] + low[0]) * step, (point[1] + low[1]) * step, (point[2] + low[2]) * step], step));
      }
  const triangles: number[] = [];
  const spans = [1, size[0], size[0] * size[1]];
  for (let k = 1; k + 1 < size[2]; k++)
    for (let j = 1; j + 1 < size[1]; j++)
      for (let i = 1; i + 1 < size[0]; i++) {
        const here = at(i, j, k);
        for (let axis = 0; axis < 3; axis++) {
          const inside = values[here] < 0;
          if (inside === values[here + spans[axis]] < 0) continue;
          const [u, v] = [spans[(axis + 1) % 3], spans[(axis + 2) % 3]];
          const quad = [here - u - v, here - v, here, here - u].map((cell) => vertexOf.get(cell)!);
          if (!inside) quad.reverse();
          const [a, b, c, d] = quad;
          const span = (p: number, q: number) => Math.hypot(...points[p].map((value, n) => value - points[q][n]));
          triangles.push(...(span(a, c) <= span(b, d) + 1e-9 ? [a, b, c, a, c, d] : [a, b, d, b, c, d]));
        }
      }
  return laidOut(shape, points, triangles, step, min, max);
}

function crossing(values: Float64Array, at: (i: number, j: number, k: number) => number, i: number, j: number, k: number): Point | null {
  const sum: Point = [0, 0, 0];
  let count = 0;
  for (let corner = 0; corner < 8; corner++) {
    const c = [corner & 1, (corner >> 1) & 1, corner >> 2];
    for (let axis = 0; axis < 3; axis++) {
      if (c[axis] === 1) continue;
      const d = [...c];
      d[axis] = 1;
      const [a, b] = [values[at(i + c[0], j + c[1], k + c[2])], values[at(i + d[0], j + d[1], k + d[2])]];
      if (a < 0 === b < 0) continue;
      const u = a / (a - b);
      for (let n = 0; n < 3; n++) sum[n] += [i, j, k][n] + c[n] + (n === axis ? u : 0);
      count++;
    }
  }
  return count === 0 ? null : (sum.map((value) => value / count) as Point);
}

function slope(shape: Distance, [x, y, z]: Point, step: number): Point {
  const e = step * 0.05;
  const g = [shape(x + e, y, z) - shape(x - e, y, z), shape(x, y + e, z) - shape(x, y - e, z), shape(x, y, z + e) - shape(x, y, z - e)];
  const length = Math.hypot(...g) || 1;
  return g.map((value) => value / length) as Point;
}

function drawn(shape: Distance, point: Point, step: number): Point {
  let at = point;
  for (let round = 0; round < 2; round++) {
    const off = Math.min(step / 2, Math.max(-step / 2, shape(...at)));
    const n = slope(shape, at, step);
    at = at.map((value, axis) => value - off * n[axis]) as Point;
  }
  return at;
}

/** Front and back each in a half of the picture: what both meet at is there twice. */
function laidOut(shape: Distance, points: readonly Point[], triangles: readonly number[], step: number, min: Point, max: Point): Solid {
  const out: Solid = { positions: [], normals: [], uvs: [], indices: [] };
  const made = new Map<number, number>();
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((n) => points[triangles[t + n]]);
    const [ux, uy] = [corners[1][0] - corners[0][0], corners[1][1] - corners[0][1]];
    const [vx, vy] = [corners[2][0] - corners[0][0], corners[2][1] - corners[0][1]];
    const back = ux * vy - uy * vx < 0 ? 1 : 0;
    for (let n = 0; n < 3; n++) {
      const vertex = triangles[t + n];
      const key = 2 * vertex + back;
      let index = made.get(key);
      if (index === undefined) {
        made.set(key, (index = out.positions.length / 3));
        const point = points[vertex];
        const across = (point[0] - min[0]) / (max[0] - min[0]);
        out.positions.push(...point);
        out.normals.push(...slope(shape, point, step));
        out.uvs.push(0.01 + 0.48 * (back ? 1 - across : across) + 0.5 * back, 0.99 - (0.98 * (point[1] - min[1])) / (max[1] - min[1]));
      }
      out.indices.push(index);
    }
  }
  return out;
}
