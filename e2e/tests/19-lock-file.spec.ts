import { expect, test, type Page } from '@playwright/test';
import { buildTideLockGlb, LOCK } from '@itchkit/demo';
import type { Kit } from '@itchkit/core/document';
import { rotateVector } from '@itchkit/core/geometry';
import { useApplication } from '../application';
import {
  base,
  card,
  checked,
  choose,
  choosePart,
  clickBench,
  dropFile,
  find,
  giveToOtherSide,
  goToStage,
  kitOf,
  setNumber,
  takenIn,
  treeRow,
  unfold,
} from '../steps';

useApplication({ seed: false });

const partNamed = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!;
const bindingOf = (kit: Kit, part: string) => Object.values(kit.bindings).find((binding) => kit.parts[binding.part].name === part)!;
const verdict = (page: Page) => find(page, '[data-verdict]');

async function pivotAt(page: Page, part: string, place: readonly number[]): Promise<void> {
  await choosePart(page, part);
  for (const [axis, name] of ['x', 'y', 'z'].entries()) await setNumber(page, `Pivot in the world ${name}`, place[axis]);
}

/** Binds the chosen part to a variable of the catalogue, as it is proposed. */
async function bind(page: Page, part: string, variable: string): Promise<void> {
  await choosePart(page, part);
  await page.getByRole('searchbox', { name: 'Search' }).fill(variable);
  const entry = page.getByRole('button', { name: new RegExp(`^${variable}`) });
  await expect(entry).toHaveCount(1);
  if ((await entry.getAttribute('aria-expanded')) !== 'true') await entry.click();
  await page.getByRole('button', { name: `Bind ${part}`, exact: true }).click();
  await checked(page);
}

/** A panel on the gate’s front, and two of its corners: the edge on which it is hung. */
const ON_PANEL = [0.7, 1.25, 0.08] as const;
const EDGE = [
  [0.02, 0.45, 0.08],
  [0.02, 2.75, 0.08],
] as const;

