import plotwick from '@itchkit/rulebooks/plotwick';
import { emptyKit, MemoryBlobs, newPart } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { seatCalls } from './seat-calls';

const rulebook = checkRulebook(plotwick);
const rule = rulebook.rules.find(({ check }) => check === 'hierarchy.parents')!.id;

test('a seat put onto a part without a role hangs where it may; a part that has a role keeps it', () => {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Whirl');
  kit.parts.deck = newPart({ id: 'deck', name: 'plot-deck', role: 'base' });
  kit.parts.chair = newPart({ id: 'chair', name: 'chair', parent: 'deck' });
  kit.parts.car = newPart({ id: 'car', name: 'ride-car', role: 'driven', parent: 'deck' });
  const calls = seatCalls(kit, rulebook, ['chair', 'car'], null);
  const made = calls.reduce((now, call) => runCall(now, call, blobs).kit, kit);
  expect([made.parts.chair.role, made.parts.car.role]).toEqual(['shell', 'driven']);
  expect(Object.values(made.parts)).toHaveLength(5);
  expect(runChecks({ kit: made, rulebook, blobs }).filter((finding) => finding.rule === rule)).toEqual([]);
  expect(seatCalls(made, rulebook, ['car'], null)).toHaveLength(1);
});
