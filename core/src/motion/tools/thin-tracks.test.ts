import { callOf, newPart, putArray, type Easing, type Kit, type MemoryBlobs, type SampleTrack, type Track } from '../../document';
import { furthestOf } from '../../oracles/oracle';
import { plainPose, plainVertices } from '../../oracles/plain-poser';
import { randomKit } from '../../oracles/random-kits';
import { chainKit, run } from '../../tests/helpers';
import { trackLength } from '../track-times';
import { thinTracks } from '.';

interface Made {
  kit: Kit;
  blobs: MemoryBlobs;
}

/** Two parts, the second a metre further, with tracks over two seconds. */
function arm(make: (blobs: MemoryBlobs) => Track[], scale = 1): Made {
  const { kit, blobs } = chainKit([
    { id: 'post', scale: [scale, scale, scale] },
    { id: 'arm', translation: [1, 0, 0] },
  ]);
  kit.clips.clip = { id: 'clip', name: 'clip', order: 0, lengthSeconds: 2, rate: 30, loop: 'once', tracks: make(blobs) };
  return { kit, blobs };
}

function dense(
  blobs: MemoryBlobs,
  part: string,
  property: SampleTrack['property'],
  how: SampleTrack['interpolation'],
  rows: number[][],
): SampleTrack {
  const times = Float32Array.from(rows, (_, i) => (2 * i) / (rows.length - 1));
  const width = rows[0].length;
  return {
    kind: 'samples',
    id: `${part}_${property}`,
    part,
    property,
    interpolation: how,
    times: putArray(blobs, times, 1),
    values: putArray(blobs, Float32Array.from(rows.flat()), width),
  };
}

const thin = ({ kit, blobs }: Made, fit: 'straight' | 'curve', metres: number, degrees = 180): Made => ({
  kit: run(kit, blobs, callOf(thinTracks, { clip: 'clip', tracks: kit.clips.clip.tracks.map(({ id }) => id), fit, metres, degrees })),
  blobs,
});

/** The greatest way that a vertex is off at even times, metres. @param away From these times, where motion jumps. */
function off(a: Made, b: Made, away: readonly number[] = []): number {
  let most = 0;
  for (let i = 0; i < 500; i++) {
    const time = (2 * (i + 0.37)) / 500;
    if (away.some((jump) => Math.abs(jump - time) < 1e-3)) continue;
    const [p, q] = [a, b].map(({ kit, blobs }) => plainVertices(kit, blobs, plainPose(kit, blobs, kit.clips.clip, time)));
    most = Math.max(most, furthestOf(p, q));
  }
  return most;
}

const keysIn = ({ kit }: Made) => kit.clips.clip.tracks.reduce((sum, track) => sum + trackLength(track), 0);
const FITS = ['straight', 'curve'] as const;

test.each(FITS)('what is held stays in steps, each at its own time (%s)', (fit) => {
  const values = [0, 0, 1, 1, 1, -2, 3, 3];
  const made = arm((blobs) => [
    dense(
      blobs,
      'arm',
      'offset',
      'hold',
      values.map((value) => [value, 0, 2 * value]),
    ),
  ]);
  const after = thin(made, fit, 0.001);
  const jumps = values.map((_, i) => (2 * i) / 7);
  expect(off(made, after, jumps)).toBeLessThan(1e-6);
  const [x, z] = after.kit.clips.clip.tracks;
  for (const track of [x, z]) {
    if (track.kind !== 'keys') throw new Error('Steps are keys');
    expect(track.keys.slice(0, -1).map(({ easing }) => easing)).toEqual(track.keys.slice(0, -1).map((): Easing => 'hold'));
    expect(track.keys.slice(0, 4).map(({ time }) => time)).toEqual([
      0,
      expect.closeTo(4 / 7, 6),
      expect.closeTo(10 / 7, 6),
      expect.closeTo(12 / 7, 6),
    ]);
  }
});

test.each(FITS)('keys that are held in part keep their steps and thin what moves in between (%s)', (fit) => {
  const list = Array.from({ length: 41 }, (_, i) => ({
    time: i / 40,
    value: Math.sin(i / 12),
    easing: 'straight' as Easing,
  }));
  list[40].easing = 'hold';
  const made = arm(() => [
    {
      kind: 'keys',
      id: 'x',
      part: 'arm',
      property: 'offset',
      axis: 0,
      keys: [...list, { time: 1.5, value: -1, easing: 'hold' }, { time: 2, value: 2, easing: 'hold' }],
    },
  ]);
  const after = thin(made, fit, 0.002);
  expect(off(made, after, [1.5, 2])).toBeLessThan(0.002);
  expect(keysIn(after)).toBeLessThan(fit === 'curve' ? 14 : 38);
});

