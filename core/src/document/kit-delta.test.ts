import { runCall } from '../operations';
import { chainKit } from '../tests/helpers';
import { applyDelta, deltaOf } from './kit-delta';
import type { Kit } from './kit';

const sent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

test('a kit sent as deltas is the same kit, and what was not touched stays the same record', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }, { id: 'c' }]);
  let here: Kit = kit;
  let there = applyDelta(null, sent(deltaOf(null, here)));
  expect(there).toEqual(here);
  const steps = [
    { operation: 'shape.rename', args: { names: { b: 'x' } } },
    { operation: 'kit.set-aside', args: { rulebook: 'r', finding: 'f', reason: 'So.' } },
    { operation: 'shape.remove-parts', args: { parts: ['c'] } },
    { operation: 'motion.add-clip', args: { name: 'c', lengthSeconds: 1, rate: 30, loop: 'loop' } },
  ];
  for (const call of steps) {
    const next = runCall(here, call, blobs).kit;
    const arrived = applyDelta(there, sent(deltaOf(here, next)));
    expect(arrived).toEqual(next);
    expect(arrived.parts.a).toBe(there.parts.a);
    [here, there] = [next, arrived];
  }
  expect(applyDelta(there, sent(deltaOf(here, kit)))).toEqual(kit);
  expect(deltaOf(here, here)).toEqual({ tables: {}, others: {}, dropped: [] });
});
