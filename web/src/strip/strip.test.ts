import type { Clip, Key, KeyTrack } from '@itchkit/core/document';
import { seamOf } from './seam';
import { threadPath } from './thread';

const track = (property: KeyTrack['property'], values: number[]): KeyTrack => ({
  kind: 'keys',
  id: property,
  part: 'a',
  property,
  axis: 1,
  keys: values.map((value, time) => ({ time, value, easing: 'curve' })),
});
const clip = (loop: Clip['loop'], ...tracks: KeyTrack[]): Clip => ({
  id: 'c',
  name: 'c',
  order: 0,
  lengthSeconds: 2,
  rate: 30,
  loop,
  tracks,
});

test('a loop whose end meets its start has no seam, and whole turns meet', () => {
  expect(seamOf(clip('loop', track('offset', [0, 1, 0]), track('turn', [10, 200, 730])))).toBeNull();
});

test('the widest gap is named, measured against what can be seen of its kind', () => {
  const seam = seamOf(clip('loop', track('turn', [0, 1]), track('offset', [0, 0.4])))!;
  expect([seam.track!.property, seam.gap, seam.unit]).toEqual(['offset', 0.4, 'm']);
  expect(seamOf(clip('loop', track('turn', [0, 350])))!.gap).toBeCloseTo(10, 9);
});

test('clips that do not loop have no seam to mend', () => {
  for (const loop of ['once', 'hold', 'ping-pong'] as const) expect(seamOf(clip(loop, track('offset', [0, 1])))).toBeNull();
});

test('a thread has one piece between each two beads, and ends where they stand', () => {
  const keys: Key[] = (['hold', 'straight', 'curve', 'bounce', 'hold'] as const).map((easing, time) => ({ time, value: 0, easing }));
  const path = threadPath(keys, (seconds) => 100 * seconds, 20);
  expect(path.match(/M/g)).toHaveLength(4);
  for (const x of [100, 200, 300, 400]) expect(path).toMatch(new RegExp(`[HL ,]${x}(?!\\d)`));
  expect(threadPath(keys.slice(0, 1), (seconds) => seconds, 20)).toBe('');
});