test('from the lock’s file: a face split out and hinged, wired, linked, blurred, mirrored, given a late level, tried and packaged', async ({
  page,
}) => {
  await page.goto(base());
  await dropFile(page, 'tide-lock.glb', await buildTideLockGlb());
  await takenIn(page);
  await checked(page);
  await page.getByRole('button', { name: /Mend all safe/ }).click();
  await checked(page);

  // The face that is to be a shutter, on its own hinge.
  await goToStage(page, 'Shape');
  await choosePart(page, 'drv_gate_left');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('look from the front');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Faces', exact: true }).click();
  await clickBench(page, ON_PANEL);
  await expect(card(page)).toContainText(/[12] of \d+ of drv_gate_left/);
  await page.getByRole('button', { name: 'Grow', exact: true }).click();
  await page.getByRole('textbox', { name: 'Name of the new part' }).fill('drv_shutter');
  await choose(page, 'Its pivot', 'where the old one is');
  await page.getByRole('button', { name: /^Split off \d+ faces/ }).click();
  await expect(treeRow(page, 'drv_shutter')).toBeVisible();
  await page.getByRole('button', { name: 'Points', exact: true }).click();
  for (const corner of EDGE) await clickBench(page, corner);
  await page.getByRole('button', { name: 'Hinge along 1 to 2' }).click();
  const shutter = partNamed(await kitOf(page), 'drv_shutter');
  expect(Math.abs(rotateVector(shutter.rotation, [0, 1, 0])[1])).toBeCloseTo(1, 5);
  const points = page.getByRole('button', { name: 'Points', exact: true });
  await points.click();
  await expect(points).toHaveAttribute('aria-pressed', 'false');

  for (const [part, place] of [
    ['drv_gate_left', LOCK.gateHinge],
    ['drv_strut_left', LOCK.strutHinge],
    ['drv_arm_left', LOCK.armHinge],
    ['drv_wheel_left', LOCK.wheel],
    ['drv_wheel_right', [-LOCK.wheel[0], LOCK.wheel[1], LOCK.wheel[2]]],
    ['drv_gate_right', [-LOCK.gateHinge[0], LOCK.gateHinge[1], LOCK.gateHinge[2]]],
    ['drv_strut_right', [-LOCK.strutHinge[0], LOCK.strutHinge[1], LOCK.strutHinge[2]]],
    ['drv_arm_right', [-LOCK.armHinge[0], LOCK.armHinge[1], LOCK.armHinge[2]]],
    ['drv_pump_wheel', LOCK.pump],
    ['drv_hook', LOCK.hook],
  ] as const)
    await pivotAt(page, part, place);

  // The left side: gate, what holds it, and the wheel that rolls.
  await goToStage(page, 'Wiring');
  await bind(page, 'drv_gate_left', 'lock_gate_swing');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await setNumber(page, 'turn y at 78', -78);
  await page.getByRole('button', { name: 'Stations', exact: true }).click();
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
  await choosePart(page, 'drv_strut_left');
  await choosePart(page, 'drv_arm_left', true);
  await unfold(page, 'Links');
  for (const [axis, name] of ['x', 'y', 'z'].entries()) await setNumber(page, `Meet at ${name}`, 1000 * LOCK.joint[axis]);
  await card(page).getByRole('button', { name: 'Work it out' }).click();
  await expect(card(page).getByText(/^lock_gate_swing\[0\]: \d+ rows/)).toBeVisible();
  await bind(page, 'drv_gantry', 'trolley_way');
  await choosePart(page, 'drv_wheel_left');
  await unfold(page, 'Links');
  await card(page).getByRole('button', { name: 'Work it out' }).click();
  await expect(card(page).getByText(/^trolley_way\[0\]: \d+ rows/)).toBeVisible();

  // The right side is made of the left one.
  await giveToOtherSide(page, ['drv_gate_left', 'drv_arm_left'], '1');
  await giveToOtherSide(page, ['drv_wheel_left'], '0, as here');
  await expect.poll(async () => (await kitOf(page)).links?.length).toBe(4);
  let kit = await kitOf(page);
  expect(['gate', 'strut', 'arm', 'wheel'].map((word) => bindingOf(kit, `drv_${word}_right`).index)).toEqual([1, 1, 1, 0]);

  // The shutter: stations at ± 20 degrees, the wrong way round as it turns out.
  await bind(page, 'drv_shutter', 'crane_slew_angle');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  for (const [row, end, station] of [
    [2, -170, -20],
    [3, 170, 20],
  ]) {
    await setNumber(page, `turn y at ${end}`, -station);
    await setNumber(page, `Value of row ${row}`, station);
  }
  await page.getByRole('button', { name: 'Stations', exact: true }).click();
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'wrong');
  await verdict(page).getByRole('button', { name: 'Turn its way round' }).click();
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
  kit = await kitOf(page);
  expect(bindingOf(kit, 'drv_shutter').rows.map(({ value, turn }) => [value, Math.round(Math.abs(turn[1]))])).toEqual([
    [0, 0],
    [-20, 20],
    [20, 20],
  ]);

  // Beyond its stations the platform would stop it short: the table is completed as that would do.
  await find(page, '[data-finding]')
    .filter({ hasText: 'Table does not cover the range' })
    .locator('..')
    .getByRole('button', { name: / …$/ })
    .click();
  await find(page, '[role=dialog] .MuiButton-contained').click();
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // The wheel, still and blurred; and the hook, which gets a level below which it goes on as before.
  await bind(page, 'drv_pump_wheel', 'pump_wheel_phase');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await setNumber(page, 'turn x at 360', 360);
  await choose(page, 'Beyond the table', /begin again/);
  await unfold(page, 'Shown and hidden');
  await card(page).getByRole('button', { name: 'Make a blurred stand-in' }).click();
  await expect(treeRow(page, 'pump_wheel_blurred')).toBeVisible();
  await bind(page, 'drv_hook', 'crane_hoist_drop');
  const hoist = bindingOf(await kitOf(page), 'drv_hook').rows;
  await choosePart(page, 'drv_hook');
  await unfold(page, 'Chain');
  await card(page).getByRole('button', { name: 'Put a carrier above' }).click();
  await bind(page, 'drv_hook_carrier', 'crane_slew_angle');
  kit = await kitOf(page);
  expect(bindingOf(kit, 'drv_hook').rows).toEqual(hoist);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveText([]);

  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  await page.getByRole('button', { name: 'Duties', exact: true }).click();
  await choose(page, 'Duty', 'A gate test');
  await page.getByRole('button', { name: 'Play the duty' }).click();
  await expect(page.getByRole('status', { name: 'Time in the duty' })).not.toHaveText('0.0 s');
  await page.getByRole('button', { name: 'Stop the duty' }).click();
  await goToStage(page, 'Ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
});
