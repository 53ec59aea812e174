import fc from 'fast-check';
import * as d3 from 'd3-ease';
import { EASING_FAMILIES, EASING_WAYS, EASINGS, callOf, type Easing, type Id, type Key, type KeyTrack, type Kit } from '../../document';
import { chainKit, run, withMotion, worldVertices } from '../../tests/helpers';
import { keysOf } from '../../tests/keys';
import { joinClips } from '../clip-tools';
import { easingShape, turnedEasing } from '../easing';
import { sampleKeys } from '../sampler';
import { splitKeys } from '../split-keys';
import {
  allKeys,
  bakePose,
  brakeKeys,
  closeLoop,
  curveKeys,
  dwell,
  echo,
  evenOut,
  flipKeys,
  mendSeam,
  repeatKeys,
  returnTrip,
  reverseKeys,
  scaleValues,
  settle,
  shiftTracks,
  showParts,
  straightKeys,
  stretchKeys,
  strokeBias,
  sway,
  thinTracks,
  writeRecording,
} from '.';

// Each law is tried on so many cases; with a random seed it looks further.
fc.configureGlobal({ ...fc.readConfigureGlobal(), numRuns: 30 });

const SMOOTH: Easing[] = EASINGS.filter((easing) => easing !== 'hold');

function kitWith(
  keys: Key[],
  property: KeyTrack['property'] = 'turn',
  axis = 1,
): { kit: Kit; blobs: ReturnType<typeof chainKit>['blobs'] } {
  const made = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }, { id: 'c', translation: [1, 0, 0] }]);
  const kit = structuredClone(withMotion(made.kit, made.blobs, 'b', 'turn', 1, [0, 1]));
  kit.clips.clip.tracks = [{ kind: 'keys', id: 'track', part: 'b', property, axis, keys }];
  return { kit, blobs: made.blobs };
}

const trackOf = (kit: Kit, part: Id = 'b', property: string = 'turn') =>
  kit.clips.clip.tracks.find((track): track is KeyTrack => track.kind === 'keys' && track.part === part && track.property === property)!;
const chosen = (kit: Kit) => ({ clip: 'clip', keys: allKeys(kit.clips.clip.tracks) });
const at = (keys: readonly Key[], time: number) => sampleKeys({ keys: keys as Key[] }, time)!;
const TIMES = Array.from({ length: 97 }, (_, i) => (i / 96) * 2);

/** The function of time is the same, but for the instant of a jump. */
function expectSame(a: readonly Key[], b: readonly Key[], digits: number, shift = (time: number) => time): void {
  const jumps = [...a, ...b.map((key) => ({ ...key, time: key.time }))].map(({ time }) => time);
  for (const time of TIMES) {
    if (jumps.some((one) => Math.abs(one - time) < 2e-3 || Math.abs(one - shift(time)) < 2e-3)) continue;
    expect(at(b, shift(time))).toBeCloseTo(at(a, time), digits);
  }
}

test.each(EASING_FAMILIES.flatMap((family) => EASING_WAYS.map((way) => [family, way] as const)))(
  '%s %s is that of d3-ease, from 0 to 1, and its other way is it backwards',
  (family, way) => {
    const name =
      `ease${{ sine: 'Sin', quad: 'Quad', cubic: 'Cubic', back: 'Back', bounce: 'Bounce', elastic: 'Elastic' }[family]}${{ in: 'In', out: 'Out', both: 'InOut' }[way]}` as 'easeSinIn';
    const shape = easingShape(`${family}-${way}`);
    const other = easingShape(turnedEasing(`${family}-${way}`));
    for (let i = 0; i <= 100; i++) {
      expect(Math.abs(shape(i / 100) - d3[name](i / 100))).toBeLessThan(1e-9);
      expect(other(1 - i / 100)).toBeCloseTo(1 - shape(i / 100), 6);
    }
  },
);

