import fc from 'fast-check';
import {
  checkKit,
  emptyKit,
  fieldChanges,
  fieldWords,
  makeChanges,
  newPart,
  valueWords,
  type FieldChange,
  type Kit,
  type PathStep,
} from '.';
import { loadSimplifier } from '../shape';
import { OPERATIONS, runCall } from '../operations';
import { CALLS, made } from '../tests/calls';

beforeAll(loadSimplifier);

/** As it comes out at the other end of a wire. */
const sent = (changes: FieldChange[]): FieldChange[] => JSON.parse(JSON.stringify(changes)) as FieldChange[];

function after(operation: string): { kit: Kit; next: Kit } {
  const { kit, blobs } = made();
  return { kit, next: runCall(kit, { operation, args: CALLS[operation] }, blobs).kit };
}

describe.each([...OPERATIONS.keys()])('%s', (operation) => {
  test('is what its changes of fields make, there and back', () => {
    const { kit, next } = after(operation);
    const there = makeChanges(kit, sent(fieldChanges(kit, next)));
    expect(there.clashes).toEqual([]);
    expect(there.kit).toEqual(next);
    const back = makeChanges(next, sent(fieldChanges(next, kit)));
    expect(back).toEqual({ kit, clashes: [] });
  });

  test('made a second time changes nothing more', () => {
    const { kit, next } = after(operation);
    const changes = fieldChanges(kit, next);
    expect(makeChanges(makeChanges(kit, changes).kit, changes)).toEqual({ kit: next, clashes: [] });
  });
});

const written = (path: readonly PathStep[]) => JSON.stringify(path);
/** Whether one path leads through the other. */
const meet = (a: readonly PathStep[], b: readonly PathStep[]) => {
  const shared = Math.min(a.length, b.length);
  return written(a.slice(0, shared)) === written(b.slice(0, shared));
};

test('two operations at once: fields that one alone changed are as it left them, the others are clashes, whatever the order', () => {
  const names = [...OPERATIONS.keys()];
  const one = fc.constantFrom(...names);
  fc.assert(
    fc.property(one, one, (a, b) => {
      const { kit, next: first } = after(a);
      const { next: second } = after(b);
      const [mine, theirs] = [fieldChanges(kit, first), fieldChanges(kit, second)];
      const merged = makeChanges(second, mine);
      const clashing = new Set(merged.clashes.map(({ change }) => written(change.path)));
      for (const { path } of mine) if (!theirs.some((other) => meet(other.path, path))) expect(clashing.has(written(path))).toBe(false);
      // What the second one made is there still, but where the first alone had its way.
      for (const { change } of makeChanges(merged.kit, theirs).clashes) expect(mine.some(({ path }) => meet(path, change.path))).toBe(true);
      for (const { change, theirs: found } of merged.clashes) expect(found).not.toEqual(change.now);
    }),
    { numRuns: 60 },
  );
});

describe('two people on one part', () => {
  const base = emptyKit('Crane');
  base.parts.jib = newPart({ id: 'jib', name: 'jib', translation: [1, 2, 3] });
  const moved = (to: [number, number, number]): Kit => ({ ...base, parts: { jib: { ...base.parts.jib, translation: to } } });

  test('the x of one and the y of the other both stay', () => {
    const { kit, clashes } = makeChanges(moved([1, 9, 3]), fieldChanges(base, moved([7, 2, 3])));
    expect([kit.parts.jib.translation, clashes]).toEqual([[7, 9, 3], []]);
  });

  test('on the same field both values are told, and the one decided for stays', () => {
    const changes = fieldChanges(base, moved([7, 2, 3]));
    const { kit, clashes } = makeChanges(moved([8, 2, 3]), changes);
    expect(kit.parts.jib.translation[0]).toBe(8);
    expect(clashes.map(({ change, theirs }) => [fieldWords(change, base), valueWords(change.now), valueWords(theirs)])).toEqual([
      ['part “jib”, position x', '7', '8'],
    ]);
    expect(makeChanges(moved([8, 2, 3]), changes, () => true).kit.parts.jib.translation[0]).toBe(7);
  });

  test('a rotation is one thing: no half of two', () => {
    const turned = (rotation: [number, number, number, number]): Kit => ({ ...base, parts: { jib: { ...base.parts.jib, rotation } } });
    const { kit, clashes } = makeChanges(turned([1, 0, 0, 0]), fieldChanges(base, turned([0, 1, 0, 0])));
    expect([kit.parts.jib.rotation, clashes.length]).toEqual([[1, 0, 0, 0], 1]);
  });

  test('a part that the other took out is not made again by halves', () => {
    const { kit, clashes } = makeChanges({ ...base, parts: {} }, fieldChanges(base, moved([7, 2, 3])));
    expect([kit.parts, clashes.length, clashes[0].theirs, clashes[0].gone]).toEqual([{}, 1, undefined, true]);
    expect(makeChanges({ ...base, parts: {} }, fieldChanges(base, moved([7, 2, 3])), () => true).kit.parts).toEqual({});
  });
});

