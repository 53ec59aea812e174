import { cornersOfBox, type ColliderShape, type Vec3 } from '../document';
import { cross, dot, subtract } from '../geometry';
import packaged from 'quickhull3d';

/** Corners of a shape's surface, three a triangle, in the shape's axes, metres. */
export type Corners = Float64Array;

/** The six sides of a box by its corners (bit 0 is x, 1 y, 2 z), turned outward. */
const BOX_SIDES = [
  [0, 4, 6, 2],
  [1, 3, 7, 5],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 2, 3, 1],
  [4, 5, 7, 6],
];

/** Rounds about a capsule, and rings from its middle to a pole. */
const AROUND = 16;
const RINGS = 4;

/** The surface of a collider as triangles: those of a capsule lie on it with their corners. */
export function surfaceOf(shape: ColliderShape): Corners {
  const { points, faces } = facesOf(shape);
  return Float64Array.from(
    faces.flatMap((face) => face.slice(2).flatMap((_, i) => [face[0], face[i + 1], face[i + 2]].flatMap((at) => points[at]))),
  );
}

function facesOf(shape: ColliderShape): { points: Vec3[]; faces: number[][] } {
  if (shape.shape === 'box') return { points: cornersOfBox(shape), faces: BOX_SIDES };
  const points = shape.shape === 'hull' ? shape.points : capsulePoints(shape);
  return { points, faces: hullFaces(points) };
}

// A module of the older kind: loaded as it is, what it offers stands one step further in.
const quickHull = (packaged as { default?: typeof packaged }).default ?? packaged;

/**
 * The faces of the convex hull of some points (Barber, Dobkin & Huhdanpaa 1996, by `quickhull3d`), turned outward; none where they all lie
 * in a plane.
 */
export function hullFaces(points: readonly Vec3[]): number[][] {
  if (!hasVolume(points)) return [];
  return quickHull(points as Vec3[], { skipTriangulation: false });
}

/** Whether points do not all lie in a plane, within a millionth of their size. */
export function hasVolume(points: readonly Vec3[]): boolean {
  const [origin] = points;
  if (!origin) return false;
  const rows = points.map((point) => subtract(point, origin));
  const furthest = (length: (row: Vec3) => number) => rows.reduce((best, row) => (length(row) > length(best) ? row : best), rows[0]);
  const a = furthest((row) => dot(row, row));
  const size = Math.sqrt(dot(a, a));
  const b = furthest((row) => Math.hypot(...cross(a, row)));
  const normal = cross(a, b);
  const area = Math.hypot(...normal);
  if (!(size > 0) || !(area > 1e-6 * size * size)) return false;
  return rows.some((row) => Math.abs(dot(row, normal)) / area > 1e-6 * size);
}

function capsulePoints({ from, to, radius }: Extract<ColliderShape, { shape: 'capsule' }>): Vec3[] {
  const way = subtract(to, from);
  const length = Math.hypot(...way);
  const up: Vec3 = length > 0 ? [way[0] / length, way[1] / length, way[2] / length] : [0, 1, 0];
  const other: Vec3 = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1];
  const side = cross(up, other);
  const s = Math.hypot(...side);
  const a: Vec3 = [side[0] / s, side[1] / s, side[2] / s];
  const b = cross(up, a);
  const points: Vec3[] = [];
  for (const [end, sign] of [
    [from, -1],
    [to, 1],
  ] as const) {
    for (let ring = 0; ring < RINGS; ring++) {
      const lift = (ring / RINGS) * (Math.PI / 2);
      for (let i = 0; i < AROUND; i++) {
        const angle = (2 * Math.PI * i) / AROUND;
        const [x, y, z] = [Math.cos(angle) * Math.cos(lift), Math.sin(angle) * Math.cos(lift), sign * Math.sin(lift)];
        points.push([0, 1, 2].map((axis) => end[axis] + radius * (x * a[axis] + y * b[axis] + z * up[axis])) as Vec3);
      }
    }
    points.push(end.map((value, axis) => value + sign * radius * up[axis]) as Vec3);
  }
  return points;
}

/** How far outside of a collider a place is, metres; 0 or less within. In the shape's axes. */
export function outsideOf(shape: ColliderShape): (at: ArrayLike<number>) => number {
  if (shape.shape === 'box') {
    const { at: middle, size } = shape;
    return (at) => {
      const over = [0, 1, 2].map((axis) => Math.abs(at[axis] - middle[axis]) - size[axis] / 2);
      const out = Math.hypot(...over.map((value) => Math.max(0, value)));
      return out > 0 ? out : Math.max(...over);
    };
  }
  if (shape.shape === 'capsule') {
    const { from, to, radius } = shape;
    const way = subtract(to, from);
    const length = dot(way, way);
    return (at) => {
      const u = length > 0 ? Math.min(1, Math.max(0, dot(subtract(at, from), way) / length)) : 0;
      return Math.hypot(...[0, 1, 2].map((axis) => at[axis] - from[axis] - u * way[axis])) - radius;
    };
  }
  // Of a hull it is the furthest of the planes: never more than the true distance, and of the same sign.
  const planes = planesOf(shape.points);
  return (at) => (planes.length === 0 ? Infinity : Math.max(...planes.map(({ normal, d }) => dot(normal, at) - d)));
}

function planesOf(points: readonly Vec3[]): { normal: Vec3; d: number }[] {
  return hullFaces(points).flatMap(([a, b, c]) => {
    const normal = cross(subtract(points[b], points[a]), subtract(points[c], points[a]));
    const length = Math.hypot(...normal);
    if (!(length > 0)) return [];
    const unit: Vec3 = [normal[0] / length, normal[1] / length, normal[2] / length];
    return [{ normal: unit, d: dot(unit, points[a]) }];
  });
}
