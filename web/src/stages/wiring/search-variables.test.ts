import { allRulebooks } from '../../rulebooks';
import { searchVariables } from './search-variables';

const { variables } = allRulebooks()[0];
const names = (text: string) => searchVariables(variables, text).map((one) => one.name);

test('the catalogue has about forty variables of several groups, some with an index and some without', () => {
  expect(variables.length).toBeGreaterThanOrEqual(40);
  expect(new Set(variables.map((one) => one.group)).size).toBeGreaterThan(6);
  expect(variables.some((one) => one.indices === 0) && variables.some((one) => one.indices > 1)).toBe(true);
});

test('every word has to be found, in whatever field and order', () => {
  expect(names('')).toHaveLength(variables.length);
  expect(names('angle SLEW')).toEqual(['crane_slew_angle']);
  expect(names('commanded cranes').every((name) => name.endsWith('_order'))).toBe(true);
  expect(names('submarine')).toEqual([]);
});
