import { newPart, type Easing, type Key, type Kit, type KeyTrack, type MemoryBlobs, type Track } from '../document';
import { angleBetweenQuats, quatFromTurn } from '../geometry';
import { furthest } from '../oracles/oracle';
import { plainPose, plainVertices } from '../oracles/plain-poser';
import { chainKit, greatestDifference } from '../tests/helpers';
import { bakeClip } from './bake';
import { poseOfBaked, type BakedKeys } from './baked-keys';

interface Made {
  kit: Kit;
  blobs: MemoryBlobs;
}

/** Post, arm and hand, each a metre further; what moves is given by track. */
function crane(tracks: Track[], seconds = 2, scale: [number, number, number] = [1, 1, 1]): Made {
  const { kit, blobs } = chainKit([
    { id: 'post', scale },
    { id: 'arm', translation: [1, 0, 0] },
    { id: 'hand', translation: [1, 0, 0] },
  ]);
  kit.clips.clip = { id: 'clip', name: 'clip', order: 0, lengthSeconds: seconds, rate: 30, loop: 'once', tracks };
  return { kit, blobs };
}

const keys = (
  part: string,
  property: KeyTrack['property'],
  axis: number,
  list: [time: number, value: number, easing?: Easing][],
): KeyTrack => ({
  kind: 'keys',
  id: `${part}_${property}_${axis}`,
  part,
  property,
  axis,
  keys: list.map(([time, value, easing = 'curve']): Key => ({ time, value, easing })),
});

const bake = ({ kit, blobs }: Made, options = {}) => bakeClip(kit, kit.clips.clip, blobs, options);

/** The greatest way that any vertex is off at even times, metres, by a plain poser beside the baked keys. */
function off({ kit, blobs }: Made, baked: BakedKeys[], looks = 900): number {
  const poseAt = poseOfBaked(kit, new Map(baked.map((part) => [part.part, part])));
  const { clip } = kit.clips;
  let most = 0;
  for (let i = 0; i < looks; i++) {
    const time = (clip.lengthSeconds * (i + 0.41)) / looks;
    const there = plainVertices(kit, blobs, plainPose(kit, blobs, clip, time));
    const poser = poseAt(time);
    for (const part of Object.values(kit.parts)) {
      const world = poser.worldOf(part.id);
      const own = plainVertices(kit, blobs, plainPose(kit, blobs, null, 0)).get(part.id)!;
      const rest = plainPose(kit, blobs, null, 0).worlds.get(part.id)!.clone().invert();
      const here: number[] = [];
      for (let v = 0; v < own.length; v += 3) {
        const at = [0, 4, 8, 12].map((c, k) =>
          [rest.elements[c], rest.elements[c + 1], rest.elements[c + 2]].map((e) => e * (k < 3 ? own[v + k] : 1)),
        );
        const [x, y, z] = [0, 1, 2].map((row) => at.reduce((sum, column) => sum + column[row], 0));
        for (let row = 0; row < 3; row++) here.push(world[row] * x + world[row + 4] * y + world[row + 8] * z + world[row + 12]);
      }
      most = Math.max(most, furthest(there.get(part.id)!, here));
    }
  }
  return most;
}

test.each<[string, Track[], [number, number, number]]>([
  [
    'turns of a chain that add up',
    ['post', 'arm', 'hand'].map((part) =>
      keys(part, 'turn', 2, [
        [0, 0],
        [1, 80],
        [2, -40],
      ]),
    ),
    [1, 1, 1],
  ],
  [
    'a scale at rest above',
    [
      keys('arm', 'turn', 2, [
        [0, 0],
        [1, 120],
        [2, 0],
      ]),
    ],
    [40, 40, 40],
  ],
  [
    'a size that grows above',
    [
      keys('post', 'size', 0, [
        [0, 1],
        [1, 12],
        [2, 1],
      ]),
      keys('arm', 'turn', 1, [
        [0, 0],
        [0.7, 150],
        [2, 10],
      ]),
    ],
    [1, 1, 1],
  ],
  [
    'an elastic turn',
    [
      keys('arm', 'turn', 1, [
        [0, 0, 'elastic-out'],
        [0.4, 120, 'bounce-out'],
        [2, 0],
      ]),
    ],
    [1, 1, 1],
  ],
  ['a formula', [{ kind: 'formula', id: 'f', part: 'post', property: 'turn', axis: 2, source: '60 * sin(9 * t)', gain: 1 }], [1, 1, 1]],
])('%s: every vertex keeps within a millimetre, and in curves within a hundredth of one', (_, tracks, scale) => {
  const made = crane(tracks, 2, scale);
  const baked = bake(made);
  expect(off(made, baked)).toBeLessThan(0.001);
  expect(off(made, bake(made, { toleranceLength: 6e-6, curves: 'always' }))).toBeLessThan(1e-5);
});

