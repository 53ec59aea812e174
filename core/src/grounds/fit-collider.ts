import { cornersOfBox, moveShape, type Blobs, type ColliderShape, type Id, type Kit, type Vec3 } from '../document';
import { emptyBounds, growBounds, invertMatrix, isEmptyBounds, posedVertices, restWorlds, transformPoint } from '../geometry';
import { hullFaces, outsideOf, surfaceOf } from './collider-shapes';

/** What is thinner than this is this thick, metres: visitors would walk through a sheet. */
const THINNEST = 0.02;
/** A hull has at most as many corners. */
const MOST_CORNERS = 64;
/** Of more points than these only those furthest out in so many directions are looked at. */
const MANY_POINTS = 4000;
const MANY_DIRECTIONS = 400;

/** Every vertex that a part shows at rest, in its own axes: what is deformed as it is drawn. Three numbers each. */
export function ownPoints(kit: Kit, blobs: Blobs, id: Id): Float64Array {
  const worlds = restWorlds(kit);
  const points = posedVertices(kit, blobs, kit.parts[id], (one) => worlds.get(one)!);
  const inverse = invertMatrix(Float64Array.from(worlds.get(id)!));
  if (!inverse) return new Float64Array(0);
  for (let i = 0; i < points.length; i += 3) points.set(transformPoint(inverse, points.subarray(i, i + 3)), i);
  return points;
}

const pointsIn = (numbers: ArrayLike<number>): Vec3[] =>
  Array.from({ length: numbers.length / 3 }, (_, i): Vec3 => [numbers[3 * i], numbers[3 * i + 1], numbers[3 * i + 2]]);

/**
 * A shape closely about some points: the box along the axes; the capsule along the longest of its sides, through its middle, as wide as is
 * needed; the convex hull. Null where there are no points.
 *
 * @param points Three numbers each, metres.
 */
export function fitShape(points: Float64Array, shape: ColliderShape['shape']): ColliderShape | null {
  const bounds = emptyBounds();
  growBounds(bounds, points);
  if (isEmptyBounds(bounds)) return null;
  const at = bounds.min.map((value, axis) => (value + bounds.max[axis]) / 2) as Vec3;
  const size = bounds.min.map((value, axis) => Math.max(THINNEST, bounds.max[axis] - value)) as Vec3;
  if (shape === 'box') return { shape, at, size };
  return shape === 'capsule' ? capsuleAbout(points, at, size) : hullAbout(points, { shape: 'box', at, size });
}

function capsuleAbout(points: Float64Array, at: Vec3, size: Vec3): ColliderShape {
  const long = size.indexOf(Math.max(...size));
  let radius = THINNEST / 2;
  for (let i = 0; i < points.length; i += 3)
    radius = Math.max(radius, Math.hypot(...[0, 1, 2].map((axis) => (axis === long ? 0 : points[i + axis] - at[axis]))));
  // The core ends where every point is within the round of its end.
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    const off = Math.hypot(...[0, 1, 2].map((axis) => (axis === long ? 0 : points[i + axis] - at[axis])));
    const cap = Math.sqrt(Math.max(0, radius * radius - off * off));
    low = Math.min(low, points[i + long] + cap);
    high = Math.max(high, points[i + long] - cap);
  }
  if (low > high) low = high = (low + high) / 2;
  const end = (value: number): Vec3 => at.map((middle, axis) => (axis === long ? value : middle)) as Vec3;
  return { shape: 'capsule', from: end(low), to: end(high), radius };
}

/**
 * Of some points those furthest out in so many even directions (the golden angle on a sphere: Vogel 1979), as they are even where all sides
 * are made equally long.
 */
