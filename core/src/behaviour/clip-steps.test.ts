import { MemoryBlobs, type Kit } from '../document';
import { Random } from '../oracles/random';
import { body } from '../tests/body';
import { walkingBody } from '../tests/walking-body';
import { stepsOf } from './clip-steps';

const blobs = new MemoryBlobs();
const HIPS = 0.9;

const stepsOfMotion = (id: string, inPlace = true, kit: Kit = body()) => {
  const made = walkingBody(blobs, [id], { kit, inPlace });
  return stepsOf(made, made.clips[id], blobs);
};

test.each([
  ['walk', (1.15 * HIPS) / 1.1, 1.1],
  ['run', (2.3 * HIPS) / 0.7, 0.7],
] as const)('%s: as fast as it is made for, its feet down half a round apart', (id, speed, seconds) => {
  const { speed: found, marks, stances } = stepsOfMotion(id);
  expect(Math.abs(found![0])).toBeLessThan(0.02);
  expect(Math.abs(found![1] - speed)).toBeLessThan(0.03 * speed);
  expect(marks.map(({ foot }) => foot).sort()).toEqual([0, 1]);
  const [a, b] = marks.map(({ time }) => time);
  expect(Math.abs(b - a - seconds / 2)).toBeLessThan(0.02);
  expect(stances).toHaveLength(2);
});

test('one that goes its own way through the world is as fast as in place', () => {
  for (const id of ['walk', 'run']) {
    const [there, here] = [false, true].map((inPlace) => stepsOfMotion(id, inPlace).speed!);
    expect(Math.abs(there[1] - here[1])).toBeLessThan(0.05 * here[1]);
  }
});

test('twice the body goes twice as fast', () => {
  const [small, tall] = [body(1), body(2)].map((kit) => stepsOfMotion('walk', true, kit).speed![1]);
  expect(tall / small).toBeCloseTo(2, 1);
});

test('one that stands has no steps, and both feet on the ground all the time', () => {
  const { speed, marks, stances } = stepsOfMotion('idle');
  expect(marks).toEqual([]);
  expect(stances.map(({ from, to }) => [from, to])).toEqual([
    [0, 4],
    [0, 4],
  ]);
  expect(Math.hypot(...speed!)).toBeLessThan(0.02);
});

test('what has no legs has no steps and no speed', () => {
  const kit = walkingBody(blobs, ['idle']);
  const { foot_l, foot_r } = kit.parts;
  const parts = { ...kit.parts, foot_l: { ...foot_l, name: 'a' }, foot_r: { ...foot_r, name: 'b' } };
  expect(stepsOf({ ...kit, parts }, kit.clips.idle, blobs)).toEqual({ stances: [], marks: [], speed: null });
});

/** A walk as a suit of sensors has it: each foot stirs by up to so many metres while it stands, and is a little elsewhere all the time. */
function captured(stirs: number, seed: number): Kit {
  const made = structuredClone(walkingBody(blobs, ['walk'])) as Kit;
  const clip = made.clips.walk;
  const random = new Random(seed);
  const count = 60;
  const phase = random.between(0, 6);
  for (const foot of ['foot_l', 'foot_r']) {
    const keys = Array.from({ length: count + 1 }, (_, i) => ({
      time: (clip.lengthSeconds * i) / count,
      value: i === count ? 0 : stirs * (0.5 + 0.5 * Math.sin(phase * i)) * (i === 0 ? 0 : 1),
      easing: 'straight' as const,
    }));
    clip.tracks.push({ kind: 'keys', id: `stirs ${foot}`, part: foot, property: 'offset', axis: 1, keys });
  }
  return made;
}

test.each([1, 2, 3, 4, 5, 6, 7, 8])('a foot that stirs while it stands comes down once a round (captured walk %i)', (seed) => {
  const still = stepsOfMotion('walk');
  const made = captured(0.015, seed);
  const { marks, stances, speed } = stepsOf(made, made.clips.walk, blobs);
  expect(marks.map(({ foot }) => foot).sort()).toEqual([0, 1]);
  expect(stances).toHaveLength(2);
  expect(Math.abs(speed![1] - still.speed![1])).toBeLessThan(0.08 * still.speed![1]);
});
