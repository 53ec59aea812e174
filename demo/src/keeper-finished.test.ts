import emberfold from '@itchkit/rulebooks/emberfold';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { flattenParts, newPose, Poser, copyPose } from '@itchkit/core/geometry';
import { compileClip, sampleClip } from '@itchkit/core/motion';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { packKit, readPackage } from '@itchkit/core/ship';
import { checkScript, FieldBody, FIELD_RATE, playScript, SCRIPT_FORMAT, trialFor } from '@itchkit/core/trial';
import { nightWatchKeeperFinished, nightWatchKeeperTangled } from './moving-kits';

const rulebook = checkRulebook(emberfold);
const rules = rulebook.behaviours!;
/** Rules that look at behaviours. */
const kinds = new Set(rulebook.rules.filter(({ check }) => check.startsWith('behaviour.')).map(({ id }) => id));
let kit: Kit;
const blobs = new MemoryBlobs();
beforeAll(async () => {
  kit = await nightWatchKeeperFinished(rulebook, blobs);
}, 120_000);

test('the finished keeper owes Emberfold nothing but coarser shapes', () => {
  expect(runChecks({ kit, rulebook, blobs }).map(({ rule }) => rule)).toEqual(['levels']);
});

test('the tangled keeper has a mistake of every kind that can be proven, each told with its place', async () => {
  const own = new MemoryBlobs();
  const tangled = await nightWatchKeeperTangled(rulebook, own);
  const proven = runChecks({ kit: tangled, rulebook, blobs: own }).filter(({ rule }) => kinds.has(rule));
  expect(new Set(proven.map(({ rule }) => rule))).toEqual(kinds);
  const told = proven.map(({ message }) => message).join('\n');
  for (const name of ['crouch', 'fall', 'limp', 'pause', 'haste', 'crawling', 'Lantern arm', 'walk', 'Lantern raised', 'wave'])
    expect(told).toContain(name);
});

test('a blow from the right is the one from the left in the mirror', () => {
  const poser = new Poser(flattenParts(kit));
  const at = (clip: string, part: string) => {
    poser.reset();
    sampleClip(compileClip(kit.clips[`clip-${clip}`], poser.flat, blobs), 0.2, poser.pose);
    poser.update();
    return [...poser.worldOf(Object.values(kit.parts).find(({ name }) => name === part)!.id).subarray(12, 15)];
  };
  for (const blow of ['hit', 'hit-head', 'hit-leg'])
    for (const [part, twin] of [
      ['head', 'head'],
      ['hand_l', 'hand_r'],
      ['shin_r', 'shin_l'],
    ]) {
      const [x, y, z] = at(`${blow}-left`, part);
      at(`${blow}-right`, twin).forEach((value, axis) => expect(Math.abs(value - [-x, y, z][axis])).toBeLessThan(0.004));
    }
});

test('it is walked, hit, thrown down and up again by a script, from its package alone; and nothing jumps', async () => {
  const { bytes } = await packKit(kit, rulebook, blobs, []);
  const other = new MemoryBlobs();
  const loaded = await readPackage(bytes, other);
  const trial = trialFor(rulebook)!;
  expect(trial.importLog(loaded, rulebook).filter(({ grade }) => grade !== 'taken')).toEqual([]);
  const script = checkScript(
    {
      format: SCRIPT_FORMAT,
      seconds: 14,
      lines: [
        { at: 0.5, set: { ahead: 1.2 } },
        { at: 1.5, set: { ahead: 4 } },
        { at: 2.5, set: { lantern: 'yes' } },
        { at: 3, set: { from: 'left' }, send: ['jolt'] },
        { at: 4, set: { gait: 'limping', ahead: 1 } },
        { at: 5, set: { gait: 'crouching', lantern: 'no' } },
        { at: 6, set: { gait: 'upright', ahead: 0 } },
        { at: 7, set: { down: 'yes' } },
        { at: 9, set: { down: 'no' } },
        { at: 11.5, set: { struck: 'head', from: 'right' }, send: ['jolt'] },
        { at: 12.8, set: { struck: 'leg', from: 'front' }, send: ['jolt'] },
      ],
    },
    rules.parameters,
  );
  const frames = playScript(loaded.kit, other, rules, script);
  const names = (layer: number) => loaded.kit.behaviour!.layers[layer].states;
  const stateAt = (seconds: number, layer = 0) => {
    const { state } = frames[Math.round(seconds * FIELD_RATE) - 1].layers[layer];
    return names(layer).find(({ id }) => id === state)!.name;
  };
  expect([0.4, 1, 3.5, 5.5, 6.5, 8, 9.5, 12].map((seconds) => stateAt(seconds))).toEqual([
    'stand',
    'go',
    'go',
    'go',
    'stand',
    'fall',
    'rise',
    'stand',
  ]);
  expect([2, 3.5, 6].map((seconds) => stateAt(seconds, 1))).toEqual(['lowered', 'raised', 'lowered']);
  expect([2.9, 3.2, 4].map((seconds) => stateAt(seconds, 2))).toEqual(['calm', 'hit left', 'calm']);
  expect([11.4, 11.7, 13].map((seconds) => stateAt(seconds, 2))).toEqual(['calm', 'hit head right', 'calm']);
  expect([11.7, 13, 14].map((seconds) => stateAt(seconds, 3))).toEqual(['calm', 'hit leg left', 'calm']);

  const body = new FieldBody(kit, blobs, rules);
  const poser = new Poser(flattenParts(kit));
  const pose = newPose(poser.flat);
  const head = Object.values(kit.parts).find(({ name }) => name === 'head')!.id;
  let before: number[] | null = null;
  let lowest = Infinity;
  for (let i = 0; i < 12 * FIELD_RATE; i++) {
    const seconds = i / FIELD_RATE;
    const values = { ahead: seconds < 3 ? 3 : 0, down: seconds > 5 && seconds < 8 ? 'yes' : 'no' };
    body.frame({ values, turning: 0 });
    body.pose(pose);
    copyPose(poser.pose, pose);
    poser.update();
    const here = [...poser.worldOf(head).subarray(12, 15)];
    if (before) expect(Math.hypot(...here.map((value, k) => value - before![k]))).toBeLessThan(0.16);
    lowest = Math.min(lowest, here[1]);
    before = here;
  }
  // It lay, and stands again.
  expect(lowest).toBeLessThan(0.5);
  expect(before![1]).toBeGreaterThan(1.2);
}, 60_000);
