import { formatAgo, formatBytes, formatLength } from './format';

test('sizes and lengths in a unit that suits them', () => {
  expect([formatBytes(900), formatBytes(2048), formatBytes(300_000_000)]).toEqual(['900 B', '2.0 KiB', '286.1 MiB']);
  expect([formatLength(0.0034), formatLength(9.8562), formatLength(986.2), formatLength(12_400)]).toEqual([
    '3.4 mm',
    '9.86 m',
    '986 m',
    '12.4 km',
  ]);
});

test('how long ago', () => {
  const now = Date.parse('2026-11-25T12:00:00Z');
  expect(formatAgo('2026-11-25T11:59:40Z', now)).toBe('just now');
  expect(formatAgo('2026-11-25T11:57:00Z', now)).toBe('3 minutes ago');
  expect(formatAgo('2026-11-24T11:00:00Z', now)).toBe('yesterday');
});
