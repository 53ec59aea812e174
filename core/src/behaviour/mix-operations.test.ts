import fc from 'fast-check';
import { callOf, emptyKit, mixFault, MIX_KINDS, parametersOfKind, type Call, type Kit, type Mix, type MixKind } from '../document';
import { run } from '../tests/helpers';
import { SOUND } from '../tests/sound-kits';
import { addMix, addPeg, mixedBy, playedClips, removeMix, removePeg, setMixKind, setPeg } from './mix-operations';
import { setState } from './operations';

const { kit: sound, blobs } = SOUND.emberfold();
const after = (kit: Kit, call: Call) => run(kit, blobs, call);
const going = (kit: Kit = sound) => kit.mixes![0];

test('what a state plays is a clip or a mix, the one in the place of the other', () => {
  const layer = sound.behaviour!.layers[0].id;
  const stateIn = (kit: Kit) => kit.behaviour!.layers[0].states[0];
  const mixed = after(sound, callOf(setState, { layer, state: stateIn(sound).id, mix: 'going' }));
  expect(stateIn(mixed)).toMatchObject({ clip: null, mix: 'going' });
  const alone = after(mixed, callOf(setState, { layer, state: stateIn(sound).id, clip: 'run' }));
  expect(stateIn(alone)).toMatchObject({ clip: 'run' });
  expect(stateIn(alone).mix).toBeUndefined();
});

test('a mix that is taken away is played by nothing any more', () => {
  const layer = sound.behaviour!.layers[0].id;
  const mixed = after(sound, callOf(setState, { layer, state: sound.behaviour!.layers[0].states[1].id, mix: 'going' }));
  expect([...playedClips(mixed)].sort()).toEqual(['idle', 'run', 'walk']);
  const without = after(mixed, callOf(removeMix, { mix: 'going' }));
  expect(without.mixes).toBeUndefined();
  expect(without.behaviour!.layers[0].states.map(({ clip, mix }) => [clip, mix])).toEqual([
    ['idle', undefined],
    [null, undefined],
    ['run', undefined],
  ]);
  expect([...playedClips(without)].sort()).toEqual(['idle', 'run']);
});

test.each([
  ['two clips at one place', () => callOf(addPeg, { mix: 'going', clip: 'idle', at: [3], speed: 1 }), /two clips at one place/],
  ['a place of two numbers on a line', () => callOf(setPeg, { mix: 'going', peg: 'slow', at: [1, 2] }), /not one number/],
  [
    'a mix of a name that is taken',
    () => callOf(addMix, { ...mixOf('line', ['ahead'], [[0]]), name: 'going' }),
    /Another mix is called “going”/,
  ],
  ['a field of one value', () => callOf(addMix, mixOf('across', ['ahead'], [[0]])), /goes by two parameters, not by 1/],
  ['a field round nothing', () => callOf(addMix, mixOf('around', ['ahead', 'side'], [[1, 0]])), /has no clip there: at 0 and 0/],
])('%s is refused in a sentence', (_, call, said) => {
  expect(() => after(sound, call())).toThrow(said);
});

function mixOf(kind: MixKind, parameters: string[], places: number[][]) {
  return { name: 'made', kind, parameters, pegs: places.map((at) => ({ clip: null, at, speed: 1 })) };
}

test('its last clip stays: without one it is no mix', () => {
  const one = after(sound, callOf(removePeg, { mix: 'going', peg: 'slow' }));
  expect(going(one).pegs.map(({ id }) => id)).toEqual(['fast']);
  expect(() => after(one, callOf(removePeg, { mix: 'going', peg: 'fast' }))).toThrow(/Take the mix away instead/);
});

test('from two values to one, clips with none of the other stay, and those that lose their place are named', () => {
  const places: [string, number[]][] = [
    ['middle', [0, 0]],
    ['left', [0, 2]],
    ['on', [3, 0]],
    ['slant', [2, 2]],
  ];
  const field: Mix = {
    ...going(),
    kind: 'across',
    parameters: ['ahead', 'side'],
    pegs: places.map(([id, at]) => ({ id, clip: null, at, speed: 1 })),
  };
  const { pegs, dropped } = mixedBy(field, 'line', ['ahead']);
  expect(pegs.map(({ id, at }) => [id, at])).toEqual([
    ['middle', [0]],
    ['on', [3]],
    ['slant', [2]],
  ]);
  expect(dropped.map(({ id }) => id)).toEqual(['left']);
  // By the other value alone it is the others.
  expect(mixedBy(field, 'line', ['side']).pegs.map(({ id, at }) => [id, at])).toEqual([
    ['middle', [0]],
    ['left', [2]],
  ]);
});

test('whatever a mix goes by next, it holds together, and every clip is either kept or named', () => {
  const names = ['ahead', 'side', 'up'];
  const kindOf = fc.constantFrom(...MIX_KINDS);
  const number = fc.integer({ min: -4, max: 4 });
  fc.assert(
    fc.property(
      kindOf,
      fc.array(fc.tuple(number, number), { minLength: 1, maxLength: 9 }),
      fc.array(fc.tuple(kindOf, fc.shuffledSubarray(names, { minLength: 2, maxLength: 2 })), { minLength: 1, maxLength: 5 }),
      (kind, places, turns) => {
        const at = [[0, 0], ...places].map((place) => place.slice(0, parametersOfKind(kind)));
        const own = [...new Map(at.map((place) => [place.map((value) => value + 0).join(), place])).values()];
        let kit = after(emptyKit('odd'), callOf(addMix, { ...mixOf(kind, names.slice(0, parametersOfKind(kind)), own), id: 'made' }));
        for (const [next, by] of turns) {
          const before = kit.mixes![0];
          const parameters = by.slice(0, parametersOfKind(next));
          kit = after(kit, callOf(setMixKind, { mix: 'made', kind: next, parameters }));
          expect(mixFault(kit.mixes![0])).toBeNull();
          const { pegs, dropped } = mixedBy(before, next, parameters);
          expect(pegs.length + dropped.length).toBe(before.pegs.length);
          expect(kit.mixes![0].pegs.slice(0, pegs.length)).toEqual(pegs);
        }
      },
    ),
    { endOnFailure: true },
  );
});
