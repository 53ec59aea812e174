import type { ParameterRule } from '@itchkit/core/behaviour';
import { callOf, emptyKit, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { addClip } from '@itchkit/core/motion';
import { run } from '../../../../../core/src/tests/helpers';
import { walkingBody } from '../../../../../core/src/tests/walking-body';
import { beginningMix, freshName } from './beginnings';

const blobs = new MemoryBlobs();
const AHEAD: ParameterRule = { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: -2, max: 7, moves: 'ahead' };
const MOOD: ParameterRule = { name: 'mood', title: 'Mood', about: '', kind: 'number', unit: '', min: 0, max: 10 };
const pegsOf = (kit: Kit, ...parameters: ParameterRule[]) => {
  const call = beginningMix(kit, blobs, parameters, 'made');
  return call && run(kit, blobs, call).mixes!.find(({ id }) => id === 'made')!;
};

test('clips that step lie where their own feet go as fast, what stands at nothing, and what is played once is left out', () => {
  const kit = walkingBody(blobs, ['run', 'idle', 'walk', 'wave']);
  const mix = pegsOf(kit, MOOD, AHEAD)!;
  expect(mix.parameters).toEqual(['ahead']);
  expect(mix.pegs.map(({ clip }) => clip)).toEqual(['idle', 'walk', 'run']);
  const [still, walk, runs] = mix.pegs.map(({ at }) => at[0]);
  expect(still).toBe(0);
  expect(walk).toBeCloseTo(0.94, 1);
  expect(runs).toBeCloseTo(2.96, 1);
});

test('where nothing steps, what goes round is spread over what is passed in', () => {
  let kit = emptyKit('flag');
  for (const name of ['slack', 'breeze', 'gale'])
    kit = run(kit, blobs, callOf(addClip, { id: name, name, lengthSeconds: 1, rate: 30, loop: 'loop' }));
  expect(pegsOf(kit, MOOD)!.pegs.map(({ clip, at }) => [clip, at[0]])).toEqual([
    ['slack', 0],
    ['breeze', 5],
    ['gale', 10],
  ]);
});

test('without a number that is passed in there is nothing to mix by; without clips a mix begins with rest', () => {
  expect(beginningMix(emptyKit('bare'), blobs, [{ ...AHEAD, always: 0 } as ParameterRule], 'made')).toBeNull();
  expect(pegsOf(emptyKit('bare'), MOOD)!.pegs.map(({ clip }) => clip)).toEqual([null]);
});

test('a new name is none that there is', () => {
  expect(freshName('Mix', [{ name: 'Mix 2' }])).toBe('Mix 3');
  expect(freshName('Mix', [])).toBe('Mix 1');
});
