import { ALL_COLUMNS, readRows, type PoseColumn } from './read-rows';

const read = (cell: string, unit: string) =>
  cell.endsWith(' rad') && unit === 'deg' ? (parseFloat(cell) * 180) / Math.PI : Number(cell || NaN);
const turnY: PoseColumn[] = [{ of: 'turn', axis: 1 }];

test('of a spreadsheet, with its heading, in whatever unit a cell names', () => {
  const rows = readRows('value\tturn\n0\t0\n0.5 rad\t30\n# a note\n\n-20\t-25\r\n', turnY, read, 'deg');
  expect(rows.map(({ value, turn }) => [Number(value.toFixed(6)), turn])).toEqual([
    [0, [0, 0, 0]],
    [28.64789, [0, 30, 0]],
    [-20, [0, -25, 0]],
  ]);
});

test.each([
  ['1, 2', [1, 2]],
  ['1; 2', [1, 2]],
  ['1 2', [1, 2]],
  ['1 -2', [1, -2]],
])('cells of “%s”', (line, [value, turn]) => {
  const [row] = readRows(line, turnY, read, 'deg');
  expect([row.value, row.turn[1]]).toEqual([value, turn]);
});

test('all columns of the package’s table; what is missing is at rest', () => {
  const [row] = readRows('3\t0.1\t\t0.2\t0\t45\t0\t1\t2\t1', ALL_COLUMNS, read, 'm');
  expect(row).toEqual({ value: 3, offset: [0.1, 0, 0.2], turn: [0, 45, 0], size: [1, 2, 1] });
  expect(readRows('3', ALL_COLUMNS, read, 'm')[0]).toEqual({ value: 3, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] });
});

test.each([
  ['0\t1\nsoon\t2', /^Line 2: “soon” is no value in deg\./],
  ['0\t1\n1\tfar', /^Line 2: “far” is no turn\./],
  ['0\t1\n\n0\t2', /^Line 3: 0 stands on line 1 already/],
  ['0\t1\t2', /^Line 1: there are 3 columns, and 2 are asked for/],
])('“%s” is refused with its line', (text, sentence) => {
  expect(() => readRows(text, turnY, read, 'deg')).toThrow(sentence);
});
