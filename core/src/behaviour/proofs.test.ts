import fc from 'fast-check';
import type { Condition, Id, Layer, Passage } from '../document';
import { playLayer } from './interpreter';
import { proofsOf, type Claim } from './proofs';
import type { ParameterRule, Values } from './rules';

const PARAMETERS: ParameterRule[] = [
  { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: 0, max: 6 },
  { name: 'blows', title: 'Blows', about: '', kind: 'number', unit: '', min: 0, max: 3, whole: true },
  { name: 'gait', title: 'Gait', about: '', kind: 'names', values: ['upright', 'limping', 'crawling'] },
  { name: 'hurt', title: 'Hurt', about: '', kind: 'yes-no' },
  { name: 'fell', title: 'Fell', about: '', kind: 'signal' },
  { name: 'side', title: 'To the side', about: '', kind: 'number', unit: 'm/s', min: -6, max: 6, always: 0 },
];
/** Values of each parameter such that any two that some condition of these tests tells apart are both there. */
const SAMPLES: Record<string, (number | string | boolean)[]> = {
  ahead: [0, 0.5, 1, 1.5, 2, 2.5, 3, 6],
  blows: [0, 1, 2, 3],
  gait: ['upright', 'limping', 'crawling'],
  hurt: ['no', 'yes'],
  fell: [false, true],
  side: [0],
};
const ALL: Values[] = Object.entries(SAMPLES).reduce<Values[]>(
  (all, [name, values]) => all.flatMap((one) => values.map((value) => ({ ...one, [name]: value }))),
  [{}],
);

const bound = fc.constantFrom(null, 0, 1, 2, 3, 0.5, 7);
const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .record({ parameter: fc.constantFrom('ahead', 'blows', 'side', 'gait', 'nothing such'), atLeast: bound, below: bound })
    .filter(({ atLeast, below }) => atLeast !== null || below !== null)
    .map((one) => ({ kind: 'range' as const, ...one })),
  fc
    .subarray(['upright', 'limping', 'crawling', 'flying'], { minLength: 1 })
    .map((values) => ({ kind: 'among' as const, parameter: 'gait', values })),
  fc.constantFrom('yes', 'no').map((value) => ({ kind: 'among' as const, parameter: 'hurt', values: [value] })),
  fc.constant({ kind: 'sent' as const, parameter: 'fell' }),
);
const machine = fc
  .record({
    states: fc.array(fc.record({ still: fc.boolean(), loop: fc.boolean() }), { minLength: 1, maxLength: 5 }),
    passages: fc.array(
      fc.record({
        from: fc.option(fc.nat(4), { freq: 3 }),
        to: fc.nat(4),
        except: fc.subarray([0, 1, 2, 3, 4], { maxLength: 2 }),
        when: fc.array(condition, { maxLength: 3 }),
        after: fc.constantFrom('any' as const, 'end' as const),
        over: fc.constantFrom(0, 0, 0.2),
      }),
      { maxLength: 9 },
    ),
  })
  .map(({ states, passages }): Layer => {
    const id = (n: number) => `s${n % states.length}`;
    return {
      id: 'layer',
      name: 'Body',
      parts: [],
      how: 'replaces',
      first: 's0',
      states: states.map(({ still, loop }, i) => ({ id: `s${i}`, name: `State ${i}`, clip: still ? null : 'clip', speed: 1, loop })),
      passages: passages
        .map((one, i): Passage => ({
          ...one,
          id: `p${i}`,
          from: one.from === null ? null : id(one.from),
          to: id(one.to),
          except: one.from === null ? [...new Set(one.except.map(id))] : [],
        }))
        .filter(({ from, to }) => from !== to),
    };
  });

/** Conditions read as anybody would, by nothing of ours. */
function plainlyHolds(when: readonly Condition[], values: Values): boolean {
  for (const one of when) {
    const value = values[one.parameter];
    if (one.kind === 'sent' && value !== true) return false;
    if (one.kind === 'among' && !one.values.includes(String(value))) return false;
    if (one.kind === 'range') {
      if (typeof value !== 'number') return false;
      if (one.atLeast !== null && value < one.atLeast) return false;
      if (one.below !== null && value >= one.below) return false;
    }
  }
  return true;
}

const still = (layer: Layer, state: Id) => layer.states.find((one) => one.id === state)!.clip === null;

/** What can be taken from a state under some values, in their order. */
function candidates(layer: Layer, state: Id, values: Values, ended: boolean): Passage[] {
  return layer.passages.filter((one) => {
    const leads = one.from === null ? one.to !== state && !one.except.includes(state) : one.from === state;
    return leads && (one.after === 'any' || ended || still(layer, state)) && plainlyHolds(one.when, values);
  });
}