test('tangents of any steepness are followed', () => {
  const steep = keys('post', 'turn', 1, [
    [0, 0],
    [1, 20],
    [2, 0],
  ]);
  steep.keys = steep.keys.map((key) => ({ ...key, slopeIn: 4000, slopeOut: -4000 }));
  const made = crane([steep]);
  expect(off(made, bake(made))).toBeLessThan(0.001);
});

test('a wider tolerance takes fewer keys, and keeps to that one', () => {
  const made = crane(
    ['post', 'arm'].map((part) =>
      keys(part, 'turn', 2, [
        [0, 0],
        [0.5, 90],
        [2, -90],
      ]),
    ),
  );
  const counts = [0.0005, 0.005, 0.05].map((toleranceLength) => {
    const baked = bake(made, { toleranceLength, toleranceDegrees: 20 });
    expect(off(made, baked, 300)).toBeLessThan(toleranceLength);
    return baked.reduce((sum, { times }) => sum + times.length, 0);
  });
  expect(counts[1]).toBeLessThan(counts[0]);
  expect(counts[2]).toBeLessThan(counts[1]);
});

test('times ascend, steps take a tenth of a millisecond, and turns go no further than 90° from key to key', () => {
  const made = crane([
    keys('arm', 'turn', 2, [
      [0, 0, 'hold'],
      [0.5, 170, 'straight'],
      [1.5, -550, 'hold'],
      [2, 0],
    ]),
    keys('arm', 'shown', 0, [
      [0, 1, 'hold'],
      [1, 0, 'hold'],
    ]),
  ]);
  const [{ times, rotation, scale }] = bake(made);
  for (let i = 1; i < times.length; i++) {
    expect(times[i]).toBeGreaterThan(times[i - 1]);
    if (times[i] - times[i - 1] < 1.5e-4) continue;
    const [a, b] = [i - 1, i].map((k) => [...rotation.subarray(4 * k, 4 * k + 4)] as [number, number, number, number]);
    expect(angleBetweenQuats(a, b)).toBeLessThan(90);
  }
  for (const jump of [0.5, 1, 2]) {
    const at = times.findIndex((time) => Math.abs(time - jump) < 1e-9);
    expect(jump - times[at - 1]).toBeCloseTo(1e-4, 6);
  }
  const before = times.findIndex((time) => time >= 1) - 1;
  expect(scale[3 * before]).toBe(1);
  expect(scale[3 * (before + 1)]).toBe(0);
});

test('what plays in straight lines by itself is as many keys as were made', () => {
  const made = crane([
    keys('arm', 'offset', 1, [
      [0, 0, 'straight'],
      [0.5, 2, 'straight'],
      [2, 1, 'straight'],
    ]),
  ]);
  const [{ times }] = bake(made);
  expect(times).toEqual([0, 0.5, 2]);
});

test('a way that is a curve by itself is as many keys as were made, in curves', () => {
  const made = crane([
    keys('arm', 'offset', 1, [
      [0, 0],
      [0.5, 2],
      [2, 1],
    ]),
  ]);
  const [{ times, curves }] = bake(made, { toleranceLength: 1e-6, curves: 'fewer' });
  expect(times).toEqual([0, 0.5, 2]);
  // At an extreme a curve that never overshoots is level.
  expect(curves!.into.translation[4]).toBeCloseTo(0, 9);
  expect(curves!.out.translation[4]).toBeCloseTo(0, 9);
});

