import fc from 'fast-check';
import { Quaternion } from 'three';
import { MemoryBlobs, type Kit, type Mix } from '../document';
import { copyPose, flattenParts, newPose, Poser, type Pose } from '../geometry';
import { compileClip, movedParts, sampleClip } from '../motion';
import { body } from '../tests/body';
import { walkingBody } from '../tests/walking-body';
import { settleTurns } from './blend';
import { stepsOf } from './clip-steps';
import { MixPlayer } from './mix-player';

const blobs = new MemoryBlobs();

/** A clip that begins some time later in its round: every look at it that is shifted is as the clip was. */
function shifted(of: Kit, clip: string, by: number): Kit {
  const { lengthSeconds, tracks } = of.clips[clip];
  const parts = flattenParts(of);
  const compiled = compileClip(of.clips[clip], parts, blobs);
  const times = Array.from({ length: 241 }, (_, i) => (lengthSeconds * i) / 240);
  const poses = times.map((time) => {
    const pose = newPose(parts);
    sampleClip(compiled, (time + by) % lengthSeconds, pose);
    settleTurns(parts, pose, movedParts([compiled]).turn);
    return pose;
  });
  const made = [...new Set(tracks.map(({ part }) => part))].flatMap((part) =>
    (
      [
        ['rotation', 'spin', 4],
        ['offset', 'offset', 3],
      ] as const
    ).map(([property, field, size]) => ({
      kind: 'samples' as const,
      id: `${part} ${property}`,
      part,
      property,
      interpolation: 'straight' as const,
      times: rows(times, 1),
      values: rows(
        poses.flatMap((pose) => [...pose[field].subarray(size * parts.indexOf.get(part)!, size * (parts.indexOf.get(part)! + 1))]),
        size,
      ),
    })),
  );
  return { ...of, clips: { ...of.clips, later: { ...of.clips[clip], id: 'later', name: 'later', tracks: made } } };
}

const rows = (values: number[], size: number) => ({
  blob: blobs.put(new Uint8Array(Float32Array.from(values).buffer)),
  type: 'f32' as const,
  size,
  count: values.length / size,
});

const lineOf = (...pegs: [string | null, number][]): Mix => ({
  id: 'mix',
  name: 'mix',
  kind: 'line',
  parameters: ['ahead'],
  pegs: pegs.map(([clip, at], i) => ({ id: `peg${i}`, clip, at: [at], speed: 1 })),
});

const kit = walkingBody(blobs, ['idle', 'walk', 'run'], { kit: body(1, true) });
const flat = flattenParts(kit);
const playerOf = (mix: Mix, of: Kit = kit, loop = true) => new MixPlayer(mix, of, flat, blobs, loop);

function worldOf(pose: Pose): Float64Array {
  const poser = new Poser(flat);
  copyPose(poser.pose, pose);
  poser.update();
  return poser.world.slice();
}

function apart(a: Pose, b: Pose): number {
  const [left, right] = [worldOf(a), worldOf(b)];
  return left.reduce((most, value, i) => Math.max(most, Math.abs(value - right[i])), 0);
}

function plain(clip: string, time: number, of: Kit = kit): Pose {
  const pose = newPose(flat);
  const compiled = compileClip(of.clips[clip], flat, blobs);
  sampleClip(compiled, time, pose);
  settleTurns(flat, pose, movedParts([compiled]).turn);
  return pose;
}

test('at a clip’s own place it is played as it is, to the frame, as long as one likes', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(['idle', 0], ['walk', 1], ['run', 3]),
      fc.array(fc.double({ min: 0, max: 0.9, noNaN: true }), { minLength: 1, maxLength: 12 }),
      ([clip, ahead], frames) => {
        const player = playerOf(lineOf(['idle', 0], ['walk', 1], ['run', 3]));
        player.setPlace({ ahead });
        const at = player.start();
        const out = newPose(flat);
        let time = 0;
        for (const seconds of frames) {
          player.advance(at, seconds);
          time += seconds;
        }
        player.sample(at, out);
        expect(player.seconds).toBeCloseTo(kit.clips[clip as string].lengthSeconds, 9);
        expect(apart(out, plain(clip as string, time % kit.clips[clip as string].lengthSeconds))).toBeLessThan(1e-9);
      },
    ),
    { numRuns: 60 },
  );
});

