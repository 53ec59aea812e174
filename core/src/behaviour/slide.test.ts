import { MemoryBlobs, type Mix } from '../document';
import { walkingBody } from '../tests/walking-body';
import { ownPlace, ownSpeed } from './own-speeds';
import type { ParameterRule } from './rules';
import { SlideMeter } from './slide';

const blobs = new MemoryBlobs();
const kit = walkingBody(blobs, ['idle', 'walk', 'run']);

const RULES: ParameterRule[] = [
  { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: -2, max: 7, moves: 'ahead' },
  { name: 'mood', title: 'Mood', about: '', kind: 'number', unit: '', min: 0, max: 1 },
];
const mixBy = (parameter: string, ...pegs: [string | null, number, number?][]): Mix => ({
  id: 'mix',
  name: 'mix',
  kind: 'line',
  parameters: [parameter],
  pegs: pegs.map(([clip, at, speed = 1], i) => ({ id: `peg${i}`, clip, at: [at], speed })),
});
const [walk, runs] = ['walk', 'run'].map((clip) => ownSpeed(kit, { clip, speed: 1 }, blobs)![1]);
const slideAt = (mix: Mix, ahead: number) => new SlideMeter(mix, kit, blobs, RULES).at([ahead])!;

test('played as fast as its own feet go a clip does not slide; at half the speed they slide by the other half', () => {
  for (const [clip, speed] of [
    ['walk', walk],
    ['run', runs],
  ] as const) {
    const mix = mixBy('ahead', [clip, speed]);
    expect(slideAt(mix, speed).speed).toBeLessThan(0.12 * speed);
    expect(Math.abs(slideAt(mix, speed / 2).speed - speed / 2)).toBeLessThan(0.12 * speed);
  }
});

test('played twice as fast a clip goes twice as far', () => {
  const mix = mixBy('ahead', ['walk', 2 * walk, 2]);
  expect(slideAt(mix, 2 * walk).speed).toBeLessThan(0.25 * walk);
  expect(ownPlace(kit, mix, mix.pegs[0], blobs, RULES)![0]).toBeCloseTo(2 * walk, 9);
});

test('between a walk and a run at their own speeds feet slide little; at wrong places much', () => {
  const right = mixBy('ahead', ['walk', walk], ['run', runs]);
  const wrong = mixBy('ahead', ['walk', 0.3], ['run', 6]);
  const middle = (walk + runs) / 2;
  expect(slideAt(right, middle).speed).toBeLessThan(0.5 * slideAt(wrong, 0.3).speed + 0.3 * middle);
  expect(slideAt(wrong, 6).speed).toBeGreaterThan(2);
});

test('where no value says how fast the body goes, it goes as fast as its clips', () => {
  expect(slideAt(mixBy('mood', ['walk', 0]), 0).speed).toBeLessThan(0.12 * walk);
  const mix = mixBy('mood', ['walk', 0]);
  expect(ownPlace(kit, mix, mix.pegs[0], blobs, RULES)).toBeNull();
});

test('what stands has no place by speed, and what plays nothing no feet that slide', () => {
  const mix = mixBy('ahead', ['idle', 0], [null, 1]);
  expect(mix.pegs.map((peg) => ownPlace(kit, mix, peg, blobs, RULES))).toEqual([null, null]);
  expect(new SlideMeter(mixBy('ahead', [null, 1]), kit, blobs, RULES).at([1])).toBeNull();
});
