import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, type BindingRow, type Vec3 } from '../document';
import { CANONICAL, changeOfSpace, conformKit } from '../geometry';
import { checkRulebook } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBetween, addBinding, evaluateBinding } from '../wiring';
import { bindingsTable } from './bindings-table';
import { readBindingsTable, wireCalls } from './read-bindings-table';

const rulebook = checkRulebook(brinework);
const triple = (by: number) =>
  fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -90, max: 90 }).map((value) => value * by))) as fc.Arbitrary<Vec3>;
const row = (value: number) =>
  fc.record({
    value: fc.constant(value),
    offset: triple(0.01),
    turn: triple(1),
    size: fc.tuple(...[0, 1, 2].map(() => fc.constantFrom(0.5, 1, 2))) as fc.Arbitrary<Vec3>,
  }) as fc.Arbitrary<BindingRow>;

test('what a package’s table says is read back as it was, whatever the platform’s unit and axes', () => {
  fc.assert(
    fc.property(fc.tuple(row(0), row(-20), row(55)), fc.tuple(row(0), row(12)), fc.boolean(), (luff, hoist, curved) => {
      const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'drv_boom' }, { id: 'drv_hook, left' }]);
      const bare = structuredClone(kit);
      let bound = run(
        kit,
        blobs,
        callOf(addBinding, {
          id: 'x',
          part: 'drv_boom',
          variable: 'crane_luff_angle',
          index: 2,
          outside: 'clamp',
          ...(curved && { between: 'curve' as const }),
          rows: luff,
        }),
        callOf(addBinding, { id: 'y', part: 'drv_hook, left', variable: 'crane_hoist_drop', index: 0, outside: 'extend', rows: hoist }),
      );
      // Rows between are written down with how fast the curve goes there.
      if (curved) bound = run(bound, blobs, callOf(addBetween, { binding: 'x', each: 1 }));
      const shipped = structuredClone(bound);
      conformKit(shipped, changeOfSpace(CANONICAL, rulebook.space), blobs);
      const told = readBindingsTable(bindingsTable(shipped, rulebook), bare, rulebook);
      const again = run(bare, blobs, ...wireCalls(bare, told));
      for (const binding of Object.values(bound.bindings)) {
        const twin = Object.values(again.bindings).find(({ part }) => part === binding.part)!;
        expect([twin.variable, twin.index, twin.outside, twin.rows[0].value]).toEqual([
          binding.variable,
          binding.index,
          binding.outside,
          0,
        ]);
        const looks = binding.rows.flatMap(({ value }) => [value, value + 0.7]);
        for (const value of looks)
          for (const kind of ['offset', 'turn', 'size'] as const)
            evaluateBinding(twin, value)[kind].forEach((one, axis) =>
              expect(one).toBeCloseTo(evaluateBinding(binding, value)[kind][axis], 6),
            );
      }
    }),
  );
});

test('told again, the same parts follow what is told and nothing else', () => {
  const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'gate' }]);
  const text = 'part,variable,index,value,offset_z\ngate,gate_lift,1,0,0\ngate,gate_lift,1,2.4,1.5\n';
  const wire = (of: typeof kit) => run(of, blobs, ...wireCalls(of, readBindingsTable(text, of, rulebook)));
  const twice = wire(wire(kit));
  expect(Object.values(twice.bindings)).toHaveLength(1);
  // Brinework’s +z is up.
  expect(Object.values(twice.bindings)[0].rows[1].offset).toEqual([0, 1.5, 0]);
});

test.each([
  ['part,variable\n', /^Line 1: the heading has no “value”/],
  ['variable,part,index,value\ngate_lift,nobody,0,1', /^Line 2: there is no part “nobody”/],
  ['variable,part,index,value\n\ngate_lyft,gate,0,1', /^Line 3: Brinework has no variable “gate_lyft”/],
  ['variable,part,index,value\ngate_lift,gate,12,1', /^Line 2: gate_lift has the indices 0 to 11/],
  ['variable,part,index,value\ntide_height,gate,0,1', /^Line 2: tide_height has no index/],
  ['variable,part,index,value\ngate_lift,gate,0,soon', /^Line 2: “soon” is no number for value/],
  ['variable,part,index,value\ngate_lift,gate,0,', /^Line 2: there is no value/],
  ['variable,part,index,value\ngate_lift,gate,0,1\ngate_lift,gate,0,1', /^Line 3: “gate” has a row at 1 already/],
  ['variable,part,index,value,between\ngate_lift,gate,0,1,wavy', /^Line 2: “wavy” is none of straight, curve/],
  ['variable,part,index,value,outside\ngate_lift,gate,0,1,bounce', /^Line 2: “bounce” is none of clamp/],
])('%j is refused with its line', (text, sentence) => {
  const { kit } = chainKit([{ id: 'base' }, { id: 'gate' }]);
  expect(() => readBindingsTable(text, kit, rulebook)).toThrow(sentence);
});
