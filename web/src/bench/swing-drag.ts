import * as THREE from 'three';
import type { Axis } from '@itchkit/core/document';

/** Below this cosine between the axis and the line of sight the turn is read from the path on the picture. */
const FACING = 0.3;

/** A part taken hold of to try its hinge: turns about one of its own axes as the pointer goes. */
export interface SwingHold {
  /** Degrees for a pointer at a place of the picture, −1 to 1 across and up. */
  degreesAt(x: number, y: number): number;
}

/**
 * Takes hold of a point of a part. The turn is the angle at the pivot, in the plane across the axis, from where it was taken hold of to
 * where the line of sight meets that plane; where the axis lies across the sight, the path of the held point is followed on the picture
 * instead.
 *
 * @param world World matrix of the part at rest, as it is drawn. @param held The point taken hold of, world. @param from The pointer, −1 to
 * 1.
 */
export function takeHold(
  camera: THREE.PerspectiveCamera,
  world: THREE.Matrix4,
  axis: Axis,
  held: THREE.Vector3,
  from: { x: number; y: number },
): SwingHold {
  const pivot = new THREE.Vector3().setFromMatrixPosition(world);
  const line = new THREE.Vector3().setFromMatrixColumn(world, axis).normalize();
  const sight = pivot.clone().sub(camera.position).normalize();
  const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(line, pivot);
  const caster = new THREE.Raycaster();
  const onPlane = (x: number, y: number) => {
    caster.setFromCamera(new THREE.Vector2(x, y), camera);
    return caster.ray.intersectPlane(plane, new THREE.Vector3());
  };
  const begun = onPlane(from.x, from.y);
  if (begun && Math.abs(line.dot(sight)) > FACING) {
    const first = begun.sub(pivot);
    return {
      degreesAt(x, y) {
        const now = onPlane(x, y)?.sub(pivot);
        if (!now) return 0;
        return THREE.MathUtils.radToDeg(Math.atan2(new THREE.Vector3().crossVectors(first, now).dot(line), first.dot(now)));
      },
    };
  }
  // d(picture)/d(angle) of the held point.
  const small = 1e-3;
  const turned = held.clone().sub(pivot).applyAxisAngle(line, small).add(pivot).project(camera);
  const start = held.clone().project(camera);
  const path = new THREE.Vector2((turned.x - start.x) * camera.aspect, turned.y - start.y).divideScalar(small);
  const length = Math.max(path.lengthSq(), 1e-6);
  return { degreesAt: (x, y) => THREE.MathUtils.radToDeg(((x - from.x) * camera.aspect * path.x + (y - from.y) * path.y) / length) };
}
