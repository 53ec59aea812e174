import { matchesKey } from './command';

const HELD = { ctrlKey: 'Control', metaKey: 'Meta', shiftKey: 'Shift', altKey: 'Alt' };
const press = (key: string, held: Partial<Record<keyof typeof HELD, boolean>> = {}) =>
  ({
    key,
    code: key === ' ' ? 'Space' : '',
    getModifierState: (name: string) => Object.entries(HELD).some(([field, mod]) => mod === name && held[field as keyof typeof HELD]),
  }) as KeyboardEvent;

test('a key with and without what is held', () => {
  expect(matchesKey(press('z'), ['Z'])).toBe(true);
  expect(matchesKey(press('z', { ctrlKey: true }), ['Z'])).toBe(false);
  expect(matchesKey(press('z', { ctrlKey: true }), ['Ctrl Z'])).toBe(true);
  expect(matchesKey(press('z', { metaKey: true }), ['Ctrl Z'])).toBe(true);
  expect(matchesKey(press('Z', { ctrlKey: true, shiftKey: true }), ['Ctrl Z'])).toBe(false);
  expect(matchesKey(press('Z', { ctrlKey: true, shiftKey: true }), ['Ctrl Shift Z', 'Ctrl Y'])).toBe(true);
});

test('signs are taken as they come, with Shift or without', () => {
  expect(matchesKey(press('?', { shiftKey: true }), ['?'])).toBe(true);
  expect(matchesKey(press(' '), ['Space'])).toBe(true);
  expect(matchesKey(press('Escape'), ['Esc'])).toBe(true);
  expect(matchesKey(press('1'), ['1'])).toBe(true);
  expect(matchesKey(press('1', { altKey: true }), ['1'])).toBe(false);
});