test('a monotone curve never leaves the range of the two keys that it runs between', () => {
  fc.assert(
    fc.property(keysOf(['curve']), (keys) => {
      for (let i = 0; i + 1 < keys.length; i++) {
        const [low, high] = [Math.min(keys[i].value, keys[i + 1].value), Math.max(keys[i].value, keys[i + 1].value)];
        for (let s = 0; s <= 20; s++) {
          const value = at(keys, keys[i].time + ((keys[i + 1].time - keys[i].time) * s) / 20);
          expect(value).toBeGreaterThanOrEqual(low - 1e-9);
          expect(value).toBeLessThanOrEqual(high + 1e-9);
        }
      }
    }),
  );
});

test('a key set between others does not change the motion: exactly for holds, lines and curves', () => {
  fc.assert(
    fc.property(keysOf(['hold', 'straight', 'curve']), fc.double({ min: 0.01, max: 1.99, noNaN: true }), (keys, time) => {
      const split = splitKeys(keys, time);
      expect(split.some((key) => Math.abs(key.time - time) < 1e-6)).toBe(true);
      expectSame(keys, split, 9);
    }),
  );
});

test('reversed twice is as it was; reversed once, what is not held goes the other way', () => {
  fc.assert(
    fc.property(keysOf(), (keys) => {
      const { kit, blobs } = kitWith(keys);
      const once = run(kit, blobs, callOf(reverseKeys, chosen(kit)));
      const twice = run(once, blobs, callOf(reverseKeys, chosen(once)));
      expect(trackOf(twice).keys).toEqual(
        keys.map((key) => ({
          ...key,
          time: Number(key.time.toFixed(9)),
          easing: key.easing === 'bounce' ? expect.stringMatching(/^bounce/) : key.easing,
        })),
      );
      if (keys.slice(0, -1).every(({ easing }) => easing !== 'hold')) expectSame(keys, trackOf(once).keys, 5, (time) => 2 - time);
    }),
  );
});

test('a return trip goes there as before, comes back the same way and ends where it began', () => {
  fc.assert(
    fc.property(keysOf(SMOOTH), (keys) => {
      const { kit, blobs } = kitWith(keys);
      const next = run(kit, blobs, callOf(returnTrip, chosen(kit)));
      const there = trackOf(next).keys;
      expect(next.clips.clip.lengthSeconds).toBeCloseTo(4, 9);
      expect(at(there, 4)).toBeCloseTo(keys[0].value, 9);
      for (const time of TIMES) expect(at(there, 4 - time)).toBeCloseTo(at(there, time), 5);
      // On a curve the monotone tangent at the turning point is 0, as it was at the end.
      expectSame(keys, there, 5);
    }),
  );
});

test('evened out by time the keys stand equally far apart, with the same values in the same order', () => {
  fc.assert(
    fc.property(keysOf(), (keys) => {
      const { kit, blobs } = kitWith(keys);
      const even = trackOf(run(kit, blobs, callOf(evenOut, { ...chosen(kit), by: 'time' }))).keys;
      expect(even.map(({ value }) => value)).toEqual(keys.map(({ value }) => value));
      even.forEach((key, i) => expect(key.time).toBeCloseTo((2 * i) / (keys.length - 1), 8));
    }),
  );
});

test('evened out by speed the path stays, and equal times are equal ways along it', () => {
  fc.assert(
    fc.property(keysOf(['straight']), keysOf(['straight']), (x, y) => {
      const { kit, blobs } = kitWith(x, 'offset', 0);
      const two = structuredClone(kit);
      two.clips.clip.tracks.push({ kind: 'keys', id: 'other', part: 'b', property: 'offset', axis: 2, keys: y });
      const path = (of: Kit, time: number) => of.clips.clip.tracks.map((track) => at((track as KeyTrack).keys, time));
      const lengthsOf = (of: Kit) => {
        let before = path(of, 0);
        const sums = [0];
        for (let i = 1; i <= 2000; i++) {
          const now = path(of, i / 1000);
          sums.push(sums[i - 1] + Math.hypot(now[0] - before[0], now[1] - before[1]));
          before = now;
        }
        return (to: number) => sums[Math.round(1000 * to)];
      };
      const length = lengthsOf(two);
      const whole = length(2);
      fc.pre(whole > 1);
      const even = run(two, blobs, callOf(evenOut, { ...chosen(two), by: 'speed' }));
      const evenLength = lengthsOf(even);
      for (const share of [0.25, 0.5, 0.8]) expect(evenLength(2 * share) / whole).toBeCloseTo(share, 2);
      // Every corner of the old path is on the new one.
      for (const key of x) {
        const corner = path(two, key.time);
        const along = length(key.time) / whole;
        path(even, 2 * along).forEach((value, i) => expect(Math.abs(value - corner[i])).toBeLessThan(whole * 0.01 + 1e-6));
      }
    }),
    { numRuns: 10 },
  );
});

