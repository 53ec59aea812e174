import type { Blobs, Id, Kit, Vec3 } from '@itchkit/core/document';
import { cross, invertMatrix, subtract, transformPoint, wholeMesh } from '@itchkit/core/geometry';
import type { PickedPoint } from '../session/ui-store';

/** Pixels within which a corner, or else the middle of an edge, is meant. */
const NEAR_VERTEX = 14;
const NEAR_EDGE = 12;

export interface SurfaceHit {
  part: Id;
  /** Counted through the part's mesh. */
  face: number;
}

/**
 * What a click on a face means: the corner near it, the middle of the edge near it, or else the middle of the face. In the part's own axes.
 *
 * @param world Of the part. @param onScreen Pixels of a point of the world, beside the click's.
 */
export function snapPoint(
  kit: Kit,
  blobs: Blobs,
  hit: SurfaceHit,
  world: ArrayLike<number>,
  distanceTo: (point: Vec3) => number,
): PickedPoint {
  const { positions, indices } = wholeMesh(kit.meshes[kit.parts[hit.part].mesh!], blobs);
  const corners = [0, 1, 2].map((k) => {
    const v = 3 * indices[3 * hit.face + k];
    return [positions[v], positions[v + 1], positions[v + 2]] as Vec3;
  });
  const middle = (points: Vec3[]) => [0, 1, 2].map((axis) => points.reduce((sum, point) => sum + point[axis], 0) / points.length) as Vec3;
  const far = (point: Vec3) => distanceTo(transformPoint(world, point));
  const nearestOf = (points: Vec3[]) => points.map(far).reduce((best, value, i, all) => (value < all[best] ? i : best), 0);
  const edges = [0, 1, 2].map((k) => middle([corners[k], corners[(k + 1) % 3]]));
  const edge = nearestOf(edges);
  const vertex = nearestOf(corners);
  const base = { part: hit.part, face: hit.face, edge };
  if (far(corners[vertex]) <= NEAR_VERTEX) return { ...base, kind: 'vertex', at: corners[vertex], along: null };
  if (far(edges[edge]) <= NEAR_EDGE)
    return { ...base, kind: 'edge', at: edges[edge], along: subtract(corners[(edge + 1) % 3], corners[edge]) };
  const normal = cross(subtract(corners[1], corners[0]), subtract(corners[2], corners[0]));
  return { ...base, kind: 'face', at: middle(corners), along: normal };
}

/** A picked point and its line in the world at rest. */
export function inWorld(world: ArrayLike<number>, { at, along }: Pick<PickedPoint, 'at' | 'along'>): { at: Vec3; along: Vec3 | null } {
  const point = transformPoint(world, at);
  if (!along) return { at: point, along: null };
  const end = transformPoint(world, at.map((value, axis) => value + along[axis]) as Vec3);
  return { at: point, along: subtract(end, point) };
}

/** A point of the world in a part's own axes. */
export function inOwnAxes(world: ArrayLike<number>, point: Vec3): Vec3 | null {
  const inverse = invertMatrix(Float64Array.from(world));
  return inverse && transformPoint(inverse, point);
}
