import * as THREE from 'three';

const corner = new THREE.Vector3();

/** The eight corners of a box. */
const eachCorner = (box: THREE.Box3, visit: (corner: THREE.Vector3) => void) => {
  for (let i = 0; i < 8; i++)
    visit(corner.set(i & 1 ? box.max.x : box.min.x, i & 2 ? box.max.y : box.min.y, i & 4 ? box.max.z : box.min.z));
};

/** Where boxes lie on the picture, −1 to 1 each way, and how far off the nearest corner is. */
function onPicture(camera: THREE.PerspectiveCamera, boxes: readonly THREE.Box3[]): THREE.Box3 {
  const seen = new THREE.Box3();
  camera.updateMatrixWorld();
  for (const box of boxes) eachCorner(box, (point) => seen.expandByPoint(point.project(camera)));
  return seen;
}

/** How often the fit is made better: it comes nearer by a factor of ten each time. */
const ROUNDS = 8;

/**
 * Stands a camera so that boxes fill as much of the picture as they may, in its middle, looked at along a way; nothing of them is cut off.
 *
 * @param way From what is looked at towards the eye. @param share Of the picture, to its edges, 0 to 1.
 * @returns What is looked at, and how far off the eye is.
 */
export function fitView(
  camera: THREE.PerspectiveCamera,
  boxes: readonly THREE.Box3[],
  way: THREE.Vector3,
  share: number,
): { target: THREE.Vector3; distance: number } {
  const sphere = boxes.reduce((all, box) => all.union(box), new THREE.Box3()).getBoundingSphere(new THREE.Sphere());
  const radius = Math.max(sphere.radius, 0.02);
  const target = sphere.center.clone();
  const along = way.clone().normalize();
  let distance = radius / Math.sin((camera.fov * Math.PI) / 360) / Math.min(1, camera.aspect);
  for (let round = 0; round < ROUNDS; round++) {
    camera.near = distance / 500;
    camera.far = distance * 50;
    camera.updateProjectionMatrix();
    camera.position.copy(target).addScaledVector(along, distance);
    camera.lookAt(target);
    const seen = onPicture(camera, boxes);
    const middle = seen.getCenter(new THREE.Vector3());
    const depth = target.clone().project(camera).z;
    const at = (x: number, y: number) => new THREE.Vector3(x, y, depth).unproject(camera);
    target.add(at(middle.x, middle.y).sub(at(0, 0)));
    const half = Math.max(seen.max.x - seen.min.x, seen.max.y - seen.min.y) / 2;
    // What is near grows faster than what is far: the eye stays clear of the boxes.
    distance = Math.max(distance * (half / share), radius * 0.2);
  }
  camera.position.copy(target).addScaledVector(along, distance);
  camera.lookAt(target);
  return { target, distance };
}