test('a dwell holds what was there, puts off what came after, and does nothing else', () => {
  fc.assert(
    fc.property(
      keysOf(['hold', 'straight', 'curve']),
      fc.integer({ min: 0, max: 60 }),
      fc.double({ min: 0.05, max: 3, noNaN: true }),
      (keys, frame, by) => {
        const { kit, blobs } = kitWith(keys);
        const time = frame / 30;
        const held = run(kit, blobs, callOf(dwell, { clip: 'clip', time, seconds: by }));
        const after = trackOf(held).keys;
        expect(held.clips.clip.lengthSeconds).toBeCloseTo(2 + by, 8);
        for (const moment of TIMES) {
          if (keys.some((key) => Math.abs(key.time - moment) < 1e-3) || Math.abs(moment - time) < 1e-3) continue;
          expect(at(after, moment < time ? moment : moment + by)).toBeCloseTo(at(keys, moment), 6);
        }
        expect(at(after, time + by / 2)).toBeCloseTo(at(keys, time), 6);
      },
    ),
  );
});

test('stretching and biasing strokes keeps the values in their order; stretched back it is as it was', () => {
  fc.assert(
    fc.property(
      keysOf(),
      fc.double({ min: 0.2, max: 4, noNaN: true }),
      fc.double({ min: 0.1, max: 0.9, noNaN: true }),
      (keys, factor, bias) => {
        const { kit, blobs } = kitWith(keys);
        const long = run(kit, blobs, callOf(stretchKeys, { ...chosen(kit), about: 0, factor }));
        expect(trackOf(long).keys.map(({ value }) => value)).toEqual(keys.map(({ value }) => value));
        expect(trackOf(long).keys.at(-1)!.time).toBeCloseTo(2 * factor, 8);
        const back = run(long, blobs, callOf(stretchKeys, { ...chosen(long), about: 0, factor: 1 / factor }));
        trackOf(back).keys.forEach((key, i) => expect(key.time).toBeCloseTo(keys[i].time, 6));
        const biased = trackOf(run(kit, blobs, callOf(strokeBias, { ...chosen(kit), middle: 1, bias }))).keys;
        expect(biased.map(({ value }) => value)).toEqual(keys.map(({ value }) => value));
        for (const [i, key] of keys.entries())
          expect(biased[i].time).toBeCloseTo(key.time <= 1 ? key.time * 2 * bias : 2 * bias + (key.time - 1) * 2 * (1 - bias), 8);
      },
    ),
  );
});

test('flipped twice is as it was; scaled by a factor and by its reciprocal too', () => {
  fc.assert(
    fc.property(keysOf(), fc.double({ min: 0.1, max: 9, noNaN: true }), (keys, factor) => {
      const { kit, blobs } = kitWith(keys);
      const flipped = run(kit, blobs, callOf(flipKeys, chosen(kit)));
      for (const time of TIMES) expect(at(trackOf(flipped).keys, time)).toBeCloseTo(-at(keys, time), 5);
      const back = run(flipped, blobs, callOf(flipKeys, chosen(flipped)));
      trackOf(back).keys.forEach((key, i) => expect(key.value).toBeCloseTo(keys[i].value, 12));
      const large = run(kit, blobs, callOf(scaleValues, { ...chosen(kit), factor }));
      const small = run(large, blobs, callOf(scaleValues, { ...chosen(large), factor: 1 / factor }));
      trackOf(small).keys.forEach((key, i) => expect(key.value).toBeCloseTo(keys[i].value, 9));
    }),
  );
});

