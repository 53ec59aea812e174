import { callOf, emptyKit, MemoryBlobs, newPart, type Binding, type BindingRow, type Call, type Kit } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';
import { addBinding, setDerived } from '@itchkit/core/wiring';
import { boundLevers, capture, inView, valueOf } from './levers';

const blobs = new MemoryBlobs();
const run = (kit: Kit, ...calls: Call[]) => calls.reduce((now, call) => runCall(now, call, blobs).kit, kit);
const row = (value: number, turn = 0): BindingRow => ({ value, offset: [0, 0, 0], turn: [turn, 0, 0], size: [1, 1, 1] });
const bind = (id: string, part: string, variable: string) =>
  callOf(addBinding, { id, part, variable, index: 0, outside: 'clamp' as const, rows: [row(0), row(10, 20)] });

function kitOf(): Kit {
  const kit = emptyKit('Crane');
  ['gate', 'latch', 'loose', 'jib'].forEach((id, order) => (kit.parts[id] = newPart({ id, name: id, order })));
  return run(kit, bind('x', 'latch', 'gate_lift'), bind('y', 'gate', 'gate_lift'), bind('z', 'jib', 'crane_luff_angle'));
}

const delta = { offset: [0, 0.5, 0], turn: [0, 0, 0], size: [1, 1, 1] } as const;
const posed = (...parts: string[]) => Object.fromEntries(parts.map((part) => [part, structuredClone(delta) as never]));
const lever = (kit: Kit) => boundLevers(kit, undefined)[0];

test('parts of one variable stand together, in the order of the parts', () => {
  expect(boundLevers(kitOf(), undefined).map(({ key, bindings }) => [key, bindings.map(({ part }) => part)])).toEqual([
    ['gate_lift[0]', ['gate', 'latch']],
    ['crane_luff_angle[0]', ['jib']],
  ]);
});

test('all parts that were posed are written at the lever’s value, and one that follows nothing is bound', () => {
  const kit = kitOf();
  const found = capture(kit, lever(kit), kit.bindings.y, 4, posed('gate', 'loose'));
  if ('why' in found) throw new Error(found.why);
  const after = run(kit, ...found.calls);
  const rowsOf = (part: string) =>
    Object.values(after.bindings)
      .find((one: Binding) => one.part === part)!
      .rows.map(({ value }) => value);
  expect([rowsOf('gate'), rowsOf('latch'), rowsOf('loose')]).toEqual([
    [0, 4, 10],
    [0, 10],
    [0, 4],
  ]);
});

test('where nothing was posed, the chosen part is kept as its table has it there', () => {
  const kit = kitOf();
  const found = capture(kit, lever(kit), kit.bindings.y, 5, {});
  if ('why' in found) throw new Error(found.why);
  expect(run(kit, ...found.calls).bindings.y.rows[1]).toEqual(row(5, 10));
});

test('neutral stays rest, and a part has one driver: both are said', () => {
  const kit = kitOf();
  expect(capture(kit, lever(kit), kit.bindings.y, 0, posed('gate'))).toEqual({ why: expect.stringContaining('neutral') as string });
  expect(capture(kit, lever(kit), kit.bindings.y, 4, posed('jib'))).toEqual({
    why: expect.stringContaining('follows crane_luff_angle[0]') as string,
  });
});

test('a variable of the kit’s own stands where it is worked out, unless its lever says otherwise; what it is worked out of has a lever too', () => {
  const rulebook = { variables: [{ name: 'tide_way', indices: 0, neutral: 2 } as never] };
  const kit = run(
    kitOf(),
    callOf(setDerived, { id: 'd', name: 'phase', expression: '10 * tide_way', unit: 'deg', min: -100, max: 100, neutral: 0 }),
    callOf(addBinding, { id: 'w', part: 'loose', variable: 'phase', index: null, outside: 'clamp', rows: [row(0)] }),
  );
  const levers = boundLevers(kit, rulebook);
  expect(levers.find(({ key }) => key === 'tide_way')).toMatchObject({ bindings: [], feeds: ['phase'] });
  const own = levers.find(({ key }) => key === 'phase')!;
  expect(valueOf(kit, rulebook, own, {})).toBe(20);
  expect(valueOf(kit, rulebook, own, { tide_way: -3 })).toBe(-30);
  expect(valueOf(kit, rulebook, own, { tide_way: -3, phase: 5 })).toBe(5);
  expect(inView(levers, 'w')?.lever.key).toBe('phase');
  expect(inView(levers, null)?.binding.part).toBe('gate');
});
