import type * as THREE from 'three';
import type { Id, Vec3 } from '@itchkit/core/document';
import { dot, subtract } from '@itchkit/core/geometry';

/** Where the pointer is, and what is under it. */
export interface ToolPoint {
  /** On the picture, −1 to 1 across and up. */
  place: THREE.Vector2;
  camera: THREE.PerspectiveCamera;
  /** The nearest surface under the pointer. */
  hit: { point: Vec3; normal: Vec3; part: Id } | null;
  /** Pixels from a point of the world to the pointer. */
  pixelsTo(point: Vec3): number;
  alt: boolean;
  shift: boolean;
}

/** What a drag on the bench does in a stage of its own; while it holds, the view does not turn. */
export interface BenchTool {
  /** Whether the tool takes hold. */
  down(at: ToolPoint): boolean;
  move(at: ToolPoint): void;
  up(): void;
  /** Whether the pointer looks as ever: it takes hold only of what is drawn. */
  quiet?: boolean;
  /** The pointer went over the bench without a button. */
  hover?(at: ToolPoint): void;
}

/** The line of sight under the pointer. */
export function sightAt({ camera, place }: Pick<ToolPoint, 'camera' | 'place'>): { from: Vec3; direction: Vec3 } {
  const from = camera.position;
  const far = camera.position.clone().set(place.x, place.y, 0.5).unproject(camera).sub(from).normalize();
  return { from: [from.x, from.y, from.z], direction: [far.x, far.y, far.z] };
}

/** Where the line of sight meets the plane through a point that faces the eye. */
export function onFacingPlane(at: Pick<ToolPoint, 'camera' | 'place'>, through: Vec3): Vec3 {
  const { from, direction } = sightAt(at);
  const normal = at.camera.getWorldDirection(at.camera.position.clone());
  const n: Vec3 = [normal.x, normal.y, normal.z];
  const way = dot(subtract(through, from), n) / (dot(direction, n) || 1e-9);
  return from.map((value, axis) => value + way * direction[axis]) as Vec3;
}