/** Everything that can happen, by trying all values in every state that is come to, before the end of its clip and at it. */
function tried(layer: Layer) {
  const reached = new Set([layer.first]);
  const taken = new Set<Id>();
  const ways = new Set<Id>();
  const pairs = new Set<string>();
  const rounds = new Set<string>();
  for (const state of reached)
    for (const values of ALL)
      for (const ended of [false, true]) {
        const [first, ...others] = candidates(layer, state, values, ended);
        if (!first) continue;
        taken.add(first.id);
        ways.add(state);
        reached.add(first.to);
        for (const other of others) if (other.to !== first.to) pairs.add(`${first.id} ${other.id}`);
      }
  for (const start of reached)
    for (const values of ALL) {
      const path = [start];
      for (;;) {
        const [next] = candidates(layer, path[path.length - 1], values, false);
        if (!next || next.over > 0) break;
        const round = path.indexOf(next.to);
        if (round >= 0) {
          rounds.add(path.slice(round).sort().join(' '));
          break;
        }
        path.push(next.to);
      }
    }
  return { reached, taken, ways, pairs, rounds };
}

const of = <K extends Claim['kind']>(claims: readonly Claim[], kind: K) =>
  claims.filter((one): one is Extract<Claim, { kind: K }> => one.kind === kind);
const sorted = (all: Iterable<string>) => [...all].sort();

test('what is proven is what happens when everything is tried, and what is shown does happen', () => {
  const met = { never: 0, both: 0, endless: 0, unreached: 0, stuck: 0 };
  fc.assert(
    fc.property(machine, (layer) => {
      const claims = proofsOf({ layers: [layer] }, PARAMETERS, (state) => still(layer, state));
      const { reached, taken, ways, pairs, rounds } = tried(layer);
      expect(sorted(of(claims, 'unreached').map(({ state }) => state))).toEqual(
        sorted(layer.states.map(({ id }) => id).filter((id) => !reached.has(id))),
      );
      if (layer.states.length > 1)
        expect(sorted(of(claims, 'stuck').map(({ state }) => state))).toEqual(sorted([...reached].filter((id) => !ways.has(id))));
      const never = new Set(of(claims, 'never').map(({ passage }) => passage));
      for (const { id, from, to, except } of layer.passages) {
        if (taken.has(id)) expect(never.has(id)).toBe(false);
        // Of what begins where nothing leads the state is told, unless its conditions contradict one another.
        else if (from === null ? [...reached].some((state) => state !== to && !except.includes(state)) : reached.has(from))
          expect(never.has(id)).toBe(true);
      }
      const both = of(claims, 'both');
      expect(sorted(both.map(({ passages }) => passages.join(' ')))).toEqual(sorted(pairs));
      for (const { state, passages, values } of both) {
        const held = [false, true].map((ended) => candidates(layer, state, values, ended).map(({ id }) => id));
        expect(held.some((list) => list[0] === passages[0] && list.includes(passages[1]))).toBe(true);
      }
      const endless = of(claims, 'endless');
      expect(sorted(endless.map(({ states }) => [...states].sort().join(' ')))).toEqual(sorted(rounds));
      for (const { states, values } of endless) {
        const lengthOf = ({ clip }: { clip: Id | null }) => (clip === null ? 0 : 10);
        expect(playLayer(layer, { state: states[0], seconds: 1 }, values, 0.01, { lengthOf, chain: 50 }).endless).toBe(true);
      }
      for (const kind of Object.keys(met) as (keyof typeof met)[]) met[kind] += of(claims, kind).length;
    }),
    { numRuns: 1000, endOnFailure: true },
  );
  // The property speaks of each kind.
  for (const times of Object.values(met)) expect(times).toBeGreaterThan(20);
});

const passage = (id: Id, from: Id | null, to: Id, when: Condition[] = [], more: Partial<Passage> = {}): Passage => ({
  id,
  from,
  except: [],
  to,
  when,
  after: 'any',
  over: 0.2,
  ...more,
});
const faster = (atLeast: number | null, below: number | null = null): Condition => ({ kind: 'range', parameter: 'ahead', atLeast, below });
const body = (passages: Passage[], names = ['stand', 'walk', 'run']): Layer => ({
  id: 'body',
  name: 'Body',
  parts: [],
  how: 'replaces',
  first: names[0],
  states: names.map((name) => ({ id: name, name, clip: name, speed: 1, loop: true })),
  passages,
});
const proven = (layer: Layer) => proofsOf({ layers: [layer] }, PARAMETERS, () => false).filter(({ kind }) => kind !== 'unread');

