import { emptyKit, MemoryBlobs, newPart } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';
import type { Variable } from '@itchkit/core/rulebook';
import { coverFaults } from '@itchkit/core/wiring';
import { evenSpans, proposedSwitches } from './switch-proposal';

const variable = { name: 'wheel_speed', min: -30, max: 90, neutral: 0, unit: 'deg/s', indices: 0 } as Variable;

test.each([2, 3, 7])('%i parts share a range out: each value is shown once, and each part somewhere', (parts) => {
  const list = evenSpans(variable, parts).map((span) => ({ spans: [span] }));
  expect(coverFaults(list, variable.min, variable.max)).toEqual([]);
  for (const one of list) expect(coverFaults([one], variable.min, variable.max).length).toBeLessThan(3);
});

test('several chosen parts stand for one another, one by itself stands alone', () => {
  const kit = emptyKit('Crane');
  ['still', 'blurred'].forEach((id, order) => (kit.parts[id] = newPart({ id, name: id, order })));
  const after = (parts: string[]) =>
    proposedSwitches(kit, parts, variable, null).reduce((now, call) => runCall(now, call, new MemoryBlobs()).kit, kit).switches!;
  expect(after(['still', 'blurred']).map(({ part, among, spans }) => [part, among, spans])).toEqual([
    ['still', 'still', [{ from: null, to: 30 }]],
    ['blurred', 'still', [{ from: 30, to: null }]],
  ]);
  expect(after(['blurred']).map(({ among, spans }) => [among, spans])).toEqual([['', [{ from: 30, to: null }]]]);
});
