import * as THREE from 'three';
import type { Id } from '@itchkit/core/document';
import type { Bounds } from '@itchkit/core/geometry';
import type { Tokens } from '../theme/tokens';
import type { KitScene } from './kit-scene';
import { makeLabel } from './label';

const outlines = new WeakMap<THREE.BufferGeometry, THREE.EdgesGeometry>();

/** Signal-coloured outlines of parts, drawn over them and moving with them. */
export function outlineParts(scene: KitScene, ids: readonly Id[], colour: string): THREE.Object3D[] {
  return ids.flatMap((id) =>
    scene.meshesOf(id).map((mesh) => {
      let edges = outlines.get(mesh.geometry);
      if (!edges) outlines.set(mesh.geometry, (edges = new THREE.EdgesGeometry(mesh.geometry, 35)));
      const lines = new THREE.LineSegments(edges, new THREE.LineBasicMaterial({ color: colour, depthTest: false, transparent: true }));
      lines.renderOrder = 10;
      mesh.add(lines);
      return lines;
    }),
  );
}

/** A ring with a hairline cross in the three axis colours: where a part's pivot is. */
export function pivotMark(colour: string): THREE.Group {
  const group = new THREE.Group();
  const line = (points: THREE.Vector3[], c: THREE.ColorRepresentation) => {
    const made = new THREE.Line(
      new THREE.BufferGeometry().setFromPoints(points),
      new THREE.LineBasicMaterial({ color: c, depthTest: false, transparent: true }),
    );
    made.renderOrder = 15;
    group.add(made);
  };
  const circle = Array.from({ length: 49 }, (_, i) =>
    new THREE.Vector3(Math.cos((i / 24) * Math.PI), Math.sin((i / 24) * Math.PI), 0).multiplyScalar(0.55),
  );
  const ring = new THREE.Line(
    new THREE.BufferGeometry().setFromPoints(circle),
    new THREE.LineBasicMaterial({ color: colour, depthTest: false, transparent: true }),
  );
  ring.renderOrder = 15;
  ring.onBeforeRender = (_renderer, _scene, camera) => {
    ring.quaternion.copy(group.quaternion).invert().multiply(camera.quaternion);
    ring.updateMatrixWorld();
  };
  group.add(ring);
  const axes: [THREE.Vector3, number][] = [
    [new THREE.Vector3(1, 0, 0), 0xc0392b],
    [new THREE.Vector3(0, 1, 0), 0x2e8b57],
    [new THREE.Vector3(0, 0, 1), 0x2f6fb3],
  ];
  for (const [axis, c] of axes) line([axis.clone().multiplyScalar(-1), axis.clone().multiplyScalar(1.4)], c);
  group.userData.pixels = { width: 26, height: 26, depth: true };
  return group;
}

/** Width, height and depth as drafting callouts beside a box. */
export function sizeCallouts(bounds: Bounds, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const [x0, y0, z0] = bounds.min;
  const [x1, y1, z1] = bounds.max;
  const gap = 0.05 * Math.max(x1 - x0, y1 - y0, z1 - z0);
  const dimension = (a: THREE.Vector3, b: THREE.Vector3, out: THREE.Vector3) => {
    const from = a.clone().addScaledVector(out, gap);
    const to = b.clone().addScaledVector(out, gap);
    const tick = out.clone().multiplyScalar(gap * 0.4);
    const points = [from, to, a, from.clone().add(tick), b, to.clone().add(tick)];
    const lines = new THREE.LineSegments(
      new THREE.BufferGeometry().setFromPoints(points),
      new THREE.LineBasicMaterial({ color: tokens.sea }),
    );
    group.add(lines);
    const label = makeLabel(`${from.distanceTo(to).toFixed(2)} m`, tokens.sea, tokens.card, 16, true);
    label.position.copy(from.lerp(to, 0.5)).addScaledVector(out, gap * 0.5);
    group.add(label);
  };
  const v = (x: number, y: number, z: number) => new THREE.Vector3(x, y, z);
  dimension(v(x0, y0, z1), v(x1, y0, z1), v(0, 0, 1));
  dimension(v(x1, y0, z0), v(x1, y0, z1), v(1, 0, 0));
  dimension(v(x0, y0, z0), v(x0, y1, z0), v(-1, 0, 0));
  return group;
}
