import { emptyKit, type Kit, type Layer } from '@itchkit/core/document';
import type { BehaviourUi } from './behaviour-state';
import { showing } from './shown-things';

const layer = (id: string): Layer => ({
  id,
  name: id,
  parts: [],
  how: 'replaces',
  first: `${id} a`,
  states: ['a', 'b'].map((name) => ({ id: `${id} ${name}`, name, clip: null, speed: 1, loop: true })),
  passages: [{ id: `${id} way`, from: `${id} a`, to: `${id} b`, except: [], when: [], after: 'any', over: 0 }],
});
const kit: Kit = {
  ...emptyKit('Body'),
  behaviour: { layers: [layer('low'), layer('high')] },
  mixes: [{ id: 'mix', name: 'mix', kind: 'line', parameters: ['ahead'], pegs: [{ id: 'peg', clip: null, at: [0], speed: 1 }] }],
};
const now = { view: 'mixes', in: { low: 'low b' }, search: 'x' } as unknown as BehaviourUi;

test('a state is shown in its layer, with what leads on from it; other layers stay where they are', () => {
  expect(showing(kit, ['high b'], now)).toEqual({
    layer: 'high',
    passage: null,
    view: 'passages',
    search: '',
    in: { low: 'low b', high: 'high b' },
  });
});

test('a passage is chosen, with the state that was told beside it; the route map stays', () => {
  const shown = showing(kit, ['low a', 'low way'], { ...now, view: 'map' });
  expect(shown).toMatchObject({ layer: 'low', passage: 'low way', view: 'map', in: { low: 'low a' } });
});

test('a clip’s place in a mix is shown on the mix’s picture; what is gone shows nothing', () => {
  expect(showing(kit, ['peg'], now)).toEqual({ mix: 'mix', peg: 'peg', view: 'mixes' });
  expect(showing(kit, ['gone'], now)).toBeNull();
});
