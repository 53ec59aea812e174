import fc from 'fast-check';
import type { Layer, Passage } from '@itchkit/core/document';
import { foldGroups, groupKey } from './fold-groups';
import type { Lit } from './map-graph';

const passage = (id: string, from: string | null, to: string): Passage => ({ id, from, to, except: [], when: [], after: 'any', over: 0.1 });
const words = { plays: (_: string, state: string) => `plays ${state}`, asks: (_: string, way: string) => `asks ${way}` };
const blows: Layer = {
  id: 'blows',
  name: 'Blows',
  parts: [],
  how: 'adds',
  first: 'calm',
  states: [
    { id: 'calm', name: 'calm', clip: null, speed: 1, loop: true },
    ...['left', 'right'].map((id) => ({ id, name: id, clip: null, speed: 1, loop: false, group: 'hit' })),
  ],
  passages: [
    passage('to left', 'calm', 'left'),
    passage('to right', 'calm', 'right'),
    passage('across', 'left', 'right'),
    passage('from left', 'left', 'calm'),
    passage('from right', 'right', 'calm'),
    passage('any', null, 'calm'),
  ],
};
const folded = new Set([groupKey('blows', 'hit')]);

test('a folded group is one halt; ways within it go, and those that lead alike are one line', () => {
  const map = foldGroups([blows], words, folded);
  const [layer] = map.layers;
  expect(layer.states.map(({ name }) => name)).toEqual(['calm', 'hit']);
  const halt = layer.states[1].id;
  expect(layer.passages.map(({ id, from, to }) => [id, from, to])).toEqual([
    ['to left', 'calm', halt],
    ['from left', halt, 'calm'],
    ['any', null, 'calm'],
  ]);
  expect([map.words.plays('blows', halt), map.words.asks('blows', 'to left'), map.words.asks('blows', 'any')]).toEqual([
    '2 states, folded',
    '2 ways',
    'asks any',
  ]);
  expect([map.haltOf('right'), map.haltOf('calm'), map.groupOf(halt), map.lineOf('to right'), map.lineOf('across')]).toEqual([
    halt,
    'calm',
    groupKey('blows', 'hit'),
    'to left',
    undefined,
  ]);
});

test('a line is lit as the strongest of its ways', () => {
  const map = foldGroups([blows], words, folded);
  const lit = new Map<string, Lit>([
    ['to left', { ago: 0.5 }],
    ['to right', 'waits'],
    ['across', 'taken'],
    ['from right', { ago: 0.2 }],
  ]);
  expect([...map.lit(lit)]).toEqual([
    ['to left', 'waits'],
    ['from left', { ago: 0.2 }],
  ]);
});

test('nothing folded is the map as it was', () => {
  const map = foldGroups([blows], words, new Set());
  expect(map.layers).toEqual([blows]);
  expect(map.words.asks('blows', 'to left')).toBe('asks to left');
});

test('whatever is folded, each line leads between halts that are there, and every way across is drawn in one', () => {
  const name = fc.constantFrom('a', 'b', 'c', 'd', 'e');
  const group = fc.option(fc.constantFrom('one', 'two'), { nil: undefined });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.option(name), name), { maxLength: 12 }),
      fc.tuple(group, group, group, group, group),
      fc.subarray(['one', 'two']),
      (ways, groups, which) => {
        const layer: Layer = {
          ...blows,
          first: 'a',
          states: ['a', 'b', 'c', 'd', 'e'].map((id, i) => ({
            id,
            name: id,
            clip: null,
            speed: 1,
            loop: true,
            ...(groups[i] && { group: groups[i] }),
          })),
          passages: ways.map(([from, to], i) => passage(`p${i}`, from, to)),
        };
        const map = foldGroups([layer], words, new Set(which.map((one) => groupKey('blows', one))));
        const halts = new Set(map.layers[0].states.map(({ id }) => id));
        expect(halts.has(map.layers[0].first)).toBe(true);
        for (const { from, to } of map.layers[0].passages) expect([from === null || halts.has(from), halts.has(to)]).toEqual([true, true]);
        for (const { id, from, to } of layer.passages) {
          const within = from !== null && from !== to && map.haltOf(from) === map.haltOf(to);
          const line = map.layers[0].passages.find((one) => one.id === map.lineOf(id));
          if (within) expect(line).toBeUndefined();
          else if (line) expect([line.from, line.to]).toEqual([from && map.haltOf(from), map.haltOf(to)]);
        }
      },
    ),
  );
});