function furthestOut(points: readonly Vec3[], directions: number, [sx, sy, sz]: Vec3): Vec3[] {
  const chosen = new Set<Vec3>();
  for (let i = 0; i < directions; i++) {
    const y = 1 - (2 * i + 1) / directions;
    const angle = 2.399963229728653 * i;
    const r = Math.sqrt(1 - y * y);
    const [dx, dz] = [r * Math.cos(angle), r * Math.sin(angle)];
    let best = points[0];
    let most = -Infinity;
    for (const point of points) {
      const far = (dx * point[0]) / sx + (y * point[1]) / sy + (dz * point[2]) / sz;
      if (far > most) [best, most] = [point, far];
    }
    chosen.add(best);
  }
  return [...chosen];
}

/**
 * The hull of points; where there are very many of them, or it would have too many corners, that of those furthest out in even directions,
 * grown about its middle until it holds the rest.
 */
function hullAbout(points: Float64Array, box: Extract<ColliderShape, { shape: 'box' }>): ColliderShape {
  const boxed: ColliderShape = { shape: 'hull', points: cornersOfBox(box) };
  const all = pointsIn(points);
  const looked = all.length > MANY_POINTS ? furthestOut(all, MANY_DIRECTIONS, box.size) : all;
  const corners = [...new Set(hullFaces(looked).flat())].map((i) => looked[i]);
  if (corners.length === 0) return boxed;
  if (corners.length <= MOST_CORNERS && looked === all) return { shape: 'hull', points: corners };
  const hull = { shape: 'hull' as const, points: furthestOut(corners, MOST_CORNERS, box.size) };
  const out = outsideOf(hull);
  const reach = -out(box.at);
  if (!(reach > 0 && Number.isFinite(reach))) return boxed;
  const grow = 1 + all.reduce((most, point) => Math.max(most, out(point)), 0) / reach;
  return {
    shape: 'hull',
    points: hull.points.map((point) => point.map((value, axis) => box.at[axis] + grow * (value - box.at[axis])) as Vec3),
  };
}

/** A shape as a box whose sides lie on a grid of the world, grown outward; where its part is turned off the axes, as it was. */
export function snappedBox(kit: Kit, part: Id, shape: ColliderShape, grid: number): ColliderShape {
  const world = Float64Array.from(restWorlds(kit).get(part)!);
  const inverse = invertMatrix(world);
  const there = moveShape(boxAbout(shape), (at) => transformPoint(world, at));
  if (there.shape !== 'box' || !inverse) return shape;
  const low = there.at.map((value, axis) => grid * Math.floor((value - there.size[axis] / 2) / grid + 1e-6));
  const high = there.at.map((value, axis) => grid * Math.ceil((value + there.size[axis] / 2) / grid - 1e-6));
  const at = low.map((value, axis) => (value + high[axis]) / 2) as Vec3;
  const size = low.map((value, axis) => Math.max(grid, high[axis] - value)) as Vec3;
  return moveShape({ shape: 'box', at, size }, (point) => transformPoint(inverse, point));
}

const boxAbout = (shape: ColliderShape): ColliderShape => (shape.shape === 'box' ? shape : fitShape(surfaceOf(shape), 'box')!);

/** How well a shape fits what it is for. */
export interface ColliderFit {
  /** The share of the points that are within it. */
  inside: number;
  /** How far its corners stand out of what it is for, at most, metres: to the nearest point. */
  beyond: number;
}

/** How well a shape fits some points. @param points Three numbers each, in the shape's axes. */
export function fitOf(shape: ColliderShape, points: Float64Array): ColliderFit {
  const out = outsideOf(shape);
  const all = pointsIn(points);
  const within = all.filter((point) => out(point) <= 1e-6).length;
  const bounds = emptyBounds();
  growBounds(bounds, points);
  let beyond = 0;
  // Where it stands out is measured along the axes: against the bounds of what is shown.
  for (const corner of pointsIn(surfaceOf(shape)))
    beyond = Math.max(beyond, ...corner.map((value, axis) => Math.max(bounds.min[axis] - value, value - bounds.max[axis])));
  return { inside: all.length > 0 ? within / all.length : 0, beyond: Number.isFinite(beyond) ? beyond : 0 };
}
