import type { Kit } from '@itchkit/core/document';
import { mapWords } from './map-words';

const KIT = {
  clips: { w: { id: 'w', name: 'walk' } },
  mixes: [{ id: 'm', name: 'going' }],
  behaviour: {
    layers: [
      {
        id: 'body',
        states: [
          { id: 'a', clip: 'w' },
          { id: 'b', clip: null, mix: 'm', gaits: [{ gait: 'limping', clip: 'w' }] },
          { id: 'c', clip: 'gone' },
        ],
        passages: [
          { id: 'always', when: [], after: 'any' },
          { id: 'end', when: [], after: 'end' },
          { id: 'fast', when: [{ kind: 'range', parameter: 'ahead', atLeast: 0.5, below: null }], after: 'any' },
          { id: 'both', when: [{ kind: 'sent', parameter: 'hit' }], after: 'end' },
        ],
      },
    ],
  },
} as unknown as Kit;
const words = mapWords(KIT, [{ kind: 'number', name: 'ahead', title: 'ahead', about: '', unit: 'm/s', min: 0, max: 5 }]);

test('a state says what it plays, a clip that is gone is nothing, and more by gait is said', () => {
  expect(['a', 'b', 'c', 'gone'].map((state) => words.plays('body', state))).toEqual(['walk', 'going, by gait', 'nothing', '']);
});

test('a passage says what it asks first, and how much more', () => {
  expect(['always', 'end', 'fast', 'both'].map((passage) => words.asks('body', passage))).toEqual([
    'always',
    'at its end',
    'ahead is 0.5 m/s or more',
    '“hit” is sent +1',
  ]);
});
