import fc from 'fast-check';
import { callOf, clipsInOrder, type Clip, type Kit, type Track } from '../document';
import { flattenParts, newPose, resetPose } from '../geometry';
import { chainKit, run, withMotion } from '../tests/helpers';
import { setOverlay } from './clip-extras';
import { cuesBetween, effectsAt } from './cue-times';
import { findLoops, poseDistances, poseRows } from './loops';
import { overlaysOf, sampleStack, stackClips } from './overlays';
import { SeamMeasure } from './seam';

function kitOf(tracks: Track[], extra: Partial<Clip> = {}): { kit: Kit; blobs: ReturnType<typeof chainKit>['blobs'] } {
  const made = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }, { id: 'c', translation: [0, 1, 0] }]);
  const kit = structuredClone(withMotion(made.kit, made.blobs, 'b', 'turn', 1, [0, 1]));
  kit.clips.clip = { ...kit.clips.clip, ...extra, tracks };
  return { kit, blobs: made.blobs };
}
const hold = (part: string, property: 'offset' | 'turn' | 'size', value: number, id = `${part}-${property}`): Track => ({
  kind: 'keys',
  id,
  part,
  property,
  axis: 0,
  keys: [{ time: 0, value, easing: 'hold' }],
});

describe('overlays', () => {
  const stacked = (place: 'under' | 'over', mode: 'add' | 'replace', parts: string[] | null = null) => {
    const { kit, blobs } = kitOf([hold('b', 'turn', 10), hold('b', 'size', 2), hold('c', 'offset', 1)]);
    kit.clips.blink = {
      ...kit.clips.clip,
      id: 'blink',
      name: 'blink',
      order: 1,
      lengthSeconds: 0.5,
      loop: 'loop',
      tracks: [hold('b', 'turn', 3), hold('b', 'size', 5), hold('a', 'offset', 7)],
    };
    const next = run(kit, blobs, callOf(setOverlay, { clip: 'blink', overlay: { place, mode, parts } }));
    const flat = flattenParts(next);
    const pose = newPose(flat);
    const at = (clip: string | null) => {
      resetPose(flat, pose);
      sampleStack(stackClips(clip === null ? null : next.clips[clip], overlaysOf(next), flat, blobs), 7.3, pose);
      const of = (part: string) => 3 * flat.indexOf.get(part)!;
      return { turn: pose.turn[of('b')], size: pose.size[of('b')], other: pose.offset[of('a')], own: pose.offset[of('c')] };
    };
    return at;
  };

  test('one that adds comes to what the others do, whether under or over them', () => {
    for (const place of ['under', 'over'] as const) expect(stacked(place, 'add')('clip')).toEqual({ turn: 13, size: 10, other: 7, own: 1 });
  });

  test('one that replaces has its way over the others, and gives way under them; what they leave alone it moves in either case', () => {
    expect(stacked('over', 'replace')('clip')).toEqual({ turn: 3, size: 5, other: 7, own: 1 });
    expect(stacked('under', 'replace')('clip')).toEqual({ turn: 10, size: 2, other: 7, own: 1 });
    expect(stacked('under', 'replace')(null)).toEqual({ turn: 3, size: 5, other: 7, own: 0 });
  });

  test('it moves only the parts that it is for', () => {
    expect(stacked('over', 'replace', ['a'])('clip')).toEqual({ turn: 10, size: 2, other: 7, own: 1 });
  });

  test('it is an ordinary clip again when that is taken back', () => {
    const { kit, blobs } = kitOf([]);
    const once = run(kit, blobs, callOf(setOverlay, { clip: 'clip', overlay: { place: 'over', mode: 'add', parts: null } }));
    expect(overlaysOf(once).map(({ id }) => id)).toEqual(['clip']);
    const back = run(once, blobs, callOf(setOverlay, { clip: 'clip', overlay: null }));
    expect(clipsInOrder(back)).toEqual(clipsInOrder(kit));
  });
});

test('every cue of a clip comes once a round, wherever it is looked at; effects go on over a loop’s end', () => {
  const cue = (time: number, kind: 'sound' | 'effect' = 'sound') => ({ id: `${kind} ${time}`, time, kind, name: 'steam', part: null });
  const { kit } = kitOf([], { cues: [cue(0.25), cue(1.9, 'effect')] });
  const { clip } = kit.clips;
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0.01, max: 0.3, noNaN: true }), { minLength: 40, maxLength: 60 }), (steps) => {
      let [time, heard] = [0, 0];
      for (const step of steps) {
        const next = time + step;
        heard += cuesBetween(clip, time % 2, next % 2).length;
        time = next;
      }
      const round = Math.floor(time / 2);
      expect(heard).toBeGreaterThanOrEqual(2 * round);
      expect(heard).toBeLessThanOrEqual(2 * round + 2);
    }),
  );
  expect(effectsAt(clip, 0.1, () => 0.5).map(({ age }) => Number(age.toFixed(6)))).toEqual([0.2]);
  expect(effectsAt({ ...clip, loop: 'once' }, 0.1, () => 0.5)).toEqual([]);
});

