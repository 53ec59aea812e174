import { playLayer, valuesAtStart, type ParameterRule } from '@itchkit/core/behaviour';
import type { Condition, Kit, Layer, Passage } from '@itchkit/core/document';
import { considered, found } from './what-if';

const passage = (id: string, to: string, when: Condition[], more: Partial<Passage> = {}): Passage => ({
  id,
  from: 'stand',
  except: [],
  to,
  when,
  after: 'any',
  over: 0.2,
  ...more,
});
const faster = (atLeast: number): Condition => ({ kind: 'range', parameter: 'ahead', atLeast, below: null });
const LAYER: Layer = {
  id: 'body',
  name: 'Body',
  parts: [],
  how: 'replaces',
  first: 'stand',
  states: ['stand', 'walk', 'run'].map((name) => ({ id: name, name, clip: name, speed: 1, loop: true })),
  passages: [
    passage('rest', 'run', [], { after: 'end', from: 'walk' }),
    passage('sigh', 'walk', [], { after: 'end' }),
    passage('go', 'walk', [faster(1)]),
    passage('hurry', 'run', [faster(3)]),
    passage('late', 'run', [faster(1)], { after: 'end' }),
  ],
};

const verdicts = (ahead: number) => Object.fromEntries(considered(LAYER, 'stand', { ahead }).map((one) => [one.passage.id, one.verdict]));

test('the first that holds is taken, what waits for the end waits, and the others come later', () => {
  expect(verdicts(0)).toEqual({ rest: 'not', sigh: 'waits', go: 'not', hurry: 'not', late: 'not' });
  expect(verdicts(4)).toEqual({ rest: 'not', sigh: 'waits', go: 'taken', hurry: 'later', late: 'later' });
});

test('what is said to be taken is what a frame takes, and at the end of a round what waited', () => {
  const lengthOf = () => 2;
  for (const ahead of [0, 0.5, 1, 2, 3, 5]) {
    const play = (seconds: number) => playLayer(LAYER, { state: 'stand', seconds }, { ahead }, 0.1, { lengthOf, chain: 4 }).taken[0];
    const said = (...kinds: string[]) => considered(LAYER, 'stand', { ahead }).find(({ verdict }) => kinds.includes(verdict))?.passage.id;
    expect(play(0.5)).toBe(said('taken'));
    expect(play(1.95)).toBe(said('taken', 'waits'));
  }
});

test('a passage that leads from elsewhere is told apart from one whose conditions do not hold', () => {
  const [rest, , go] = considered(LAYER, 'stand', { ahead: 0 });
  expect([rest.leads, go.leads]).toEqual([false, true]);
  expect(go.conditions).toEqual([{ condition: faster(1), holds: false }]);
});

test('at the start nothing moves and nothing is sent, within what is passed in', () => {
  const of = (rule: object) => ({ name: 'x', title: 'X', about: '', ...rule }) as ParameterRule;
  const start = (rule: object) => valuesAtStart([of(rule)]).x;
  expect(start({ kind: 'number', unit: '', min: -2, max: 7 })).toBe(0);
  expect(start({ kind: 'number', unit: '', min: 2, max: 7 })).toBe(2);
  expect(start({ kind: 'number', unit: '', min: -2, max: 7, always: 3 })).toBe(3);
  expect(start({ kind: 'names', values: ['a', 'b'] })).toBe('a');
  expect(start({ kind: 'yes-no' })).toBe('no');
  expect(start({ kind: 'signal' })).toBe(false);
});

test('passages are found by words of states, of clips in mixes, and of what is asked; all words have to be there', () => {
  const kit = {
    clips: { w: { id: 'w', name: 'stride' }, f: { id: 'f', name: 'tumble' } },
    mixes: [{ id: 'm', name: 'on foot', pegs: [{ clip: 'w' }, { clip: null }] }],
  } as unknown as Kit;
  const played = {
    ...LAYER,
    states: [
      { id: 'a', name: 'stand', clip: null, speed: 1, loop: true },
      { id: 'b', name: 'go', clip: null, mix: 'm', speed: 1, loop: true },
      { id: 'c', name: 'down', clip: 'f', speed: 1, loop: false },
    ],
    passages: [
      { id: 'ab', from: 'a', except: [], to: 'b', when: [{ kind: 'sent', parameter: 'start' }], after: 'any', over: 0 },
      { id: 'ac', from: null, except: [], to: 'c', when: [], after: 'any', over: 0 },
    ],
  } as unknown as Layer;
  const by = (words: string) => [...found(kit, played, [{ kind: 'signal', name: 'start', title: 'Set off', about: '' }], words)];
  expect(by('')).toEqual(['ab', 'ac']);
  expect(by('STRIDE')).toEqual(['ab']);
  expect(by('set off stand')).toEqual(['ab']);
  expect(by('anywhere tumble')).toEqual(['ac']);
  expect(by('stride tumble')).toEqual([]);
});
