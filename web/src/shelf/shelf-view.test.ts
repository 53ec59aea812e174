import type { ShelfKit } from '../api';
import { shelfView } from './shelf-view';

const kit = (name: string, fields: Partial<ShelfKit> = {}): ShelfKit => ({
  id: name,
  name,
  targets: [{ rulebook: 'brinework', version: '1.1.0' }],
  parts: 1,
  triangles: 1,
  revision: 1,
  counts: null,
  owed: null,
  thumbnailRevision: null,
  changedAt: '2026-01-01T00:00:00.000Z',
  ...fields,
});
const KITS = [
  kit('Crane 10', { changedAt: '2026-01-03T00:00:00.000Z', counts: { stop: 0, warn: 9, note: 0 } }),
  kit('Crane 2', { counts: { stop: 1, warn: 0, note: 0 } }),
  kit('Tram halt', { targets: [{ rulebook: 'plotwick', version: '1.0.0' }], changedAt: '2026-01-02T00:00:00.000Z' }),
];
const names = (...args: Parameters<typeof shelfView>) => shelfView(...args).map(({ name }) => name);

test('words in any order, of the name or of the platform', () => {
  expect(names(KITS, '10 crane', 'name')).toEqual(['Crane 10']);
  expect(names(KITS, 'brine', 'name')).toEqual(['Crane 2', 'Crane 10']);
  expect(names(KITS, 'PLOTWICK halt', 'name')).toEqual(['Tram halt']);
  expect(names(KITS, 'nothing', 'name')).toEqual([]);
});

test('by what changed last, by name with numbers as numbers, by what is owed', () => {
  expect(names(KITS, '', 'changed')).toEqual(['Crane 10', 'Tram halt', 'Crane 2']);
  expect(names(KITS, '', 'name')).toEqual(['Crane 2', 'Crane 10', 'Tram halt']);
  expect(names(KITS, '', 'owed')).toEqual(['Crane 2', 'Crane 10', 'Tram halt']);
});
