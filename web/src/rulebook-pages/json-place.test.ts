import { jsonPlace, lineOf } from './json-place';

const TEXT = JSON.stringify(
  {
    title: 'a "b" {',
    rules: [
      { id: 'x', limit: 3 },
      { id: 'y', deep: { er: [1, 2, 'three'] } },
    ],
  },
  null,
  1,
);

test.each([
  ['title', '"a '],
  ['rules', '['],
  ['rules.0.limit', '3'],
  ['rules.1.deep.er.2', '"three"'],
  ['rules.1.id', '"y"'],
  ['', '{'],
])('%s is found', (path, begin) => {
  expect(TEXT.slice(jsonPlace(TEXT, path)).startsWith(begin)).toBe(true);
});

test('what is not there is looked for as near as can be, and broken JSON does no harm', () => {
  expect(TEXT.slice(jsonPlace(TEXT, 'rules.0.why')).startsWith('{\n   "id": "x"')).toBe(true);
  expect(jsonPlace('{"a": [1, "b', 'a.1')).toBeGreaterThan(0);
  expect(jsonPlace('', 'a')).toBe(0);
  expect(lineOf('a\nb\nc', 4)).toBe(3);
});