test('repeated, every round is the first one again', () => {
  fc.assert(
    fc.property(keysOf(['straight', 'hold']), fc.integer({ min: 1, max: 4 }), (keys, times) => {
      const { kit, blobs } = kitWith(keys);
      const next = run(kit, blobs, callOf(repeatKeys, { ...chosen(kit), times, gapSeconds: 0.5 }));
      expect(next.clips.clip.lengthSeconds).toBeCloseTo(2 + 2.5 * times, 8);
      for (const time of TIMES)
        if (!keys.some((key) => Math.abs(key.time - time) < 1e-3))
          expect(at(trackOf(next).keys, time + 2.5 * times)).toBeCloseTo(at(keys, time), 6);
    }),
  );
});

test('shifted round a loop, the motion is the same later; all the way round it is as it was', () => {
  fc.assert(
    fc.property(keysOf(['straight', 'curve']), fc.double({ min: -3, max: 3, noNaN: true }), (loose, by) => {
      const keys = loose.map((key, i) => (i === loose.length - 1 ? { ...key, value: loose[0].value } : key));
      const { kit, blobs } = kitWith(keys);
      const later = run(kit, blobs, callOf(shiftTracks, { clip: 'clip', tracks: ['track'], bySeconds: by, wrap: true }));
      for (const time of TIMES.slice(0, -1)) expect(at(trackOf(later).keys, (((time + by) % 2) + 2) % 2)).toBeCloseTo(at(keys, time), 5);
      const round = run(later, blobs, callOf(shiftTracks, { clip: 'clip', tracks: ['track'], bySeconds: -by, wrap: true }));
      for (const time of TIMES) expect(at(trackOf(round).keys, time)).toBeCloseTo(at(keys, time), 5);
    }),
  );
});

test('an echo of gain 1 without delay is a copy; with delay and gain each part does it later and weaker', () => {
  fc.assert(
    fc.property(
      keysOf(['straight', 'curve']),
      fc.double({ min: 0.01, max: 0.5, noNaN: true }),
      fc.double({ min: 0.3, max: 1.4, noNaN: true }),
      (loose, delay, gain) => {
        const keys = loose.map((key, i) => (i === loose.length - 1 ? { ...key, value: loose[0].value } : key));
        const { kit, blobs } = kitWith(keys);
        const copy = run(kit, blobs, callOf(echo, { clip: 'clip', from: 'b', chain: ['c'], delaySeconds: 0, gain: 1 }));
        trackOf(copy, 'c').keys.forEach((key, i) =>
          expect([key.time, key.value + 0, key.easing]).toEqual([keys[i].time, keys[i].value + 0, keys[i].easing]),
        );
        const down = run(kit, blobs, callOf(echo, { clip: 'clip', from: 'b', chain: ['c', 'a'], delaySeconds: delay, gain }));
        for (const [part, depth] of [
          ['c', 1],
          ['a', 2],
        ] as const)
          for (const time of TIMES.slice(0, -1))
            expect(at(trackOf(down, part).keys, (time + depth * delay) % 2)).toBeCloseTo(gain ** depth * at(keys, time), 4);
      },
    ),
  );
});

test('closing a loop makes its seam 0, one frame after the last key, and never on it', () => {
  fc.assert(
    fc.property(keysOf(), (keys) => {
      const { kit, blobs } = kitWith(keys);
      const closed = run(kit, blobs, callOf(closeLoop, { clip: 'clip' }));
      const { lengthSeconds, loop } = closed.clips.clip;
      expect(loop).toBe('loop');
      expect(at(trackOf(closed).keys, lengthSeconds)).toBeCloseTo(at(trackOf(closed).keys, 0), 9);
      expect(lengthSeconds).toBeCloseTo(Math.abs(keys[0].value - keys[keys.length - 1].value) < 1e-6 ? 2 : 2 + 1 / 30, 8);
      // Every key that was there is there.
      for (const key of keys) expect(at(trackOf(closed).keys, key.time)).toBeCloseTo(key.value, 5);
      expect(run(closed, blobs, callOf(closeLoop, { clip: 'clip' })).clips.clip.tracks).toEqual(closed.clips.clip.tracks);
    }),
  );
});

