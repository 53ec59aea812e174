import fc from 'fast-check';
import { MemoryBlobs, type Kit, type Mix } from '../document';
import { plainPose } from '../oracles';
import { run } from '../tests/helpers';
import { walkingBody } from '../tests/walking-body';
import { mirrorCalls, mirroredPlace, unmirrored } from './mirrored-pegs';
import { ownSpeed } from './own-speeds';
import type { ParameterRule } from './rules';

const blobs = new MemoryBlobs();
const body = walkingBody(blobs, ['idle', 'limp'], { inPlace: false });
const speedOf = (name: string, moves?: 'ahead' | 'left'): ParameterRule => ({
  name,
  title: name,
  about: '',
  kind: 'number',
  unit: 'm/s',
  min: -5,
  max: 5,
  ...(moves && { moves }),
});
const RULES = [speedOf('side', 'left'), speedOf('ahead', 'ahead'), speedOf('lean')];
const mixOf = (places: readonly [clip: string | null, x: number, y: number][], parameters = ['side', 'ahead']): Mix => ({
  id: 'mix',
  name: 'mix',
  kind: 'across',
  parameters,
  pegs: places.map(([clip, x, y], i) => ({ id: `peg${i}`, clip, at: [x, y], speed: 1 + i / 10 })),
});
const named = (name: string, taken: Set<string>) => (taken.has(`${name}_other`) ? `${name}_another` : `${name}_other`);
const mirrored = (mix: Mix): Kit => run({ ...body, mixes: [mix] }, blobs, ...mirrorCalls({ ...body, mixes: [mix] }, mix, RULES, named));

test('a clip to one side gets its mirror image on the other, as fast, and goes the other way', () => {
  const kit = mirrored(
    mixOf([
      ['idle', 0, 0],
      ['limp', 0.6, 0.4],
    ]),
  );
  const [, limp, other] = kit.mixes![0].pegs;
  expect([other.at, other.speed, kit.clips[other.clip!].name]).toEqual([[-0.6, 0.4], limp.speed, 'limp_other']);
  const [a, b] = [ownSpeed(kit, limp, blobs)!, ownSpeed(kit, other, blobs)!];
  expect(b[0]).toBeCloseTo(-a[0], 2);
  expect(b[1]).toBeCloseTo(a[1], 2);
});

test('what the left foot does, the right one does in the mirror, at every time', () => {
  const kit = mirrored(
    mixOf([
      ['idle', 0, 0],
      ['limp', 0.6, 0.4],
    ]),
  );
  const { clip } = kit.mixes![0].pegs[2];
  const foot = (side: string) => Object.values(kit.parts).find(({ name }) => name === `foot_${side}`)!.id;
  const at = (id: string, side: string, time: number) => plainPose(kit, blobs, kit.clips[id], time).worlds.get(foot(side))!.elements;
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1.5, noNaN: true }), fc.constantFrom('l', 'r'), (time, side) => {
      const here = at('limp', side, time);
      const there = at(clip!, side === 'l' ? 'r' : 'l', time);
      const off = Math.hypot(here[12] + there[12], here[13] - there[13], here[14] - there[14]);
      expect(off).toBeLessThan(0.004);
    }),
    { numRuns: 40 },
  );
});

test('what lies in the middle, or has its other side, gets none; a clip that stands in two places is copied once', () => {
  const mix = mixOf([
    ['idle', 0, 0],
    ['limp', 1, 0],
    [null, -1, 0],
    ['limp', 1, 1],
    ['limp', 2, 0],
    [null, 2, 2],
  ]);
  expect(unmirrored(mix, RULES).map(({ at }) => at)).toEqual([
    [-1, 1],
    [-2, 0],
    [-2, 2],
  ]);
  const kit = mirrored(mix);
  expect(Object.keys(kit.clips)).toHaveLength(3);
  expect(unmirrored(kit.mixes![0], RULES)).toEqual([]);
  expect(mirrorCalls(kit, kit.mixes![0], RULES, named)).toEqual([]);
});

test('where no value says how fast it goes to a side, nothing is mirrored', () => {
  expect(mirroredPlace(mixOf([['limp', 1, 2]], ['lean', 'ahead']), { at: [1, 2] }, RULES)).toBeNull();
  expect(mirroredPlace(mixOf([['limp', 1, 2]], ['ahead', 'side']), { at: [1, 2] }, RULES)).toEqual([1, -2]);
});
