import fc from 'fast-check';
import { callOf, putArray, readArray, type Kit, type MemoryBlobs, type SampleTrack } from '../../document';
import { angleBetweenQuats, flattenParts, Poser, quatFromTurn } from '../../geometry';
import { chainKit, run, withMotion, worldVertices, greatestDifference } from '../../tests/helpers';
import { compileClip, sampleClip } from '../sampler';
import { closeLoop, dwell, mendSeam, ToolError, trimTail } from '.';

// Each law is tried on so many cases; with a random seed it looks further.
fc.configureGlobal({ ...fc.readConfigureGlobal(), numRuns: 25 });

type Interpolation = SampleTrack['interpolation'];

/** A chain whose middle part is moved and turned by samples of a file, 2 s long. */
function denseKit(turns: readonly number[], interpolation: Interpolation = 'straight'): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }, { id: 'c', translation: [1, 0, 0] }]);
  const kit = structuredClone(withMotion(made.kit, made.blobs, 'b', 'turn', 1, [0, 1]));
  const times = putArray(
    made.blobs,
    Float32Array.from(turns, (_, i) => (2 * i) / (turns.length - 1)),
    1,
  );
  const rows = (row: (turn: number) => number[], width: number) =>
    putArray(
      made.blobs,
      Float32Array.from(
        turns.flatMap((turn) =>
          interpolation === 'curve' ? [...row(turn).map(() => 0), ...row(turn), ...row(turn).map(() => 0)] : row(turn),
        ),
      ),
      width,
    );
  const track = (property: SampleTrack['property'], values: SampleTrack['values']): SampleTrack => ({
    kind: 'samples',
    id: property,
    part: 'b',
    property,
    interpolation,
    times,
    values,
  });
  kit.clips.clip.tracks = [
    track(
      'offset',
      rows((turn) => [turn / 90, 0.1, -turn / 45], 3),
    ),
    track(
      'rotation',
      rows((turn) => quatFromTurn([0, turn, 0], 'xyz'), 4),
    ),
  ];
  return { kit, blobs: made.blobs };
}

const turnsOf = fc.array(fc.integer({ min: -80, max: 80 }), { minLength: 3, maxLength: 9 });
const INTERPOLATIONS: Interpolation[] = ['straight', 'curve', 'hold'];

/** Where every vertex is at a time of the clip that is not folded into its length. */
function standing({ kit, blobs }: { kit: Kit; blobs: MemoryBlobs }, time: number): number[] {
  const played = { ...kit, clips: { clip: { ...kit.clips.clip, loop: 'once' as const } } };
  return worldVertices(played, blobs, 'clip', time);
}

test.each(INTERPOLATIONS)('dense tracks (%s): a dwell holds the pose, what was before and after is the same', (interpolation) => {
  fc.assert(
    fc.property(turnsOf, fc.integer({ min: 1, max: 59 }), fc.integer({ min: 3, max: 45 }), (turns, frame, frames) => {
      const before = denseKit(turns, interpolation);
      const [time, seconds] = [frame / 30, frames / 30];
      const after = { kit: run(before.kit, before.blobs, callOf(dwell, { clip: 'clip', time, seconds })), blobs: before.blobs };
      expect(after.kit.clips.clip.lengthSeconds).toBeCloseTo(2 + seconds, 8);
      const held = standing(before, time);
      for (const share of [0.1, 0.5, 0.9]) expect(greatestDifference(standing(after, time + share * seconds), held)).toBeLessThan(1e-4);
      for (let i = 0; i <= 40; i++) {
        const at = (2 * i + 0.31) / 41;
        if (Math.abs(at - time) < 0.01) continue;
        const moved = at > time ? at + seconds : at;
        expect(greatestDifference(standing(after, moved), standing(before, at))).toBeLessThan(2e-4);
      }
    }),
  );
});