describe('loops', () => {
  /** A motion of a period with a little noise, and a part that goes its own slow way. */
  function periodic(period: number, seconds: number, noise: number) {
    let state = 7;
    const random = () => (state = (state * 16807) % 2147483647) / 2147483647 - 0.5;
    const keys = (shape: (time: number) => number) =>
      Array.from({ length: Math.round(seconds * 30) + 1 }, (_, i) => ({
        time: i / 30,
        value: shape(i / 30) + noise * random(),
        easing: 'straight' as const,
      }));
    const track = (part: string, property: 'offset' | 'turn', axis: number, shape: (time: number) => number): Track => ({
      kind: 'keys',
      id: `${part}${property}${axis}`,
      part,
      property,
      axis,
      keys: keys(shape),
    });
    const w = (2 * Math.PI) / period;
    return kitOf(
      [
        track('b', 'turn', 0, (t) => 30 * Math.sin(w * t)),
        track('c', 'turn', 1, (t) => 40 * Math.cos(w * t) + 12 * Math.sin(2 * w * t)),
        track('c', 'offset', 0, (t) => 0.3 * Math.sin(w * t + 1)),
      ],
      { lengthSeconds: seconds },
    );
  }

  test.each([0.9, 1.3, 1.7])('the period of %s s is found in a noisy motion', (period) => {
    const { kit, blobs } = periodic(period, 6, 0.25);
    const rows = poseRows(kit, kit.clips.clip, blobs, { from: 0, to: 6, rate: 30, parts: ['a', 'b', 'c'], root: null });
    const found = findLoops(rows, poseDistances(rows)!);
    expect(found.length).toBeGreaterThan(3);
    const seconds = (rows.times[found[0].to] - rows.times[found[0].from]) / period;
    expect(Math.abs(seconds - Math.round(seconds))).toBeLessThan(0.06);
    expect(found[0].to - found[0].from).toBeGreaterThanOrEqual(15);
    for (let i = 1; i < found.length; i++) expect(found[i].distance).toBeGreaterThanOrEqual(found[i - 1].distance);
  });

  test('distances in blocks are those of a plain double loop', () => {
    const { kit, blobs } = periodic(1.1, 2, 1);
    const rows = poseRows(kit, kit.clips.clip, blobs, { from: 0, to: 2, rate: 33, parts: ['a', 'b', 'c'], root: null });
    const map = poseDistances(rows)!;
    const { frames, width } = rows;
    for (let i = 0; i < frames; i++)
      for (let j = 0; j < frames; j++) {
        let sum = 0;
        for (let k = 0; k < width; k++) sum += (rows.rows[i * width + k] - rows.rows[j * width + k]) ** 2;
        expect(map[i * frames + j]).toBeCloseTo(sum / 3, 4);
      }
  });

  test('it can be broken off, and the seam is measured in millimetres and in speed', () => {
    const { kit, blobs } = kitOf([
      {
        kind: 'keys',
        id: 'x',
        part: 'a',
        property: 'offset',
        axis: 0,
        keys: [
          { time: 0, value: 0, easing: 'straight' },
          { time: 2, value: 1, easing: 'straight' },
        ],
      },
    ]);
    const rows = poseRows(kit, kit.clips.clip, blobs, { from: 0, to: 2, rate: 30, parts: ['a'], root: null });
    expect(poseDistances(rows, () => false)).toBeNull();
    const seam = new SeamMeasure(kit, kit.clips.clip, blobs, null).between(2, 0, 1 / 30);
    expect(seam.part).toBe('a');
    expect(seam.millimetres).toBeCloseTo(1000, 2);
    expect(seam.speed).toBeCloseTo(0, 1);
  });

  test('where the root walks off, its way over the ground does not count', () => {
    const straight = (value: number) => [
      { time: 0, value: 0, easing: 'straight' as const },
      { time: 2, value, easing: 'straight' as const },
    ];
    const { kit, blobs } = kitOf([
      { kind: 'keys', id: 'x', part: 'a', property: 'offset', axis: 2, keys: straight(3) },
      { kind: 'keys', id: 'y', part: 'a', property: 'turn', axis: 1, keys: straight(90) },
    ]);
    expect(new SeamMeasure(kit, kit.clips.clip, blobs, 'a').between(2, 0, 1 / 30).millimetres).toBeLessThan(1e-2);
    const rows = poseRows(kit, kit.clips.clip, blobs, { from: 0, to: 2, rate: 30, parts: ['a', 'b', 'c'], root: 'a' });
    const [first, last] = [rows.rows.subarray(0, rows.width), rows.rows.subarray(-rows.width)];
    expect(Math.hypot(...first.map((value, k) => value - last[k]))).toBeLessThan(1e-3);
  });
});