test('in any mix of walking and running the feet come down together', () => {
  const [walk, runs] = ['walk', 'run'].map((id) => stepsOf(kit, kit.clips[id], blobs).marks);
  fc.assert(
    fc.property(fc.double({ min: 1, max: 3, noNaN: true }), fc.integer({ min: 0, max: 3 }), (ahead, ofStep) => {
      const player = playerOf(lineOf(['walk', 1], ['run', 3]));
      player.setPlace({ ahead });
      const at = { ...player.start(), step: ofStep % 2, along: 0 };
      const foot = walk[at.step].foot;
      expect(player.clipTime(at, 0)).toBeCloseTo(walk[at.step].time, 9);
      expect(player.clipTime(at, 1)).toBeCloseTo(runs.find((one) => one.foot === foot)!.time, 9);
    }),
  );
  expect(playerOf(lineOf(['walk', 1], ['run', 3])).outOfStep).toEqual([]);
});

test('a clip mixed with itself, some time later in its round, slides no more than it does alone', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.05, max: 1.05, noNaN: true }),
      fc.double({ min: 0, max: 2, noNaN: true }),
      fc.double({ min: 0, max: 3, noNaN: true }),
      (by, ahead, seconds) => {
        const later = shifted(kit, 'walk', by);
        const player = playerOf(lineOf(['walk', 0], ['later', 2]), later);
        player.setPlace({ ahead });
        const at = player.start();
        player.advance(at, seconds);
        const out = newPose(flat);
        player.sample(at, out);
        // Wherever the round is, it is the clip at that time: a step is found within a thousandth of a second or two.
        expect(apart(out, plain('walk', player.clipTime(at, 0)))).toBeLessThan(0.012);
      },
    ),
    { numRuns: 40 },
  );
});

test('a round of a mix lasts as its shares say, and what stands keeps to its own time', () => {
  const player = playerOf(lineOf(['idle', 0], ['walk', 1], ['run', 3]));
  player.setPlace({ ahead: 2 });
  expect(player.seconds).toBeCloseTo((1.1 + 0.7) / 2, 9);
  expect(player.outOfStep).toEqual([{ peg: 'peg0', why: 'no-steps' }]);
  player.setPlace({ ahead: 0.5 });
  const at = player.start();
  player.advance(at, 1.3);
  expect(player.clipTime(at, 0)).toBeCloseTo(1.3, 9);
  // Half of it stands: what walks goes at its own pace.
  expect(player.clipTime(at, 1)).toBeCloseTo(1.3 - 1.1, 9);
});

test('between two clips each joint is turned as quaternions between theirs are, by an independent reckoning', () => {
  const player = playerOf(lineOf(['walk', 0], ['run', 1]));
  for (const share of [0.2, 0.5, 0.9]) {
    player.setPlace({ ahead: share });
    const at = player.start();
    player.advance(at, 0.37);
    const out = newPose(flat);
    player.sample(at, out);
    const [a, b] = [plain('walk', player.clipTime(at, 0)), plain('run', player.clipTime(at, 1))];
    for (let p = 0; p < flat.ids.length; p++) {
      const [from, to, here] = [a, b, out].map(({ spin }) => new Quaternion().fromArray([...spin.subarray(4 * p, 4 * p + 4)]));
      if (from.dot(to) < 0) to.set(-to.x, -to.y, -to.z, -to.w);
      const mixed = new Quaternion(...(['x', 'y', 'z', 'w'] as const).map((k) => (1 - share) * from[k] + share * to[k])).normalize();
      expect(1 - Math.abs(mixed.dot(here))).toBeLessThan(1e-9);
    }
  }
});

test('what is played once stays on its last pose, together with what it is mixed with', () => {
  const player = playerOf(lineOf(['walk', 0], ['run', 1]), kit, false);
  player.setPlace({ ahead: 0.5 });
  const at = player.start();
  player.advance(at, 50);
  expect([0, 1].map((peg) => player.clipTime(at, peg))).toEqual([1.1, 0.7]);
});

test('a clip that is gone is rest, and nothing of it has a time', () => {
  const player = playerOf(lineOf([null, 0], ['walk', 2]));
  player.setPlace({ ahead: 0 });
  const out = newPose(flat);
  player.sample(player.start(), out);
  expect(apart(out, newPose(flat))).toBe(0);
  expect(player.seconds).toBe(0);
  player.advance(player.start(), 5);
});
