import { boundsByPart, findTwins } from '../geometry';
import { chainKit } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { NO_RENAME, renamePlan, type RenameRecipe } from './rename-plan';

const kitOf = (...names: string[]) => chainKit(names.map((name, i) => ({ id: `p${i}`, name })));
const after = (recipe: Partial<RenameRecipe>, ...names: string[]) => {
  const { kit } = kitOf(...names);
  return renamePlan(kit, Object.keys(kit.parts), { ...NO_RENAME, ...recipe }, SHIPPED.cubbin).map((one) => one.after);
};

test.each([
  [{ find: 'Lamp', replace: 'Light' }, ['Lamp 1', 'LampLamp'], ['Light 1', 'LightLight']],
  [{ letters: 'lower', join: '_' }, ['Quay Plinth', 'hookBlock', 'Mast-L'], ['quay_plinth', 'hook_block', 'mast_l']],
  [{ letters: 'capitals', join: '' }, ['quay_plinth', 'HOOK'], ['QuayPlinth', 'Hook']],
  [{ letters: 'upper' }, ['quay_plinth'], ['QUAY_PLINTH']],
  [{ pattern: '{role}_{nn}', from: 9 }, ['a', 'b'], ['part_09', 'part_10']],
  [{ pattern: '{parent}_{name}_{n}' }, ['a', 'b'], ['_a_1', 'a_b_2']],
  [{ prefix: 'drv_', suffix: '_x', letters: 'lower' }, ['Slew'], ['drv_slew_x']],
  [{ find: '.', replace: '$&' }, ['a.b'], ['a$&b']],
] as const)('%j', (recipe, names, expected) => {
  expect(after(recipe as Partial<RenameRecipe>, ...names)).toEqual(expected);
});

test('clashes are shown: with one another, with a part that is not renamed, whatever the case; and names that would be empty', () => {
  const { kit } = kitOf('a', 'b', 'C');
  expect(renamePlan(kit, ['p0', 'p1'], { ...NO_RENAME, pattern: 'same' }).map((one) => one.clash)).toEqual([true, true]);
  expect(renamePlan(kit, ['p0'], { ...NO_RENAME, pattern: 'c' })[0].clash).toBe(true);
  expect(renamePlan(kit, ['p0', 'p2'], { ...NO_RENAME, pattern: '{n}' }).map((one) => one.clash)).toEqual([false, false]);
  expect(renamePlan(kit, ['p0'], { ...NO_RENAME, find: 'a' })[0].clash).toBe(true);
});

test('twins are found by their mirror place, and their names tell the side in the platform’s way', () => {
  const { kit, blobs } = chainKit([
    { id: 'trunk' },
    { id: 'one', name: 'Arm R', parent: 'trunk', translation: [3, 1, 0] },
    { id: 'two', name: 'Arm 2', parent: 'trunk', translation: [-3, 1, 0], scale: [-1, 1, 1] },
    { id: 'odd', parent: 'trunk', translation: [-9, 1, 0] },
  ]);
  const pairs = findTwins(kit, boundsByPart(kit, blobs));
  expect(pairs).toEqual([{ left: 'one', right: 'two' }]);
  const sides = new Map(pairs.flatMap(({ left, right }) => [[left, 'left'] as const, [right, 'right'] as const]));
  const recipe: RenameRecipe = { ...NO_RENAME, letters: 'lower', join: '_' };
  expect(renamePlan(kit, ['one', 'two', 'odd'], recipe, SHIPPED.cubbin, sides).map((one) => one.after)).toEqual([
    'l_arm',
    'r_arm_2',
    'odd',
  ]);
  expect(renamePlan(kit, ['one', 'two'], recipe, SHIPPED.emberfold, sides).map((one) => one.after)).toEqual(['arm_l', 'arm_2_r']);
});
