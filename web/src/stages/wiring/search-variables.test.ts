import { allRulebooks } from '../../rulebooks';
import { searchVariables } from './search-variables';

const { variables } = allRulebooks()[0];
const names = (text: string) => searchVariables(variables, text).map((one) => one.name);

test('every variable is found by its own name, and each group of them together', () => {
  for (const { name } of variables) expect(names(name)).toContain(name);
  for (const group of new Set(variables.map((one) => one.group)))
    expect(names(group)).toEqual(expect.arrayContaining(variables.filter((one) => one.group === group).map((one) => one.name)));
});

test('every word has to be found, in whatever field and order', () => {
  expect(names('')).toHaveLength(variables.length);
  expect(names('angle SLEW')).toEqual(['crane_slew_angle']);
  expect(names('commanded cranes').every((name) => name.endsWith('_order'))).toBe(true);
  expect(names('submarine')).toEqual([]);
});