describe('keys of one track', () => {
  const key = (time: number, value: number) => ({ time, value, easing: 'straight' as const });
  const withKeys = (...keys: ReturnType<typeof key>[]): Kit => {
    const kit = emptyKit('Crane');
    kit.parts.jib = newPart({ id: 'jib', name: 'jib' });
    const track = { kind: 'keys' as const, id: 't', part: 'jib', property: 'turn' as const, axis: 1, keys };
    kit.clips.c = { id: 'c', name: 'swing', order: 0, lengthSeconds: 2, rate: 30, loop: 'loop', tracks: [track] };
    return kit;
  };
  const keysOf = (kit: Kit) => (kit.clips.c.tracks[0] as { keys: unknown[] }).keys;

  test('set by two at different times are all there, in order', () => {
    const base = withKeys(key(0, 0), key(2, 90));
    const mine = withKeys(key(0, 0), key(0.5, 10), key(2, 90));
    const theirs = withKeys(key(0, 5), key(1, 20), key(2, 90));
    const { kit, clashes } = makeChanges(theirs, fieldChanges(base, mine));
    expect([keysOf(kit), clashes]).toEqual([[key(0, 5), key(0.5, 10), key(1, 20), key(2, 90)], []]);
    expect(() => checkKit(kit)).not.toThrow();
  });

  test('moved by one and changed by the other is a clash, told with its time', () => {
    const base = withKeys(key(0, 0), key(1, 20));
    const { clashes } = makeChanges(withKeys(key(0, 0), key(1, 33)), fieldChanges(base, withKeys(key(0, 0), key(1.5, 20))));
    expect(clashes.map(({ change }) => fieldWords(change, base))).toEqual(['clip “swing”, tracks, one of them, keys, at 1 s']);
  });
});

test('the order of fields is no difference: a database keeps one of its own', () => {
  const turnedRound = <T>(value: T): T => {
    if (Array.isArray(value)) return value.map(turnedRound) as T;
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value)
        .reverse()
        .map(([name, one]) => [name, turnedRound(one)]),
    ) as T;
  };
  for (const operation of ['shape.flip-faces', 'shape.reparent', 'shape.join-parts', 'kit.set-target']) {
    const { kit, next } = after(operation);
    expect(fieldChanges(kit, turnedRound(kit))).toEqual([]);
    expect(makeChanges(turnedRound(kit), turnedRound(fieldChanges(kit, next)))).toEqual({ kit: next, clashes: [] });
  }
});

test('a random document and another one: the changes between them lead from one to the other', () => {
  const number = fc.constantFrom(0, 1, 2);
  const kitOf = fc
    .record({
      name: fc.constantFrom('A', 'B'),
      parts: fc.dictionary(fc.constantFrom('a', 'b', 'c'), fc.record({ x: number, hidden: fc.boolean(), tail: fc.option(number) })),
      flags: fc.uniqueArray(fc.record({ id: fc.constantFrom('f', 'g', 'h'), time: number }), { selector: ({ id }) => id }),
      rows: fc.uniqueArray(number, { maxLength: 3 }).map((values) => values.sort((a, b) => a - b)),
    })
    .map(({ name, parts, flags, rows }): Kit => {
      const kit = emptyKit(name);
      for (const [id, { x, hidden, tail }] of Object.entries(parts)) {
        kit.parts[id] = newPart({ id, name: id, translation: [x, 0, 1], hidden });
        if (tail !== null) kit.parts[id].tail = [0, tail, 0];
      }
      const row = (value: number) => ({
        value,
        offset: [value, 0, 0] as [number, number, number],
        turn: [0, 0, 0] as never,
        size: [1, 1, 1] as never,
      });
      if (rows.length > 0) kit.bindings.b = { id: 'b', variable: 'v', index: null, part: 'a', outside: 'clamp', rows: rows.map(row) };
      const ofClip = { name: 'c', order: 0, lengthSeconds: 3, rate: 30, loop: 'once' as const, tracks: [] };
      kit.clips.c = { id: 'c', ...ofClip, flags: flags.map(({ id, time }) => ({ id, time, name: id, colour: 'sea' as const })) };
      return kit;
    });
  fc.assert(
    fc.property(kitOf, kitOf, (from, to) => {
      expect(makeChanges(from, sent(fieldChanges(from, to)))).toEqual({ kit: to, clashes: [] });
      expect(fieldChanges(from, structuredClone(from))).toEqual([]);
    }),
  );
});

test.each<[string, PathStep[]]>([
  ['no section', ['sections', 'x']],
  ['nothing at all', []],
  ['an object’s own insides', ['parts', '__proto__', 'polluted']],
  ['an object’s maker', ['parts', 'constructor', 'prototype', 'x']],
  ['too deep a place', ['parts', ...Array.from({ length: 20 }, () => 'x')]],
])('%s is refused, and nothing is changed', (_, path) => {
  expect(() => makeChanges(emptyKit('A'), [{ path, now: 1 }])).toThrow(/does not fit this kit/);
  expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
});

test.each<[string, PathStep]>([
  ['length', 'length'],
  ['a number far beyond its end', 4e9],
  ['a number before its start', -1],
  ['a broken number', 0.5],
])('a vector can’t be reached by %s', (_, step) => {
  const kit = emptyKit('A');
  kit.parts.a = newPart({ id: 'a', name: 'a' });
  const { kit: next, clashes } = makeChanges(kit, [{ path: ['parts', 'a', 'translation', step], now: 4e9 }], () => true);
  expect([next, clashes.length]).toEqual([kit, 1]);
});
