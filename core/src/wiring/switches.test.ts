import fc from 'fast-check';
import { callOf, type Kit, type Span } from '../document';
import { chainKit, run } from '../tests/helpers';
import { closeCover, coverFaults, isShown, moveEdge, removeSwitches, setSpans, setSwitch } from './switches';

const [MIN, MAX] = [-10, 10];
const end = fc.option(fc.integer({ min: -14, max: 14 }));
const span: fc.Arbitrary<Span> = fc.tuple(end, end).map(([a, b]) => {
  if (a === null || b === null) return { from: a, to: b };
  return { from: Math.min(a, b), to: a === b ? a + 1 : Math.max(a, b) };
});
const parts = fc.array(
  fc.array(span, { maxLength: 4 }).map((spans) => ({ spans })),
  { minLength: 1, maxLength: 5 },
);
/** Every value at which anything could change, and between them. */
const VALUES = Array.from({ length: 8 * (MAX - MIN) + 1 }, (_, i) => MIN + i / 8);

test('a part is shown from a value on, and no more at the one where its span ends', () => {
  const one = {
    spans: [
      { from: 2, to: 5 },
      { from: 8, to: null },
    ],
  };
  expect([1.999, 2, 4.999, 5, 7, 8, 1e9].map((value) => isShown(one, value))).toEqual([false, true, true, false, false, true, true]);
  expect(isShown({ spans: [{ from: null, to: 0 }] }, -1e9)).toBe(true);
});

test('gaps and overlaps are those that asking at every value finds, for any spans', () => {
  fc.assert(
    fc.property(parts, (list) => {
      const faults = coverFaults(list, MIN, MAX);
      for (const value of VALUES) {
        const shown = list.flatMap((one, i) => (isShown(one, value) ? [i] : []));
        const told = faults.find(({ from, to, withEnd }) => value >= from && (value < to || (withEnd && value === to)));
        expect(told?.shown ?? 'once').toEqual(shown.length === 1 ? 'once' : shown);
      }
    }),
    { numRuns: 300 },
  );
});

test('a part that ends exactly with the range leaves its last value uncovered', () => {
  const list = [{ spans: [{ from: null, to: 0 }] }, { spans: [{ from: 0, to: MAX }] }];
  expect(coverFaults(list, MIN, MAX)).toEqual([{ from: MAX, to: MAX, withEnd: true, shown: [] }]);
  expect(closeCover(list, MIN, MAX)).toEqual([[{ from: null, to: 0 }], [{ from: 0, to: null }]]);
});

test('closed, every value is shown once; what was shown once stays with its part; closed twice is as closed', () => {
  fc.assert(
    fc.property(parts, (list) => {
      const closed = closeCover(list, MIN, MAX).map((spans) => ({ spans }));
      expect(coverFaults(closed, MIN, MAX)).toEqual([]);
      for (const value of VALUES) {
        const before = list.flatMap((one, i) => (isShown(one, value) ? [i] : []));
        if (before.length === 1) expect(closed.findIndex((one) => isShown(one, value))).toBe(before[0]);
      }
      expect(closeCover(closed, MIN, MAX)).toEqual(closed.map(({ spans }) => spans));
    }),
    { numRuns: 300 },
  );
});

const kitOf = () => {
  const { kit, blobs } = chainKit([{ id: 'still' }, { id: 'blurred' }]);
  const add = (part: string, spans: Span[]) =>
    callOf(setSwitch, { id: part, part, variable: 'wheel_speed', index: null, spans, among: 'wheel' });
  const both = run(kit, blobs, add('still', [{ from: null, to: 60 }]), add('blurred', [{ from: 60, to: null }]));
  return { kit: both, do: (...calls: Parameters<typeof run>[2][]) => run(both, blobs, ...calls), blobs };
};
const spansIn = (kit: Kit) => Object.fromEntries(kit.switches!.map(({ id, spans }) => [id, spans]));

test('an edge that two parts share moves for both; past the next one it does not go', () => {
  const { do: after, kit } = kitOf();
  expect(spansIn(after(callOf(moveEdge, { switches: ['still', 'blurred'], at: 60, to: 80 })))).toEqual({
    still: [{ from: null, to: 80 }],
    blurred: [{ from: 80, to: null }],
  });
  const three = after(
    callOf(setSpans, {
      switches: {
        still: [
          { from: 0, to: 10 },
          { from: 20, to: 30 },
        ],
      },
    }),
  );
  expect(three.switches).toHaveLength(2);
  expect(() =>
    after(
      callOf(setSpans, {
        switches: {
          still: [
            { from: 0, to: 10 },
            { from: 20, to: 30 },
          ],
        },
      }),
      callOf(moveEdge, { switches: ['still'], at: 10, to: 25 }),
    ),
  ).toThrow('At 25 the edge would pass the next one.');
  expect(spansIn(kit).still).toEqual([{ from: null, to: 60 }]);
});

test('spans that meet or lie over one another become one; one that is nothing is refused', () => {
  const { do: after } = kitOf();
  const set = (spans: Span[]) => spansIn(after(callOf(setSpans, { switches: { still: spans } }))).still;
  expect(
    set([
      { from: 5, to: 9 },
      { from: 0, to: 5 },
      { from: 20, to: null },
      { from: 8, to: 12 },
    ]),
  ).toEqual([
    { from: 0, to: 12 },
    { from: 20, to: null },
  ]);
  expect(() => set([{ from: 5, to: 5 }])).toThrow('From 5 to 5 is nothing.');
});

test('a part has one switch; taken off, nothing is left of it in the document', () => {
  const { do: after } = kitOf();
  const again = after(callOf(setSwitch, { part: 'still', variable: 'other', index: 2, spans: [], among: '' }));
  expect(again.switches!.filter(({ part }) => part === 'still')).toEqual([
    { id: 'still', part: 'still', variable: 'other', index: 2, spans: [], among: '' },
  ]);
  expect(after(callOf(removeSwitches, { switches: ['still', 'blurred'] })).switches).toBeUndefined();
  expect(() => after(callOf(removeSwitches, { switches: ['gone'] }))).toThrow('That switch is no longer in the kit.');
});
