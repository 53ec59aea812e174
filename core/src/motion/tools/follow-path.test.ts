import { callOf, type KeyTrack, type Kit, type Vec3 } from '../../document';
import { chainKit, run, withMotion } from '../../tests/helpers';
import { sampleKeys } from '../sampler';
import { followPath, type SpeedProfile } from '.';

/** A part sent through points in two seconds. */
function sent(points: Vec3[], { closed = false, bankDegrees = 0, profile = 'even' as SpeedProfile } = {}): Kit {
  const made = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }]);
  const kit = structuredClone(withMotion(made.kit, made.blobs, 'b', 'turn', 1, [0, 1]));
  kit.clips.clip.tracks = [];
  return run(
    kit,
    made.blobs,
    callOf(followPath, {
      clip: 'clip',
      part: 'b',
      points,
      closed,
      from: 0,
      to: 2,
      profile,
      facing: true,
      bankDegrees,
      metres: 0.001,
      degrees: 0.25,
    }),
  );
}
const tracks = (kit: Kit) => kit.clips.clip.tracks as KeyTrack[];
const valueAt = (kit: Kit, property: string, axis: number, time: number) =>
  sampleKeys(
    tracks(kit).find((track) => track.property === property && track.axis === axis)!,
    time,
  )!;

const circle = Array.from({ length: 12 }, (_, i): Vec3 => [3 * Math.sin((i / 12) * 2 * Math.PI), 1, 3 * Math.cos((i / 12) * 2 * Math.PI)]);

test('a part goes round a circle in its time, evenly, looking ahead, and leans alike all the way', () => {
  const kit = sent(circle, { closed: true, bankDegrees: 30 });
  for (const time of [0, 0.3, 0.77, 1.5, 2]) {
    const angle = Math.PI * time;
    expect(Math.abs(valueAt(kit, 'offset', 0, time) - 3 * Math.sin(angle))).toBeLessThan(0.03);
    expect(Math.abs(valueAt(kit, 'offset', 2, time) - 3 * Math.cos(angle))).toBeLessThan(0.03);
    expect(Math.abs(valueAt(kit, 'turn', 1, time) - (90 + (angle * 180) / Math.PI))).toBeLessThan(1);
    // A heading that grows is a turn to the left, and left is where +x is: it leans that way, its +x side down.
    expect(valueAt(kit, 'turn', 2, time)).toBeLessThan(-25);
  }
});

test('it leans into each turn to its own side, as far as it may in the sharpest one, and not at all where the way is straight', () => {
  // Straight ahead, a wide turn to the left, straight, and a tight one to the right.
  const way = sent(
    [
      [0, 1, 0],
      [0, 1, 3],
      [0, 1, 6],
      [3, 1, 9],
      [6, 1, 9],
      [9, 1, 9],
      [9.7, 1, 9.7],
      [9.7, 1, 13],
      [9.7, 1, 16],
    ],
    { bankDegrees: 40 },
  );
  const leans = Array.from({ length: 201 }, (_, i) => valueAt(way, 'turn', 2, i / 100));
  expect(Math.abs(leans[5])).toBeLessThan(1);
  expect(Math.max(...leans)).toBeGreaterThan(38);
  expect(Math.max(...leans)).toBeLessThan(41);
  expect(Math.min(...leans)).toBeLessThan(-5);
  expect(Math.min(...leans)).toBeGreaterThan(-30);
  expect(leans.indexOf(Math.min(...leans))).toBeLessThan(leans.indexOf(Math.max(...leans)));
  const straight = sent(
    [
      [0, 1, 0],
      [0, 1, 1],
      [0, 1, 4],
    ],
    { bankDegrees: 40 },
  );
  for (const time of [0, 0.5, 1.3, 2]) expect(Math.abs(valueAt(straight, 'turn', 2, time))).toBeLessThan(1e-6);
});

test.each(['even', 'ease-in', 'ease-out', 'ease-both'] as const)('its keys are fewer than frames and stand on them (%s)', (profile) => {
  const kit = sent(circle.slice(0, 5), { bankDegrees: 25, profile });
  expect(tracks(kit).map(({ property, axis }) => `${property} ${axis}`)).toEqual(['offset 0', 'offset 1', 'offset 2', 'turn 1', 'turn 2']);
  for (const { keys } of tracks(kit)) {
    expect(keys.length).toBeLessThan(2 * 30);
    for (const { time } of keys) expect(Math.abs(time * 30 - Math.round(time * 30))).toBeLessThan(1e-6);
  }
});

test('straight up there is no heading to take, and points at one place are refused', () => {
  const up = sent(
    [
      [0, 1, 0],
      [0, 2, 0],
      [0, 4, 0],
    ],
    { bankDegrees: 20 },
  );
  expect(valueAt(up, 'offset', 1, 2)).toBeCloseTo(3, 6);
  for (const axis of [1, 2]) expect(Math.abs(valueAt(up, 'turn', axis, 1))).toBeLessThan(1e-6);
  expect(() =>
    sent([
      [1, 1, 1],
      [1, 1, 1],
    ]),
  ).toThrow(/at one place/);
});