test('what goes straight stays straight where curves may be had, since they take three times the numbers', () => {
  const straight = keys('arm', 'offset', 1, [
    [0, 0, 'straight'],
    [0.5, 2, 'straight'],
    [2, 1, 'straight'],
  ]);
  const [baked] = bake(crane([straight]), { toleranceLength: 1e-6, curves: 'fewer' });
  expect(baked.times).toEqual([0, 0.5, 2]);
  expect(baked.curves).toBeUndefined();
  expect(bake(crane([straight]), { curves: 'always' })[0].curves).toBeDefined();
});

test('a step in curves is as quick as a straight one, and nothing swings beside it', () => {
  const made = crane([
    keys('arm', 'offset', 1, [
      [0, 0, 'hold'],
      [1, 1, 'curve'],
      [2, 0],
    ]),
  ]);
  const baked = bake(made, { toleranceLength: 6e-6, curves: 'always' });
  const poseAt = poseOfBaked(made.kit, new Map(baked.map((part) => [part.part, part])));
  const high = (time: number) => poseAt(time).worldOf('arm')[13];
  for (let i = 0; i < 200; i++) expect(high((i / 200) * 0.9999)).toBeCloseTo(0, 9);
  for (let i = 0; i <= 20; i++) {
    const within = high(1 - 1e-4 + (i / 20) * 1e-4);
    expect(within).toBeGreaterThanOrEqual(-1e-9);
    expect(within).toBeLessThanOrEqual(1 + 1e-9);
  }
  expect(high(1)).toBeCloseTo(1, 9);
});

test.each([undefined, 'fewer'] as const)('late in an hour keys still ascend as a file has their times (curves: %s)', (curves) => {
  const made = crane(
    [
      keys('arm', 'turn', 2, [
        [0, 0, 'hold'],
        [3500, 0, 'hold'],
        [3500.001, 400, 'curve'],
        [3500.05, -400, 'straight'],
        [3600, 0],
      ]),
    ],
    3600,
  );
  const [{ times, curves: ways }] = bake(made, { toleranceLength: 1e-5, curves });
  expect(times.at(-1)).toBe(3600);
  for (let i = 1; i < times.length; i++) expect(Math.fround(times[i])).toBeGreaterThan(Math.fround(times[i - 1]));
  for (const slope of ways?.into.rotation ?? []) expect(Number.isFinite(slope)).toBe(true);
});

test('keys stand where they are asked for', () => {
  const made = crane([
    keys('arm', 'offset', 1, [
      [0, 0, 'straight'],
      [2, 1, 'straight'],
    ]),
  ]);
  expect(bake(made, { at: [0.25, 1.5] })[0].times).toEqual([0, 0.25, 1.5, 2]);
});

test('a part of which nothing is seen and on which nothing hangs takes the turn’s own tolerance alone', () => {
  const { kit, blobs } = crane([
    keys('far', 'turn', 0, [
      [0, 0],
      [2, 90],
    ]),
  ]);
  kit.parts.far = newPart({ id: 'far', name: 'far', rotation: quatFromTurn([0, 30, 0], 'xyz') });
  const [{ times, rotation }] = bake({ kit, blobs });
  const truth = times.map((time) => plainPose(kit, blobs, kit.clips.clip, time).worlds.get('far')!);
  expect(times.length).toBeLessThan(40);
  truth.forEach((world, i) => {
    const q = [...rotation.subarray(4 * i, 4 * i + 4)];
    const [x, y, z, w] = q;
    expect(greatestDifference([1 - 2 * (y * y + z * z), 2 * (x * y + w * z)], [world.elements[0], world.elements[1]])).toBeLessThan(1e-6);
  });
});

test('a clip without tracks bakes to nothing', () => {
  expect(bake(crane([]))).toEqual([]);
});
