import { type Kit, type MemoryBlobs } from '../document';
import { chainKit, greatestDifference, withMotion, worldVertices } from '../tests/helpers';
import { asPlayed } from './as-played';

/** A hinge with an arm below, 1 m away, that turns by so many degrees at half of 2 s and back. */
function hinge(degrees: number, easing: 'curve' | 'straight' | 'hold' = 'curve'): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'post' }, { id: 'hinge', translation: [0, 1, 0] }, { id: 'arm', translation: [1, 0, 0] }]);
  return { kit: withMotion(kit, blobs, 'hinge', 'turn', 1, [0, degrees, 0], easing), blobs };
}

/** Where every vertex is as made, and as played. */
function both({ kit, blobs }: { kit: Kit; blobs: MemoryBlobs }, time: number, options = {}): [number[], number[]] {
  const { clip } = asPlayed(kit, kit.clips.clip, blobs, options);
  const played = { ...kit, clips: { clip } };
  return [worldVertices(kit, blobs, 'clip', time), worldVertices(played, blobs, 'clip', time)];
}

test('what is played is within the tolerance of what was made, at every vertex and time that is looked at', () => {
  const made = hinge(75);
  for (let i = 0; i < 60; i++) {
    const [a, b] = both(made, (2 * i + 0.41) / 60);
    expect(greatestDifference(a, b)).toBeLessThan(1.5e-3);
  }
});

test('the number that is told is the greatest one that a second look finds', () => {
  const { kit, blobs } = hinge(160);
  const loose = { toleranceDegrees: 6, toleranceLength: 0.2 };
  const { millimetres, degrees, part, time, clip } = asPlayed(kit, kit.clips.clip, blobs, loose);
  let most = 0;
  for (let i = 0; i <= 1000; i++) {
    const at = (1.9999 * i) / 1000;
    const [a, b] = [kit, { ...kit, clips: { clip } }].map((one) => worldVertices(one, blobs, 'clip', at));
    for (let v = 0; v < a.length; v += 3) most = Math.max(most, 1000 * Math.hypot(a[v] - b[v], a[v + 1] - b[v + 1], a[v + 2] - b[v + 2]));
  }
  // Corners of bounds stand a little further out than the vertices within.
  expect(millimetres).toBeGreaterThan(most * 0.97);
  expect(millimetres).toBeLessThan(most * 1.4);
  expect(degrees).toBeGreaterThan(0.5);
  expect(degrees).toBeLessThan(6.1);
  expect(part).toBe('arm');
  expect(time).toBeGreaterThan(0);
  expect(time).toBeLessThan(2);
});

test('a clip that a platform plays as it is made is off by nothing, and keeps its keys', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }]);
  const moving = withMotion(kit, blobs, 'b', 'offset', 0, [0, 3, 1], 'straight');
  const { millimetres, degrees, keys } = asPlayed(moving, moving.clips.clip, blobs);
  expect(millimetres).toBeLessThan(1e-3);
  expect(degrees).toBeLessThan(1e-6);
  expect(keys).toEqual({ made: 3, played: 3 });
});

test('a finer tolerance takes more keys and is nearer', () => {
  const { kit, blobs } = hinge(120);
  const results = [5, 1, 0.2].map((toleranceDegrees) => asPlayed(kit, kit.clips.clip, blobs, { toleranceDegrees, toleranceLength: 1 }));
  for (let i = 1; i < results.length; i++) {
    expect(results[i].keys.played).toBeGreaterThan(results[i - 1].keys.played);
    expect(results[i].millimetres).toBeLessThan(results[i - 1].millimetres);
  }
});

test('a part that is turned and sized at rest plays the same from where it rests', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2], scale: [2, 1, 0.5] },
    { id: 'b', translation: [0, 1, 0], rotation: [Math.SQRT1_2, 0, 0, Math.SQRT1_2], scale: [1, 3, 1] },
  ]);
  const made = { kit: withMotion(withMotion(kit, blobs, 'b', 'turn', 2, [0, 50, -20]), blobs, 'b', 'size', 1, [1, 0.5, 1]), blobs };
  for (const time of [0, 0.33, 0.9, 1.41, 1.99]) {
    const [a, b] = both(made, time);
    expect(greatestDifference(a, b)).toBeLessThan(5e-3);
  }
});

test('a jump stays a jump: just before it nothing has moved', () => {
  const [a, b] = both(hinge(90, 'hold'), 0.995);
  expect(greatestDifference(a, b)).toBeLessThan(1e-6);
  const after = both(hinge(90, 'hold'), 1.005);
  expect(greatestDifference(...after)).toBeLessThan(1e-5);
});