test.each(['fade', 'spread'] as const)('a seam mended by %s meets, and what is outside of the mend stays', (by) => {
  fc.assert(
    fc.property(keysOf(['straight', 'curve']), fc.integer({ min: 3, max: 25 }), (keys, frames) => {
      const { kit, blobs } = kitWith(keys);
      const seconds = frames / 30;
      const mended = run(kit, blobs, callOf(mendSeam, { clip: 'clip', by, seconds }));
      const { lengthSeconds } = mended.clips.clip;
      const after = trackOf(mended).keys;
      expect(lengthSeconds).toBeCloseTo(by === 'fade' ? 2 - seconds : 2, 8);
      expect(at(after, lengthSeconds)).toBeCloseTo(at(after, 0), 6);
      const most = Math.max(...keys.map(({ value }) => Math.abs(value))) + 1;
      for (let frame = 0; frame <= lengthSeconds * 30 + 1e-6; frame++) {
        const time = frame / 30;
        if (by === 'fade' ? time > seconds + 1e-6 : time < 2 - seconds - 1e-6)
          expect(Math.abs(at(after, time) - at(keys, time))).toBeLessThan(most * 1e-5);
      }
    }),
  );
});

test('with brake keys a straight way follows the ease: ever nearer keys, the values on it', () => {
  const keys: Key[] = [0, 30, -10].map((value, i) => ({ time: i, value, easing: 'straight' }));
  const { kit, blobs } = kitWith(keys);
  const next = run(
    kit,
    blobs,
    callOf(brakeKeys, {
      clip: 'clip',
      keys: [{ track: 'track', time: 1 }],
      count: 4,
      reach: 0.6,
      ratio: 0.5,
      family: 'sine',
      sides: 'before',
    }),
  );
  const made = trackOf(next).keys;
  expect(made.map(({ time }) => Number(time.toFixed(4)))).toEqual([0, 0.4, 0.7, 0.85, 0.925, 1, 2]);
  for (const key of made.slice(0, 6)) expect(key.value).toBeCloseTo(30 * d3.easeSinOut(key.time), 9);
  expect(made.every(({ easing }) => easing === 'straight')).toBe(true);
});

test('what settles runs past the stop, ever less, to both sides, and rests on it', () => {
  const { kit, blobs } = kitWith([0, 40].map((value, i) => ({ time: i, value, easing: 'straight' })));
  const next = run(
    kit,
    blobs,
    callOf(settle, { clip: 'clip', keys: [{ track: 'track', time: 1 }], share: 0.25, swings: 3, decay: 0.5, seconds: 0.8 }),
  );
  const after = trackOf(next)
    .keys.filter(({ time }) => time > 1)
    .map(({ value }) => value);
  expect(after).toEqual([50, 35, 42.5, 40]);
  expect(() =>
    run(
      kit,
      blobs,
      callOf(settle, { clip: 'clip', keys: [{ track: 'track', time: 0 }], share: 0.25, swings: 3, decay: 0.5, seconds: 0.8 }),
    ),
  ).toThrow(/stop/);
});

test('sway is the same for the same seed, keeps within its strength, meets itself in a loop and has no quicker wave than asked', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), fc.double({ min: 0.5, max: 3, noNaN: true }), (seed, high) => {
      const { kit, blobs } = kitWith([{ time: 0, value: 5, easing: 'hold' }]);
      const args = { clip: 'clip', parts: ['b'], property: 'turn' as const, axis: 1, amount: 4, lowHz: 0.5, highHz: high, seed };
      const made = trackOf(run(kit, blobs, callOf(sway, args))).keys;
      expect(trackOf(run(kit, blobs, callOf(sway, args))).keys).toEqual(made);
      for (const { value } of made) expect(Math.abs(value - 5)).toBeLessThan(4.05);
      expect(made.at(-1)!.value).toBeCloseTo(made[0].value, 6);
      const crossings = made.slice(1).filter((key, i) => (key.value - 5) * (made[i].value - 5) < 0).length;
      expect(crossings).toBeLessThanOrEqual(2 * 2 * Math.max(high, 0.5) + 2);
    }),
    { numRuns: 30 },
  );
});

