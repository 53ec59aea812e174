import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import plotwick from '../../../rulebooks/plotwick.rulebook.json';
import { ROLES } from '../document';
import { fittingName, nameFits, roleOf } from './naming';
import { checkRulebook } from './schema';

const rulebook = checkRulebook(brinework);

test('a role is found by the first letters of a name, and one given by hand counts first', () => {
  expect(roleOf(rulebook, { name: 'drv_slew', role: null })).toBe('driven');
  expect(roleOf(rulebook, { name: 'DRV_Slew', role: null })).toBe('driven');
  expect(roleOf(rulebook, { name: 'hook', role: null })).toBeNull();
  expect(roleOf(rulebook, { name: 'drv_slew', role: 'seat' })).toBe('seat');
});

test.each([
  ['Hook Block 2', null, 'hook_block_2'],
  ['GateLeaf', 'driven', 'drv_gate_leaf'],
  ['drv_gate', 'driven', 'drv_gate'],
  ['  Żuraw – północ ', null, 'zuraw_po_noc'],
  ['3rd wheel', null, 'part_3rd_wheel'],
] as const)('%s as %s becomes %s', (name, role, fitting) => {
  expect(fittingName(rulebook, name, role)).toBe(fitting);
});

test('first letters that are a word of their own are parted from the name as the pattern wants it', () => {
  const tiles = checkRulebook(plotwick);
  expect(fittingName(tiles, 'Deck', 'base')).toBe('plot-deck');
  expect(fittingName(tiles, 'plot halt', 'base')).toBe('plot-halt');
  expect(fittingName(tiles, 'Plot', 'base')).toBe('plot');
  expect(fittingName(tiles, 'Car 2', 'driven')).toBe('ride-car-2');
});

test('whatever the name, what is proposed fits, and proposing again changes nothing', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 80 }), fc.constantFrom(null, ...ROLES), (name, role) => {
      const fitting = fittingName(rulebook, name, role);
      if (fitting === null) return;
      expect(nameFits(rulebook, fitting, role)).toBe(true);
      expect(fittingName(rulebook, fitting, role)).toBe(fitting);
    }),
  );
});
