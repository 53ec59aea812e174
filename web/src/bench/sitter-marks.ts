import * as THREE from 'three';
import type { Tokens } from '../theme/tokens';
import { makeLabel } from './label';

/** Half outline of somebody who sits, from the side, metres: ahead and up from the seat. */
const SITTING: [number, number][] = [
  [-0.12, 0],
  [-0.14, 0.5],
  [-0.06, 0.56],
  [-0.08, 0.64],
  [-0.1, 0.76],
  [0, 0.84],
  [0.1, 0.76],
  [0.08, 0.64],
  [0.04, 0.56],
  [0.1, 0.48],
  [0.12, 0.16],
  [0.42, 0.16],
  [0.48, 0.1],
  [0.44, -0.36],
  [0.54, -0.42],
  [0.36, -0.42],
  [0.34, 0],
];

/** A paper person on a seat, in the seat's own axes: up is y, ahead is z. With a number, where there is one. */
export function sitterMarks(number: string, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const shape = new THREE.Shape(SITTING.map(([z, y]) => new THREE.Vector2(z, y)));
  const sheet = new THREE.Mesh(new THREE.ShapeGeometry(shape), new THREE.MeshBasicMaterial({ color: tokens.card, side: THREE.DoubleSide }));
  const edge = SITTING.map(([z, y]) => new THREE.Vector3(z, y, 0.002));
  const outline = new THREE.Line(
    new THREE.BufferGeometry().setFromPoints([...edge, edge[0]]),
    new THREE.LineBasicMaterial({ color: tokens.ink }),
  );
  const side = new THREE.Group();
  side.add(sheet, outline);
  side.rotation.y = -Math.PI / 2;
  group.add(side);
  if (number !== '') {
    const label = makeLabel(number, tokens.ink, tokens.card, 13, true);
    label.position.set(0, 1.02, 0);
    group.add(label);
  }
  return group;
}
