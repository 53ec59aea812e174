import { wayInWords } from './way-words';

test.each([
  [[0, 2, 0], 'up'],
  [[0, -1, 0.1], 'down'],
  [[1, 0, 1], 'left and forward'],
  [[-3, 0, -1.9], 'right and back'],
  [[0.2, 0.9, -0.8], 'up and back'],
  [[1, 1, 1], 'left and up and forward'],
  [[0, 0, 0], ''],
] as [[number, number, number], string][])('%p goes %s', (way, words) => {
  expect(wayInWords(way)).toBe(words);
});