test('a pose that becomes rest is rest, and nothing is anywhere else in any clip at any time', () => {
  fc.assert(
    fc.property(
      keysOf(['straight', 'curve']),
      keysOf(['straight']),
      fc.double({ min: 0, max: 2, noNaN: true }),
      fc.boolean(),
      (turns, moves, time, second) => {
        const { kit, blobs } = kitWith(turns);
        const two = structuredClone(kit);
        two.clips.clip.tracks.push({ kind: 'keys', id: 'move', part: 'b', property: 'offset', axis: 0, keys: moves });
        if (second) two.clips.clip.tracks.push({ kind: 'keys', id: 'more', part: 'b', property: 'turn', axis: 0, keys: moves });
        two.clips.other = {
          ...two.clips.clip,
          id: 'other',
          name: 'other',
          order: 1,
          tracks: [{ kind: 'keys', id: 'size', part: 'b', property: 'size', axis: 2, keys: [{ time: 0, value: 2, easing: 'hold' }] }],
        };
        const baked = run(two, blobs, callOf(bakePose, { clip: 'clip', parts: ['b'], time }));
        const near = (a: number[], b: number[], most: number) => a.forEach((value, i) => expect(Math.abs(value - b[i])).toBeLessThan(most));
        near(worldVertices(baked, blobs), worldVertices(two, blobs, 'clip', time), 1e-4);
        // Turns about several axes are dense then, between whose samples they go straight.
        for (const moment of [0, 0.4, 1.3, 2])
          near(worldVertices(baked, blobs, 'clip', moment), worldVertices(two, blobs, 'clip', moment), second ? 0.02 : 1e-4);
        near(worldVertices(baked, blobs, 'other', 1), worldVertices(two, blobs, 'other', 1), 1e-4);
      },
    ),
    { numRuns: 15 },
  );
});

test.each(['straight', 'curve'] as const)('%s keys through samples are never further off than the tolerance, and fewer', (fit) => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 3, maxLength: 8 }),
      fc.double({ min: 0.01, max: 0.5, noNaN: true }),
      (waves, tolerance) => {
        const times = Array.from({ length: 300 }, (_, i) => i / 60);
        const values = times.map((time) => waves.reduce((sum, wave, k) => sum + wave * Math.sin(time * (k + 1) + wave), 0));
        const keys = fit === 'straight' ? straightKeys(times, values, tolerance) : curveKeys(times, values, tolerance);
        times.forEach((time, i) => expect(Math.abs(at(keys, time) - values[i])).toBeLessThanOrEqual(tolerance + 1e-9));
        expect(keys.length).toBeLessThan(300);
      },
    ),
  );
});

test('thinned within a tolerance: no vertex is further off, by dense sampling of its own', () => {
  fc.assert(
    fc.property(keysOf(SMOOTH), fc.constantFrom('straight' as const, 'curve' as const), (keys, fit) => {
      const { kit, blobs } = kitWith(keys);
      const thin = run(kit, blobs, callOf(thinTracks, { clip: 'clip', tracks: ['track'], fit, metres: 0.002, degrees: 1 }));
      for (let i = 0; i <= 400; i++) {
        const [a, b] = [worldVertices(kit, blobs, 'clip', (2 * i) / 400.01), worldVertices(thin, blobs, 'clip', (2 * i) / 400.01)];
        for (let k = 0; k < a.length; k += 3) expect(Math.hypot(a[k] - b[k], a[k + 1] - b[k + 1], a[k + 2] - b[k + 2])).toBeLessThan(0.002);
      }
    }),
    { numRuns: 8 },
  );
});

