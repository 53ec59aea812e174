import { emptyKit, MemoryBlobs, newPart } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import { coverFaults } from '@itchkit/core/wiring';
import { blurCall, evenSpans, proposedBlur, proposedSwitches } from './switch-proposal';

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

test('a blurred stand-in begins about the axis that turns, by the speed of the same machine, from the middle of its range', () => {
  const kit = emptyKit('Crane');
  kit.parts.wheel = newPart({ id: 'wheel', name: 'drv_pump_wheel' });
  const rows = [0, 360].map((value) => ({ value, offset: [0, 0, 0], turn: [0, 0, value], size: [1, 1, 1] }));
  kit.bindings.b = { id: 'b', part: 'wheel', variable: 'pump_wheel_phase', index: 2, outside: 'wrap', rows } as never;
  const of = (name: string, unit: string, max: number, indices: number) => ({ ...variable, name, unit, min: 0, max, indices });
  const variables = [of('pump_wheel_phase', 'deg', 360, 4), of('crane_speed', 'rpm', 40, 4), of('pump_speed', 'rpm', 90, 4)];
  const naming = {
    patterns: [
      { role: 'driven', prefix: 'drv_' },
      { role: null, prefix: '' },
    ],
  };
  const rulebook = { variables, naming, materials: { alphaModes: ['OPAQUE', 'MASK'] } } as unknown as Rulebook;
  const blur = proposedBlur(kit, 'wheel', rulebook);
  expect(blur).toEqual({ axis: 2, variable: 'pump_speed', index: 2, from: 45 });
  expect(blurCall(kit, 'wheel', blur, rulebook).args).toMatchObject({ cut: true, bothWays: false, index: 2, name: 'pump_wheel_blurred' });
  expect(blurCall(kit, 'wheel', { ...blur, index: 9 }, { ...rulebook, materials: undefined } as Rulebook).args).toMatchObject({
    cut: false,
    index: 3,
  });
});
