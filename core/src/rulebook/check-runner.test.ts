import { produce } from 'immer';
import fc from 'fast-check';
import type { Kit } from '../document';
import { runCall } from '../operations';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { CheckRunner, runChecks } from './check-runner';

const frozen = (kit: Kit): Kit => produce(kit, (draft) => void (draft.name = 'Frozen'));

test('what did not change is not checked again', () => {
  const { kit, blobs } = SOUND.brinework();
  const runner = new CheckRunner(SHIPPED.brinework, blobs);
  const first = frozen(kit);
  runner.run(first);
  expect(runner.ran).toBe(SHIPPED.brinework.rules.length);
  runner.run(first);
  expect(runner.ran).toBe(0);
  const renamed = runCall(first, { operation: 'shape.rename', args: { names: { hook: 'Hook!' } } }, blobs).kit;
  expect(runner.run(renamed)).toEqual(runChecks({ kit: renamed, rulebook: SHIPPED.brinework, blobs }));
  expect(runner.ran).toBeLessThan(SHIPPED.brinework.rules.length / 3);
  const eased = runCall(renamed, { operation: 'wiring.set-binding', args: { binding: 'x', outside: 'extend' } }, blobs).kit;
  runner.run(eased);
  // What goes by how a table is played beyond its ends: its range twice, neutral, and the two that probe which way it goes.
  expect(runner.ran).toBeLessThanOrEqual(5);
});

test('a finding that names a part is said anew when only the name has changed', () => {
  const { kit, blobs } = SOUND.brinework();
  kit.parts.hook.hidden = true;
  const runner = new CheckRunner(SHIPPED.brinework, blobs);
  const first = frozen(kit);
  expect(runner.run(first)[0].message).toContain('“hook”');
  const renamed = runCall(first, { operation: 'shape.rename', args: { names: { hook: 'anchor' } } }, blobs).kit;
  expect(runner.run(renamed)[0].message).toContain('“anchor”');
});

test('another price is no reason to look at the way again', () => {
  const { kit, blobs } = SOUND.plotwick();
  const runner = new CheckRunner(SHIPPED.plotwick, blobs);
  const first = frozen(kit);
  runner.run(first);
  const priced = runCall(first, { operation: 'grounds.set-facts', args: { facts: { price: 1e9 } } }, blobs).kit;
  expect(runner.run(priced).map(({ rule }) => rule)).toContain('facts-said');
  expect(runner.ran).toBe(1);
});

const EDITS = [
  { operation: 'shape.rename', args: { names: { PART: 'Odd Name' } } },
  { operation: 'shape.rename', args: { names: { PART: 'fine_name' } } },
  { operation: 'shape.set-hidden', args: { parts: ['PART'], hidden: true } },
  { operation: 'shape.set-transform', args: { part: 'PART', translation: [0.1000001, 0, 9] } },
  { operation: 'shape.set-transform', args: { part: 'PART', scale: [2, 1, 1] } },
  { operation: 'shape.set-role', args: { parts: ['PART'], role: 'seat' } },
  { operation: 'shape.apply-scale', args: { parts: ['PART'] } },
  { operation: 'shape.remove-parts', args: { parts: ['PART'] } },
  { operation: 'shape.recompute-normals', args: { parts: ['PART'], angleDegrees: 10 } },
  { operation: 'shape.reparent', args: { parts: ['PART'], parent: null, keep: 'world' } },
  { operation: 'shape.gather-under-root', args: { name: 'base' } },
  { operation: 'motion.add-clip', args: { name: 'c', lengthSeconds: 1.01, rate: 25, loop: 'loop' } },
  { operation: 'grounds.set-facts', args: { facts: { price: 7, kind: null } } },
  { operation: 'grounds.set-footprint', args: { footprint: { low: [0, 0, -2], high: [4, 0, 2] }, tile: 2 } },
  { operation: 'grounds.set-state', args: { state: 'idle', clip: null, from: 0, to: null, over: 0 } },
  { operation: 'grounds.set-glow', args: { material: 'recolour-1', factor: 2, colour: [1, 1, 1] } },
  { operation: 'kit.set-aside', args: { rulebook: 'glasswink', finding: 'names', reason: 'So.' } },
];

test.each(Object.keys(SHIPPED))('after any edits, checking on says what checking from nothing says: %s', (book) => {
  const ids = Object.keys(SOUND[book]().kit.parts);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(EDITS.length - 1), fc.nat(ids.length - 1)), { minLength: 1, maxLength: 8 }), (edits) => {
      const { kit, blobs } = SOUND[book]();
      let current = frozen(kit);
      const runner = new CheckRunner(SHIPPED[book], blobs);
      runner.run(current);
      for (const [edit, part] of edits) {
        const call = JSON.parse(JSON.stringify(EDITS[edit]).replaceAll('PART', ids[part])) as (typeof EDITS)[number];
        try {
          current = runCall(current, call, blobs).kit;
        } catch {
          continue;
        }
        expect(runner.run(current)).toEqual(runChecks({ kit: current, rulebook: SHIPPED[book], blobs }));
      }
    }),
    { seed: 7, numRuns: 25 },
  );
});
