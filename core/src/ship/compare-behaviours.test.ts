import type { ParameterRule } from '../behaviour';
import { emptyKit, type Behaviour, type Kit, type Layer, type Mix } from '../document';
import { compareBehaviours } from './compare-behaviours';

const RULES: ParameterRule[] = [
  { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: -2, max: 7, moves: 'ahead' },
  { name: 'gait', title: 'Gait', about: '', kind: 'names', values: ['upright', 'limping'] },
];

/** A kit that stands and walks; ids are its own, so that nothing can be matched by them. */
function kitOf(mark: string, change: (made: { layer: Layer; mix: Mix; behaviour: Behaviour }) => void = () => undefined): Kit {
  const id = (name: string) => `${mark}-${name}`;
  const kit = emptyKit(mark);
  for (const name of ['idle', 'walk', 'limp'])
    kit.clips[id(name)] = { id: id(name), name, order: 0, lengthSeconds: 1, rate: 30, loop: 'loop', tracks: [] };
  const mix: Mix = {
    id: id('mix'),
    name: 'on foot',
    kind: 'line',
    parameters: ['ahead'],
    pegs: [
      { id: id('slow'), clip: id('walk'), at: [0.9], speed: 1 },
      { id: id('fast'), clip: id('walk'), at: [1.8], speed: 2 },
    ],
  };
  const layer: Layer = {
    id: id('body'),
    name: 'Body',
    parts: [],
    how: 'replaces',
    first: id('stand'),
    states: [
      { id: id('stand'), name: 'stand', clip: id('idle'), speed: 1, loop: true },
      { id: id('go'), name: 'go', clip: null, mix: id('mix'), speed: 1, loop: true, sends: ['off'] },
    ],
    passages: [
      {
        id: id('off'),
        from: id('stand'),
        to: id('go'),
        except: [],
        when: [{ kind: 'range', parameter: 'ahead', atLeast: 0.2, below: null }],
        after: 'any',
        over: 0.2,
      },
      { id: id('end'), from: id('go'), to: id('stand'), except: [], when: [], after: 'end', over: 0 },
    ],
  };
  const behaviour: Behaviour = { layers: [layer] };
  change({ layer, mix, behaviour });
  return { ...kit, behaviour, mixes: [mix] };
}

test('a behaviour beside its twin of other ids differs in nothing', () => {
  expect(compareBehaviours(kitOf('a'), kitOf('b'), RULES)).toEqual({ differ: [], alike: 8 });
});

test('what differs is said on both sides, in words', () => {
  const other = kitOf('b', ({ layer, mix, behaviour }) => {
    behaviour.gait = 'gait';
    layer.states[1].gaits = [{ gait: 'limping', clip: 'b-limp' }];
    layer.passages[0].when = [{ kind: 'range', parameter: 'ahead', atLeast: 0.4, below: null }];
    layer.passages[1].begins = 0.25;
    mix.pegs[1].at = [2.2];
  });
  expect(compareBehaviours(kitOf('a'), other, RULES).differ).toEqual([
    {
      of: 'Body',
      name: 'go',
      here: 'plays the mix on foot over and over; tells the game “off”',
      there: 'plays the mix on foot over and over; limping: limp; tells the game “off”',
    },
    { of: 'Body', name: 'stand → go', here: 'Ahead is 0.2 m/s or more; over 0.2 s', there: 'Ahead is 0.4 m/s or more; over 0.2 s' },
    {
      of: 'Body',
      name: 'go → stand',
      here: 'always; once its clip has ended; over 0 s',
      there: 'always; once its clip has ended; over 0 s; from 25 % on',
    },
    { of: 'on foot', name: 'walk (2)', here: 'at 1.8, 2 times as fast', there: 'at 2.2, 2 times as fast' },
    { of: null, name: 'States play otherwise', here: null, there: 'by Gait' },
  ]);
});

test('what only one has stands on its side alone, and the other way round it is turned round', () => {
  const more = kitOf('b', ({ layer }) => {
    layer.states.push({ id: 'b-fall', name: 'fall', clip: null, speed: 1, loop: false });
    layer.passages.push({ ...layer.passages[0], id: 'b-again', over: 1 });
  });
  const { differ } = compareBehaviours(kitOf('a'), more, RULES);
  expect(differ).toEqual([
    { of: 'Body', name: 'fall', here: null, there: 'plays nothing once' },
    { of: 'Body', name: 'stand → go (2)', here: null, there: 'Ahead is 0.2 m/s or more; over 1 s' },
  ]);
  const back = compareBehaviours(more, kitOf('a'), RULES).differ;
  expect(back.map((row) => ({ ...row, here: row.there, there: row.here }))).toEqual(differ);
});

test('a kit without a behaviour lacks all of it', () => {
  const { differ, alike } = compareBehaviours(emptyKit('none'), kitOf('a'), RULES);
  expect([alike, differ.every(({ here }) => here === null), differ.length]).toEqual([0, true, 8]);
});