test.each(INTERPOLATIONS)('dense tracks (%s): a closed loop ends in the pose of its start, once', (interpolation) => {
  fc.assert(
    fc.property(turnsOf, (turns) => {
      const before = denseKit(turns, interpolation);
      const closed = run(before.kit, before.blobs, callOf(closeLoop, { clip: 'clip' }));
      const { lengthSeconds, loop } = closed.clips.clip;
      expect(loop).toBe('loop');
      const met = turns[0] === turns[turns.length - 1];
      expect(lengthSeconds).toBeCloseTo(met ? 2 : 2 + 1 / 30, 6);
      const after = { kit: closed, blobs: before.blobs };
      expect(greatestDifference(standing(after, lengthSeconds), standing(before, 0))).toBeLessThan(1e-5);
      for (const at of [0, 0.4, 1.1, 1.9]) expect(greatestDifference(standing(after, at), standing(before, at))).toBeLessThan(2e-4);
      const again = run(closed, before.blobs, callOf(closeLoop, { clip: 'clip' }));
      // The last time is a float of the file: it may be the next one, and never a frame more.
      expect(again.clips.clip.lengthSeconds).toBeCloseTo(lengthSeconds, 6);
    }),
  );
});

test.each(['fade', 'spread'] as const)('dense tracks: a seam mended by %s meets, and the rest stays', (by) => {
  fc.assert(
    fc.property(turnsOf, fc.integer({ min: 3, max: 25 }), (turns, frames) => {
      const before = denseKit(turns);
      const seconds = frames / 30;
      const kit = run(before.kit, before.blobs, callOf(mendSeam, { clip: 'clip', by, seconds }));
      const after = { kit, blobs: before.blobs };
      const { lengthSeconds } = kit.clips.clip;
      expect(lengthSeconds).toBeCloseTo(by === 'fade' ? 2 - seconds : 2, 6);
      expect(greatestDifference(standing(after, lengthSeconds), standing(after, 0))).toBeLessThan(1e-4);
      for (let i = 0; i <= 30; i++) {
        const at = (lengthSeconds * i) / 30;
        if (by === 'fade' ? at < seconds : at > 2 - seconds) continue;
        expect(greatestDifference(standing(after, at), standing(before, at))).toBeLessThan(2e-4);
      }
    }),
  );
});

test('turns in a mended seam stay turns: their numbers have length 1', () => {
  const { kit, blobs } = denseKit([0, 70, -80, 60]);
  const mended = run(kit, blobs, callOf(mendSeam, { clip: 'clip', by: 'spread', seconds: 0.8 }));
  const track = mended.clips.clip.tracks.find((one): one is SampleTrack => one.kind === 'samples' && one.property === 'rotation')!;
  const values = readArray<Float32Array>(blobs, track.values);
  for (let i = 0; i < values.length; i += 4) expect(Math.hypot(...values.subarray(i, i + 4))).toBeCloseTo(1, 5);
  const poser = new Poser(flattenParts(mended));
  const rotationAt = (time: number) => {
    poser.reset();
    sampleClip(compileClip(mended.clips.clip, poser.flat, blobs), time, poser.pose);
    poser.update();
    const at = 4 * poser.flat.indexOf.get('b')!;
    return [...poser.rotation.subarray(at, at + 4)] as [number, number, number, number];
  };
  expect(angleBetweenQuats(rotationAt(2), rotationAt(0))).toBeLessThan(0.01);
});

test('a tail without keys is cut off at the last sample; a clip without motion says why it cannot be', () => {
  const { kit, blobs } = denseKit([0, 30, 10]);
  const longer = { ...kit, clips: { clip: { ...kit.clips.clip, lengthSeconds: 5 } } };
  expect(run(longer, blobs, callOf(trimTail, { clip: 'clip' })).clips.clip.lengthSeconds).toBeCloseTo(2, 6);
  const still = { ...kit, clips: { clip: { ...kit.clips.clip, tracks: [] } } };
  for (const call of [callOf(trimTail, { clip: 'clip' }), callOf(closeLoop, { clip: 'clip' })])
    expect(() => run(still, blobs, call)).toThrow(/“clip” has no keys after its start.*Key something first\./);
  expect(() => run(kit, blobs, callOf(mendSeam, { clip: 'clip', by: 'fade', seconds: 1.2 }))).toThrow(
    new ToolError('The seam of “clip” can be mended over half of it at most, 1.00 s.'),
  );
});

test('cues and flags after a dwell are put off with what they mark, those before and on it are not', () => {
  const { kit, blobs } = denseKit([0, 30, 10]);
  const marked = structuredClone(kit);
  marked.clips.clip.flags = [0.2, 0.5, 1.4].map((time, i) => ({ id: `f${i}`, time, name: `f${i}`, colour: 'sea' as const }));
  const after = run(marked, blobs, callOf(dwell, { clip: 'clip', time: 0.5, seconds: 0.25 }));
  expect(after.clips.clip.flags!.map(({ time }) => time)).toEqual([0.2, 0.5, 1.65]);
});
