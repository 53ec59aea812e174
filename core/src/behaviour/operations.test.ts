import { callOf, type Behaviour } from '../document';
import { run } from '../tests/helpers';
import { SOUND } from '../tests/sound-kits';
import { addLayer, addPassage, addState, movePassage, removeLayer, removeState, setLayer, setPassage, setState } from './operations';

const made = () => SOUND.emberfold();
const names = (behaviour: Behaviour | undefined, layer = 0) => behaviour!.layers[layer].states.map(({ name }) => name);

test('a state goes with the passages to it and from it, and is no exception any more; the one in which a layer begins stays', () => {
  const { kit, blobs } = made();
  const with_ = run(kit, blobs, callOf(addPassage, { layer: 'body', from: null, to: 'idle', when: [], after: 'end', over: 0 }));
  const excepted = { ...with_, behaviour: structuredClone(with_.behaviour)! };
  excepted.behaviour.layers[0].passages.at(-1)!.except = ['run'];
  const { behaviour } = run(excepted, blobs, callOf(removeState, { layer: 'body', state: 'run' }));
  expect(names(behaviour)).toEqual(['idle', 'walk']);
  expect(behaviour!.layers[0].passages.map(({ from, except, to }) => [from, ...except, to])).toEqual([
    ['idle', 'walk'],
    ['walk', 'idle'],
    [null, 'idle'],
  ]);
  expect(() => run(kit, blobs, callOf(removeState, { layer: 'body', state: 'idle' }))).toThrow(/begins in that state/);
});

test('the first layer is the body, later ones lie on top; the last one that goes takes the behaviour with it', () => {
  const { kit, blobs } = made();
  const bare = { ...kit, behaviour: undefined };
  const one = run(bare, blobs, callOf(addLayer, { id: 'a', name: 'Body', state: 'still', clip: null }));
  const two = run(one, blobs, callOf(addLayer, { id: 'b', name: 'Arm', state: 'low', clip: 'idle' }));
  expect(two.behaviour!.layers.map(({ id, how }) => [id, how])).toEqual([
    ['a', 'replaces'],
    ['b', 'adds'],
  ]);
  const left = ['a', 'b'].reduce((now, layer) => run(now, blobs, callOf(removeLayer, { layer })), two);
  expect('behaviour' in left).toBe(false);
});

test('a passage is led elsewhere; exceptions go with “from anywhere”, and where it leads to is none', () => {
  const { kit, blobs } = made();
  const { id } = kit.behaviour!.layers[0].passages[0];
  const said = (change: object) => callOf(setPassage, { layer: 'body', passage: id, ...change });
  const of = ({ behaviour }: typeof kit) => {
    const { from, except, to } = behaviour!.layers[0].passages[0];
    return [from, except, to];
  };
  const anywhere = run(kit, blobs, said({ from: null, except: ['run', 'walk'], to: 'idle' }));
  expect(of(anywhere)).toEqual([null, ['run', 'walk'], 'idle']);
  expect(of(run(anywhere, blobs, said({ to: 'run' })))).toEqual([null, ['walk'], 'run']);
  expect(of(run(anywhere, blobs, said({ from: 'walk' })))).toEqual(['walk', [], 'idle']);
  expect(() => run(kit, blobs, said({ from: 'run', to: 'run' }))).toThrow(/from a state to itself/);
  expect(() => run(kit, blobs, said({ to: 'swim' }))).toThrow(/swim/);
});

test('where a passage begins, and what a state tells the game, can be said and taken back', () => {
  const { kit, blobs } = made();
  const first = kit.behaviour!.layers[0].passages[0].id;
  const begins = (value: number | 'along') => callOf(setPassage, { layer: 'body', passage: first, begins: value });
  const half = run(kit, blobs, begins(0.5));
  expect(half.behaviour!.layers[0].passages[0].begins).toBe(0.5);
  expect(run(half, blobs, begins('along')).behaviour!.layers[0].passages[0].begins).toBe('along');
  expect('begins' in run(half, blobs, begins(0)).behaviour!.layers[0].passages[0]).toBe(false);
  expect(() => run(kit, blobs, begins(1))).toThrow(/begins/);
  const sends = (value: string[] | null) => callOf(setState, { layer: 'body', state: 'walk', sends: value });
  const told = run(kit, blobs, sends(['off', 'lamp on']));
  expect(told.behaviour!.layers[0].states.find(({ id }) => id === 'walk')!.sends).toEqual(['off', 'lamp on']);
  expect(run(told, blobs, sends(null)).behaviour).toEqual(kit.behaviour);
  expect(() => run(kit, blobs, sends(['off', 'off']))).toThrow(/sends/);

  const group = (value: string | null) => callOf(setState, { layer: 'body', state: 'walk', group: value });
  const grouped = run(kit, blobs, group('on foot'));
  expect(grouped.behaviour!.layers[0].states.find(({ id }) => id === 'walk')!.group).toBe('on foot');
  expect(run(grouped, blobs, group(null)).behaviour).toEqual(kit.behaviour);
});

test('a passage goes before another one, wherever it stood', () => {
  const { kit, blobs } = made();
  const order = (passage: string, before: string) =>
    run(kit, blobs, callOf(movePassage, { layer: 'body', passage, before })).behaviour!.layers[0].passages.map(({ id }) => id);
  expect(order('run-walk', 'idle-walk')).toEqual(['run-walk', 'idle-walk', 'walk-idle', 'walk-run']);
  expect(order('idle-walk', 'run-walk')).toEqual(['walk-idle', 'walk-run', 'idle-walk', 'run-walk']);
});

test.each([
  [
    'a second state of one name',
    callOf(addState, { layer: 'body', name: 'walk', clip: null, speed: 1, loop: true }),
    /Another state.*“walk”/,
  ],
  ['a state that takes another’s name', callOf(setState, { layer: 'body', state: 'run', name: 'walk' }), /Another state.*“walk”/],
  ['a layer that takes another’s name', callOf(setLayer, { layer: 'gait', name: 'body' }), /Another layer.*“body”/],
  ['a second layer of one name', callOf(addLayer, { name: 'lamp', state: 'x', clip: null }), /Another layer.*“lamp”/],
  ['a layer that is gone', callOf(setLayer, { layer: 'tail', how: 'adds' }), /no longer there/],
  [
    'a layer that moves what is not there',
    callOf(setLayer, { layer: 'body', parts: ['tail'] }),
    /behaviour\.layers\.body points at something/,
  ],
  ['a passage to nowhere', callOf(addPassage, { layer: 'body', from: null, to: 'lamp', when: [], after: 'any', over: 0 }), /lamp/],
])('%s is refused in words', (_, call, said) => {
  const { kit, blobs } = made();
  expect(() => run(kit, blobs, call)).toThrow(said);
});

test('its own name is no other’s', () => {
  const { kit, blobs } = made();
  expect(names(run(kit, blobs, callOf(setState, { layer: 'body', state: 'walk', name: 'walk', speed: 2 })).behaviour)).toEqual([
    'idle',
    'walk',
    'run',
  ]);
});
