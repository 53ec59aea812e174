import * as THREE from 'three';
import type { Bounds } from '@itchkit/core/geometry';
import type { Tokens } from '../theme/tokens';
import { makeLabel } from './label';

export interface SizeMarks {
  bounds: Bounds;
  tileMetres: number;
  footprint: boolean;
  /** One of the target's size classes: its name and its most to the side, up and forward, metres. */
  ghost: { name: string; max: [number, number, number] } | null;
}

const NEAR = 1e-6;

/**
 * The fewest whole tiles that bounds stand on. An even number of them meets in the origin where it can, an odd number has it in the middle
 * of one. In tiles from the origin, first and last border.
 */
export function tilesUnder({ min, max }: Bounds, tile: number): { x: [number, number]; z: [number, number] } {
  const range = (axis: 0 | 2): [number, number] => {
    const [low, high] = [min[axis] / tile, max[axis] / tile];
    for (let count = Math.max(1, Math.ceil(high - low - NEAR)); ; count++) {
      for (const half of count % 2 === 0 ? [0, 0.5] : [0.5, 0]) {
        const first = Math.floor(low - half + NEAR) + half;
        if (first + count >= high - NEAR) return [first, first + count];
      }
    }
  };
  return { x: range(0), z: range(2) };
}

/** The tiles under the kit as a plane, and a size class as a box around it. */
export function sizeMarks({ bounds, tileMetres, footprint, ghost }: SizeMarks, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  if (footprint) {
    const { x, z } = tilesUnder(bounds, tileMetres);
    const [width, depth] = [(x[1] - x[0]) * tileMetres, (z[1] - z[0]) * tileMetres];
    const middle = new THREE.Vector3(
      ((x[0] + x[1]) / 2) * tileMetres,
      Math.min(0, bounds.min[1]) + 0.001,
      ((z[0] + z[1]) / 2) * tileMetres,
    );
    const plane = new THREE.Mesh(
      new THREE.PlaneGeometry(width, depth),
      new THREE.MeshBasicMaterial({ color: tokens.sea, transparent: true, opacity: 0.16, side: THREE.DoubleSide, depthWrite: false }),
    );
    plane.rotation.x = -Math.PI / 2;
    plane.position.copy(middle);
    group.add(plane);
    const label = makeLabel(`${x[1] - x[0]} × ${z[1] - z[0]} tiles`, tokens.sea, tokens.card, 15);
    label.position.set(x[1] * tileMetres, middle.y, z[1] * tileMetres);
    group.add(label);
    for (let i = x[0]; i <= x[1]; i++)
      group.add(edge([i * tileMetres, middle.y, z[0] * tileMetres], [i * tileMetres, middle.y, z[1] * tileMetres], tokens.sea));
    for (let i = z[0]; i <= z[1]; i++)
      group.add(edge([x[0] * tileMetres, middle.y, i * tileMetres], [x[1] * tileMetres, middle.y, i * tileMetres], tokens.sea));
  }
  if (ghost) {
    const [width, height, depth] = ghost.max;
    const box = new THREE.LineSegments(
      new THREE.EdgesGeometry(new THREE.BoxGeometry(width, height, depth)),
      new THREE.LineDashedMaterial({ color: tokens.note, dashSize: width / 30, gapSize: width / 50 }),
    );
    box.computeLineDistances();
    box.position.set((bounds.min[0] + bounds.max[0]) / 2, bounds.min[1] + height / 2, (bounds.min[2] + bounds.max[2]) / 2);
    group.add(box);
    const label = makeLabel(`${ghost.name}: ${ghost.max.join(' × ')} m`, tokens.note, tokens.card, 15);
    label.position.set(box.position.x, bounds.min[1] + height, box.position.z);
    group.add(label);
  }
  return group;
}

function edge(from: [number, number, number], to: [number, number, number], colour: string): THREE.Line {
  return new THREE.Line(
    new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(...from), new THREE.Vector3(...to)]),
    new THREE.LineBasicMaterial({ color: colour }),
  );
}
