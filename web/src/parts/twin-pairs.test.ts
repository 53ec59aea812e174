import { emptyKit, MemoryBlobs, newPart } from '@itchkit/core/document';
import { quatFromTurn } from '@itchkit/core/geometry';
import { twinPairs } from './twin-pairs';

test('joints have their twins by name, whatever way their axes lie; what is in the middle is its own', () => {
  const kit = emptyKit('ray');
  const add = (id: string, x: number, y = 0) =>
    (kit.parts[id] = newPart({ id, name: id, role: 'joint', translation: [x, 0, 0], rotation: quatFromTurn([0, y, 0], 'xyz') }));
  add('trunk', 0);
  add('fin_l', 1, 30);
  add('fin_r', -1, -30);
  add('fan_l', 1, 30);
  add('fan_r', -1, 75);
  add('lamp', 0.4);
  expect(twinPairs(kit, new MemoryBlobs())).toEqual({ trunk: 'trunk', fin_l: 'fin_r', fin_r: 'fin_l', fan_l: 'fan_r', fan_r: 'fan_l' });
});