test.each(FITS)('rotations keep to the tolerance between their keys too: two keys of 120° about (1, 1, 1) (%s)', (fit) => {
  const turn = (degrees: number) => {
    const sin = Math.sin((degrees * Math.PI) / 360) / Math.sqrt(3);
    return [sin, sin, sin, Math.cos((degrees * Math.PI) / 360)];
  };
  const made = arm((blobs) => [dense(blobs, 'arm', 'rotation', 'straight', [turn(0), turn(120)])]);
  expect(off(made, thin(made, fit, 0.001))).toBeLessThan(0.001);
});

test.each(FITS)('quick turns through any direction keep to it, or stay as they were (%s)', (fit) => {
  const { random } = randomKit(5);
  const made = arm((blobs) => [
    dense(
      blobs,
      'arm',
      'rotation',
      'straight',
      Array.from({ length: 9 }, () => random.turn()),
    ),
  ]);
  const after = thin(made, fit, 0.002);
  expect(off(made, after)).toBeLessThan(0.002);
});

test('a scale above counts: at a post of twenty times the size the same tolerance takes more keys', () => {
  const wave = (blobs: MemoryBlobs) => [
    dense(
      blobs,
      'arm',
      'offset',
      'straight',
      Array.from({ length: 121 }, (_, i) => [0.2 * Math.sin(i / 9), 0, 0]),
    ),
  ];
  const [plain, large] = [arm(wave), arm(wave, 20)];
  const [a, b] = [thin(plain, 'curve', 0.004), thin(large, 'curve', 0.004)];
  expect(off(plain, a)).toBeLessThan(0.004);
  expect(off(large, b)).toBeLessThan(0.004);
  expect(keysIn(b)).toBeGreaterThan(keysIn(a));
});

test('morph targets and what joints hold are vertices too', () => {
  for (const seed of [2, 5, 8, 13, 21]) {
    const { kit, blobs } = randomKit(seed, {
      skins: true,
      kinds: ['samples', 'keys'],
      properties: ['turn', 'weight', 'offset'],
      shown: false,
    });
    const made = { kit: { ...kit, clips: { clip: { ...kit.clips.clip, lengthSeconds: 2 } } }, blobs };
    const jumps = made.kit.clips.clip.tracks.flatMap((track) => (track.kind === 'keys' ? track.keys.map(({ time }) => time) : []));
    const samples = made.kit.clips.clip.tracks.flatMap((track) =>
      track.kind === 'samples'
        ? Array.from({ length: track.times.count }, (_, i) => (kit.clips.clip.lengthSeconds * i) / (track.times.count - 1))
        : [],
    );
    expect(off(made, thin(made, 'curve', 0.003), [...jumps, ...samples])).toBeLessThan(0.003);
  }
});

test('what a person keyed sparsely is left alone, and what hides a part is', () => {
  const made = arm(() => [
    {
      kind: 'keys',
      id: 'x',
      part: 'arm',
      property: 'turn',
      axis: 0,
      keys: [
        { time: 0, value: 0, easing: 'curve' },
        { time: 2, value: 40, easing: 'curve' },
      ],
    },
    { kind: 'keys', id: 's', part: 'arm', property: 'shown', axis: 0, keys: [{ time: 0, value: 1, easing: 'hold' }] },
  ]);
  const after = thin(made, 'curve', 0.0005);
  expect(keysIn(after)).toBeLessThanOrEqual(keysIn(made));
  expect(after.kit.clips.clip.tracks.some(({ property }) => property === 'shown')).toBe(true);
  expect(off(made, after)).toBeLessThan(0.0005);
});

test('a capture of sixty frames a second becomes few keys, within the turn that is allowed as well', () => {
  const rows = Array.from({ length: 121 }, (_, i) => {
    const half = (0.6 * Math.sin(i / 20)) / 2;
    return [0, Math.sin(half), 0, Math.cos(half)];
  });
  const made = arm((blobs) => [dense(blobs, 'arm', 'rotation', 'straight', rows)]);
  made.kit.parts.tip = newPart({ id: 'tip', name: 'tip', parent: 'arm' });
  const after = thin(made, 'curve', 0.05, 0.1);
  expect(keysIn(after)).toBeLessThan(20);
  for (let i = 0; i <= 120; i++) {
    const [p, q] = [made, after].map(({ kit, blobs }) => plainPose(kit, blobs, kit.clips.clip, i / 60).worlds.get('arm')!.elements);
    const cosine = (p[0] * q[0] + p[1] * q[1] + p[2] * q[2]) / (Math.hypot(p[0], p[1], p[2]) * Math.hypot(q[0], q[1], q[2]));
    expect((Math.acos(Math.min(1, cosine)) * 180) / Math.PI).toBeLessThan(0.1);
  }
});
