import type * as THREE from 'three';
import { emptyKit, newPart, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { SkeletonLines } from './skeleton-lines';

function chain(): Kit {
  const kit = emptyKit('chain');
  const hip = newPart({ name: 'hip', role: 'joint', translation: [0, 1, 0] });
  const knee = newPart({ name: 'knee', role: 'joint', parent: hip.id, translation: [0, -0.5, 0] });
  const tip = newPart({ name: 'tip', role: 'marker', parent: knee.id, translation: [0, -0.4, 0] });
  const stone = newPart({ name: 'stone' });
  for (const part of [hip, knee, tip, stone]) kit.parts[part.id] = part;
  return kit;
}

const positions = (object: THREE.Object3D) =>
  [...(object as THREE.Points).geometry.getAttribute('position').array].map((value) => Math.round(value * 1e4) / 1e4 + 0);

test('a line from every joint and tip to its parent, a dot a joint, following the pose', () => {
  const kit = chain();
  const poser = new Poser(flattenParts(kit));
  const skeleton = new SkeletonLines();
  skeleton.setKit(kit, poser);
  const [lines, dots] = skeleton.object.children;
  expect(positions(dots)).toEqual([0, 1, 0, 0, 0.5, 0]);
  expect(positions(lines)).toEqual([0, 0.5, 0, 0, 1, 0, 0, 0.1, 0, 0, 0.5, 0]);
  const hip = poser.flat.ids.findIndex((id) => kit.parts[id].name === 'hip');
  poser.pose.turn[3 * hip + 2] = 90;
  poser.update();
  skeleton.place(poser);
  expect(positions(dots)).toEqual([0, 1, 0, 0.5, 1, 0]);
  skeleton.dispose();
});