describe('facts of a body that stands, walks and runs', () => {
  test('thresholds that meet prove nothing wrong', () => {
    const sound = body([
      passage('a', 'stand', 'walk', [faster(0.5)]),
      passage('b', 'walk', 'stand', [faster(null, 0.5)]),
      passage('c', 'walk', 'run', [faster(3)]),
      passage('d', 'run', 'walk', [faster(null, 3)]),
    ]);
    expect(proven(sound)).toEqual([]);
  });

  test('two conditions that contradict one another are never met, and what lies behind is not reached', () => {
    const layer = body([passage('a', 'stand', 'walk', [faster(2), faster(null, 1)])], ['stand', 'walk']);
    expect(proven(layer)).toEqual([
      { kind: 'stuck', layer: 'body', state: 'stand' },
      { kind: 'unreached', layer: 'body', state: 'walk' },
      { kind: 'never', layer: 'body', passage: 'a', because: 'contradicts', by: [] },
    ]);
  });

  test('a passage that two earlier ones cover together is never taken, and they are named', () => {
    const layer = body([
      passage('slow', 'stand', 'walk', [faster(null, 2)]),
      passage('fast', 'stand', 'run', [faster(2)]),
      passage('late', 'stand', 'run', [{ kind: 'among', parameter: 'hurt', values: ['yes'] }]),
      passage('back', null, 'stand', [{ kind: 'sent', parameter: 'fell' }]),
    ]);
    expect(proven(layer)).toContainEqual({ kind: 'never', layer: 'body', passage: 'late', because: 'earlier', by: ['slow', 'fast'] });
  });

  test('what this platform never sends is no way: to the side is always 0', () => {
    const layer = body(
      [passage('a', 'stand', 'walk', [{ kind: 'range', parameter: 'side', atLeast: 1, below: null }]), passage('b', 'walk', 'stand')],
      ['stand', 'walk'],
    );
    expect(of(proven(layer), 'never').map(({ passage: id }) => id)).toEqual(['a']);
    expect(of(proven(layer), 'unreached').map(({ state }) => state)).toEqual(['walk']);
  });

  test('what the platform does not know is named, and so are names that nothing tells apart', () => {
    const layer = body(
      [
        passage('a', 'stand', 'walk', [{ kind: 'among', parameter: 'gait', values: ['limping', 'crawling', 'flying'] }]),
        passage('b', 'walk', 'stand', [faster(1), { kind: 'sent', parameter: 'hurt' }]),
      ],
      ['stand', 'walk'],
    );
    const claims = proven(layer);
    expect(of(claims, 'unknown').map(({ parameter, value }) => [parameter, value])).toEqual([
      ['gait', 'flying'],
      ['hurt', null],
    ]);
    expect(of(claims, 'alike')).toEqual([{ kind: 'alike', parameter: 'gait', values: ['limping', 'crawling'] }]);
  });
});

test('of conditions that combine in too many ways that is said, and soon', () => {
  const parameters = Array.from({ length: 40 }, (_, i): ParameterRule => ({ name: `p${i}`, title: '', about: '', kind: 'yes-no' }));
  const is = (i: number, value: string): Condition => ({ kind: 'among', parameter: `p${i % 40}`, values: [value] });
  // Three conditions each, over forty parameters: whether they cover everything is as hard as any riddle.
  const passages = Array.from({ length: 2000 }, (_, i) =>
    passage(
      `p${i}`,
      null,
      ['stand', 'walk', 'run'][i % 3],
      [is(i * 7, 'yes'), is(i * 11 + 3, 'no'), is(i * 13 + 5, i % 2 ? 'yes' : 'no')],
      { over: 0 },
    ),
  );
  const claims = proofsOf({ layers: [body(passages)] }, parameters, () => false);
  expect(claims.map(({ kind }) => kind)).toContain('unsure');
});

describe('a frame', () => {
  const lengthOf = () => 2;
  test('takes the first that holds, and goes on within the frame only after 0 seconds', () => {
    const layer = body([passage('a', 'stand', 'walk', [faster(1)], { over: 0 }), passage('b', 'walk', 'run', [faster(3)])]);
    const play = (ahead: number) => playLayer(layer, { state: 'stand', seconds: 0 }, { ahead }, 0.1, { lengthOf, chain: 8 });
    expect(play(0)).toEqual({ at: { state: 'stand', seconds: 0.1 }, taken: [], endless: false });
    expect(play(2)).toEqual({ at: { state: 'walk', seconds: 0 }, taken: ['a'], endless: false });
    expect(play(4)).toEqual({ at: { state: 'run', seconds: 0 }, taken: ['a', 'b'], endless: false });
  });

  test('at the end of a clip, or of a round of it, lets through what waits for that, and no frame later', () => {
    const layer = body([passage('a', 'stand', 'walk', [], { after: 'end' })], ['stand', 'walk']);
    const from = (seconds: number) => playLayer(layer, { state: 'stand', seconds }, {}, 0.1, { lengthOf, chain: 8 }).taken;
    expect([from(1.85), from(1.95), from(2.05), from(3.95)]).toEqual([[], ['a'], [], ['a']]);
    layer.states[0].loop = false;
    expect([from(1.85), from(1.95), from(2.05)]).toEqual([[], ['a'], ['a']]);
  });
});
