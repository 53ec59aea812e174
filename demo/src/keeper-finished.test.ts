import emberfold from '@itchkit/rulebooks/emberfold';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { flattenParts, newPose, Poser, copyPose } from '@itchkit/core/geometry';
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
  for (const name of ['crouch', 'fall', 'limp', 'pause', 'haste', 'crawling', 'Lantern arm', 'walk', 'Jolt', 'wave'])
    expect(told).toContain(name);
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
      seconds: 12,
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
