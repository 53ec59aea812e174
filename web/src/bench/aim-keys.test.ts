import { aimKeyOf } from './aim-keys';

const key = (name: string, held: Partial<Record<'shiftKey' | 'altKey' | 'ctrlKey', boolean>> = {}, holds = false) =>
  aimKeyOf({ key: name, shiftKey: false, altKey: false, ctrlKey: false, metaKey: false, ...held }, holds);

test('arrows move the sight, with Shift ten times as far, with Alt by a pixel', () => {
  expect(key('ArrowRight')).toEqual({ move: [10, 0] });
  expect(key('ArrowUp', { shiftKey: true })).toEqual({ move: [0, -100] });
  expect(key('ArrowDown', { altKey: true })).toEqual({ move: [0, 1] });
});

test('Enter presses, Space takes hold; either lets go of what is held, and so does Escape', () => {
  expect([key('Enter'), key(' '), key('Escape')]).toEqual(['press', 'hold', null]);
  expect(['Enter', ' ', 'Escape'].map((name) => key(name, {}, true))).toEqual(['let-go', 'let-go', 'let-go']);
});

test('letters, Tab and arrows with Ctrl are not the sight’s', () => {
  expect([key('a'), key('Tab'), key('ArrowLeft', { ctrlKey: true })]).toEqual([null, null, null]);
});
