import * as THREE from 'three';
import { takeHold } from './swing-drag';

function cameraAt(x: number, y: number, z: number): THREE.PerspectiveCamera {
  const camera = new THREE.PerspectiveCamera(40, 1.5, 0.1, 100);
  camera.position.set(x, y, z);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  return camera;
}

/** Where a point that turned about the axis stands on the picture. */
const place = (camera: THREE.Camera, point: THREE.Vector3) => point.clone().project(camera);
const turned = (point: THREE.Vector3, axis: THREE.Vector3, degrees: number) =>
  point.clone().applyAxisAngle(axis, THREE.MathUtils.degToRad(degrees));

test('a door seen along its hinge follows the pointer all the way round', () => {
  const camera = cameraAt(0.4, 4, 0.2);
  const held = new THREE.Vector3(1, 0, 0.3);
  const hold = takeHold(camera, new THREE.Matrix4(), 1, held, place(camera, held));
  for (const degrees of [-120, -30, 0, 15, 90, 160]) {
    const { x, y } = place(camera, turned(held, new THREE.Vector3(0, 1, 0), degrees));
    expect(hold.degreesAt(x, y)).toBeCloseTo(degrees, 3);
  }
});

test('a door seen from the side follows the pointer where the axis lies across the sight', () => {
  const camera = cameraAt(0, 0, 5);
  const held = new THREE.Vector3(0, 0, 1);
  const hold = takeHold(camera, new THREE.Matrix4(), 1, held, place(camera, held));
  for (const degrees of [-8, 0, 8]) {
    const { x, y } = place(camera, turned(held, new THREE.Vector3(0, 1, 0), degrees));
    expect(hold.degreesAt(x, y)).toBeCloseTo(degrees, 0);
  }
});
