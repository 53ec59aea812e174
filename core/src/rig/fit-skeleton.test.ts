import type { Vec3 } from '../document';
import { box, together, tube } from '../tests/bodies';
import { middleAlong } from './body-lines';
import { fitSkeleton, jointsFromPins, pinsMoved } from './fit-skeleton';
import { depths, FAR, Geodesics } from './geodesic';
import { chainTemplate, SKELETON_TEMPLATES } from './templates';
import { CORE, nearestSolid, OUTSIDE, voxelAt, voxelSolid } from './voxel-solid';

/** A figure of boxes: legs, trunk, arms out to the sides, head. */
const figure = together(
  box([-0.2, 0.8, -0.1], [0.2, 1.4, 0.1], 6),
  box([0.04, 0, -0.08], [0.18, 0.82, 0.08], 6),
  box([-0.18, 0, -0.08], [-0.04, 0.82, 0.08], 6),
  box([0.18, 1.25, -0.05], [0.85, 1.36, 0.05], 6),
  box([-0.85, 1.25, -0.05], [-0.18, 1.36, 0.05], 6),
  box([-0.05, 1.38, -0.05], [0.05, 1.5, 0.05], 3),
  box([-0.1, 1.48, -0.1], [0.1, 1.75, 0.1], 4),
);
const arrays = (surface: typeof figure) => [Float32Array.from(surface.positions), Uint32Array.from(surface.indices)] as const;
const template = (id: string) => SKELETON_TEMPLATES.find((one) => one.id === id)!;

test('a box is filled as a box: inside, skin, and ways straight through', () => {
  const [positions, indices] = arrays(box([0, 0, 0], [1, 1, 1], 1));
  const solid = voxelSolid(positions, indices, 20);
  expect(solid.kind[voxelAt(solid, 0.5, 0.5, 0.5)]).toBe(CORE);
  expect(solid.kind[0]).toBe(OUTSIDE);
  const from = voxelAt(solid, 0.1, 0.5, 0.5);
  const distance = new Geodesics(solid).from([from]);
  expect((distance[voxelAt(solid, 0.9, 0.5, 0.5)] * solid.cell) / 10).toBeCloseTo(0.8, 1);
  expect((depths(solid)[voxelAt(solid, 0.5, 0.5, 0.5)] * solid.cell) / 10).toBeCloseTo(0.5, 1);
  expect(distance[0]).toBe(FAR);
  expect(nearestSolid(solid, 3, 0.5, 0.5)).toBeGreaterThan(0);
  expect(middleAlong(solid, [0.5, 0.5, 5], [0, 0, -1], null)).toBeCloseTo(4.5, 1);
  expect(middleAlong(solid, [5, 5, 5], [0, 0, -1], null)).toBeNull();
});

test('a body’s joints stand inside it, shoulders above hips, hands at the ends, both sides alike', () => {
  const { pins } = fitSkeleton(...arrays(figure), template('body-20'));
  const at = Object.fromEntries(pins.map((pin) => [pin.key, pin.at]));
  expect(pins).toHaveLength(20);
  expect(pins.filter((pin) => !pin.inside).map((pin) => pin.key)).toEqual([]);
  expect(at['head'][1]).toBeGreaterThan(at['chest'][1]);
  expect(at['chest'][1]).toBeGreaterThan(at['hips'][1]);
  expect(at['hand+'][0]).toBeGreaterThan(0.6);
  expect(at['forearm+'][0]).toBeGreaterThan(0.35);
  expect(at['forearm+'][0]).toBeLessThan(0.6);
  expect(at['shin+'][1]).toBeGreaterThan(0.3);
  expect(at['shin+'][1]).toBeLessThan(0.55);
  expect(at['ground']).toEqual([0, 0, 0]);
  for (const key of ['hand', 'shin', 'upper_arm']) expect(at[`${key}-`]).toEqual([-at[`${key}+`][0], at[`${key}+`][1], at[`${key}+`][2]]);
});

test('surfaces that lie within others move the joints little', () => {
  const [few] = [fitSkeleton(...arrays(figure), template('body-15')).pins];
  const many = together(...[0, 1, 2].map(() => figure), tube(0.05, 0.9, 1.2, 200, 40));
  const { pins } = fitSkeleton(...arrays(many), template('body-15'));
  pins.forEach((pin, i) => expect(Math.hypot(...pin.at.map((value, axis) => value - few[i].at[axis]))).toBeLessThan(0.09));
});

test('a pin that is moved stays where it was put, its twin mirrors it, neighbours on the line follow by half, others stay', () => {
  const { pins } = fitSkeleton(...arrays(figure), template('body-20'));
  const at = (list: typeof pins, key: string) => list.find((pin) => pin.key === key)!.at;
  const to: Vec3 = [0.45, 1.1, 0.1];
  const moved = pinsMoved(pins, { 'forearm+': to }, true);
  expect(at(moved, 'forearm+')).toEqual(to);
  expect(at(moved, 'forearm-')).toEqual([-0.45, 1.1, 0.1]);
  expect(at(moved, 'shin+')).toEqual(at(pins, 'shin+'));
  const by = (key: string) => at(moved, key)[1] - at(pins, key)[1];
  expect(by('upper_arm+')).toBeLessThan(0);
  expect(by('upper_arm+')).toBeGreaterThan(by('forearm+'));
  // One that was put by hand is not moved by another.
  const both = pinsMoved(pins, { 'forearm+': to, 'upper_arm+': at(pins, 'upper_arm+') }, false);
  expect(at(both, 'upper_arm+')).toEqual(at(pins, 'upper_arm+'));
  const joints = jointsFromPins(
    moved,
    (name, side) => `${name}${side === null ? '' : `.${side}`}`,
    (key) => key,
  );
  expect(joints.find(({ id }) => id === 'hand-')).toMatchObject({ name: 'hand.right', parent: 'forearm-' });
  joints.forEach(({ parent }, i) => expect(parent === null || joints.slice(0, i).some(({ id }) => id === parent)).toBe(true));
});

test('a chain runs along the longest way, evenly', () => {
  const { pins } = fitSkeleton(...arrays(tube(0.05, 0, 2, 20, 10)), chainTemplate(5), { mirrored: false });
  const heights = pins.map((pin) => pin.at[1]);
  heights.forEach((height, i) => expect(height).toBeCloseTo(i * 0.4, 0));
  // The ends are the tips of the solid, which are on its rim.
  for (const pin of pins.slice(1)) expect(Math.hypot(pin.at[0], pin.at[2])).toBeLessThan(0.04);
  expect(pins.at(-1)!.tail![1]).toBeGreaterThan(1.85);
});