test('a recording is written within the tolerance of what was recorded', () => {
  const { kit, blobs } = kitWith([{ time: 0, value: 0, easing: 'hold' }]);
  const times = Array.from({ length: 121 }, (_, i) => i / 60);
  const values = times.flatMap((time) => [Math.sin(3 * time), 0, time * time]);
  const next = run(
    kit,
    blobs,
    callOf(writeRecording, { clip: 'clip', part: 'c', property: 'offset', times, values, smoothSeconds: 0, metres: 0.006, degrees: 1 }),
  );
  const tracks = next.clips.clip.tracks.filter((track): track is KeyTrack => track.kind === 'keys' && track.part === 'c');
  expect(tracks.map(({ axis }) => axis)).toEqual([0, 2]);
  times.forEach((time, i) =>
    tracks.forEach(({ axis, keys }) => expect(Math.abs(at(keys, time) - values[3 * i + axis])).toBeLessThan(0.0021)),
  );
  expect(Math.max(...tracks.map(({ keys }) => keys.length))).toBeLessThan(25);
});

test('what vanishes is of no size from then on, and what is below it too', () => {
  const { kit, blobs } = kitWith([{ time: 0, value: 0, easing: 'hold' }]);
  const gone = run(kit, blobs, callOf(showParts, { clip: 'clip', parts: ['b'], time: 1, shown: false, as: 'shown' }));
  expect(worldVertices(gone, blobs, 'clip', 0.99)).toEqual(worldVertices(kit, blobs, 'clip', 0.99));
  const after = worldVertices(gone, blobs, 'clip', 1);
  const third = after.length / 3;
  expect(new Set(after.slice(third, 2 * third).map((value) => value.toFixed(6))).size).toBeLessThanOrEqual(3);
});

test('joined clips play one after the other, each as it did alone', () => {
  fc.assert(
    fc.property(keysOf(), keysOf(), (first, second) => {
      const { kit, blobs } = kitWith(first);
      const two = structuredClone(kit);
      two.clips.next = {
        ...two.clips.clip,
        id: 'next',
        name: 'next',
        order: 1,
        tracks: [
          { kind: 'keys', id: 'n', part: 'b', property: 'turn', axis: 1, keys: second },
          { kind: 'keys', id: 'm', part: 'c', property: 'offset', axis: 0, keys: second },
        ],
      };
      const joined = run(two, blobs, callOf(joinClips, { clip: 'clip', others: ['next'] }));
      expect(joined.clips.next).toBeUndefined();
      const jumps = [...first, ...second].map(({ time }) => time);
      for (const time of TIMES) {
        if (jumps.some((one) => Math.abs(one - time) < 2e-3)) continue;
        expect(Math.abs(at(trackOf(joined).keys, time) - at(first, time))).toBeLessThan(0.1);
        expect(at(trackOf(joined, 'c', 'offset').keys, time)).toBe(0);
        expect(at(trackOf(joined).keys, 2 + time)).toBeCloseTo(at(second, time), 5);
      }
    }),
    { numRuns: 15 },
  );
});

test('brake keys never stand on one another, nor on the keys beside them, however many are asked for', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 20 }),
      fc.double({ min: 0.001, max: 0.99, noNaN: true }),
      fc.double({ min: 0.001, max: 0.99, noNaN: true }),
      fc.constantFrom('before' as const, 'after' as const, 'both' as const),
      (count, reach, ratio, sides) => {
        const { kit, blobs } = kitWith([
          { time: 0, value: 0, easing: 'curve', slopeIn: 3 },
          { time: 0.1, value: 4, easing: 'straight' },
          { time: 2, value: -3, easing: 'straight' },
        ]);
        // An operation that left two keys at one time would be refused.
        const braked = run(kit, blobs, callOf(brakeKeys, { ...chosen(kit), count, reach, ratio, family: 'sine', sides }));
        const { keys } = trackOf(braked);
        for (let i = 1; i < keys.length; i++) expect(keys[i].time - keys[i - 1].time).toBeGreaterThan(5e-7);
        expect(keys[0].slopeIn).toBe(3);
        for (const time of [0, 0.1, 2]) expect(at(keys, time)).toBeCloseTo(at(trackOf(kit).keys, time), 9);
      },
    ),
  );
});
