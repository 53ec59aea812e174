import { expect, test, type Page } from '@playwright/test';
import type { Kit } from '@itchkit/core/document';
import { useApplication } from '../application';
import { card, choose, choosePart, find, finding, goToStage, kitOf, openCopy, saved, setNumber, treeRow, unfold } from '../steps';

useApplication({ seed: true });

const bindingOf = (kit: Kit, part: string) => Object.values(kit.bindings).find((binding) => kit.parts[binding.part].name === part)!;
const station = (page: Page, value: number) => find(page, `[data-station="${value}"]`);
const verdict = (page: Page) => find(page, '[data-verdict]');
const stage = async (page: Page) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Wiring');
};
const inView = (page: Page, part: string) =>
  page.getByRole('region', { name: 'Bindings' }).getByRole('button', { name: part, exact: true }).click();

test('stations: two parts posed at one value, the station moved by pointer and keys, neutral left alone', async ({ page }) => {
  await stage(page);
  await inView(page, 'drv_hook_block');
  await setNumber(page, 'Value of crane_hoist_drop[0]', 6);
  await page.getByRole('button', { name: 'Pose here, at 6 m' }).click();
  await expect(station(page, 6)).toHaveAccessibleName('Station at 6 m, poses 1 part');
  await inView(page, 'drv_hoist_rope');
  await page.getByRole('button', { name: 'Pose here, at 6 m' }).click();
  await expect(station(page, 6)).toHaveAccessibleName('Station at 6 m, poses 2 parts');
  let kit = await kitOf(page);
  expect(bindingOf(kit, 'drv_hook_block').rows.map(({ value, offset }) => [value, offset[1]])).toEqual([
    [0, 0],
    [6, -6],
    [12, -12],
  ]);

  await station(page, 6).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(station(page, 7)).toHaveCount(1);
  const [from, end] = [(await station(page, 7).boundingBox())!, (await station(page, 12).boundingBox())!];
  await page.mouse.move(from.x + 6, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(from.x + 6 + ((end.x - from.x) / 5) * 2, from.y + 6, { steps: 4 });
  await page.mouse.up();
  await expect(station(page, 9)).toHaveCount(1);
  kit = await kitOf(page);
  for (const part of ['drv_hook_block', 'drv_hoist_rope']) expect(bindingOf(kit, part).rows.map(({ value }) => value)).toEqual([0, 9, 12]);

  // Neutral is rest: it is not deleted, and nothing is posed there.
  await station(page, 0).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText('it is neutral').first()).toBeVisible();
  await page.keyboard.press('r');
  await page.getByRole('button', { name: 'Pose here, at 0 m' }).click();
  await expect(page.getByText('Move the lever first').first()).toBeVisible();
  await station(page, 9).focus();
  await page.keyboard.press('Delete');
  await expect(station(page, 9)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(station(page, 9)).toHaveCount(1);
});

test('a table goes in a curve: what is linked to it follows, a station put into it changes nothing, and it goes straight again', async ({ page }) => {
  await stage(page);
  await inView(page, 'drv_boom');
  const straight = await kitOf(page);
  await choose(page, 'From row to row', /in a curve/);
  await saved(page);
  const curved = await kitOf(page);
  expect(bindingOf(curved, 'drv_boom').between).toBe('curve');
  // The stays were worked out again, for where the boom is now.
  expect(bindingOf(curved, 'drv_mast_stay').rows).not.toEqual(bindingOf(straight, 'drv_mast_stay').rows);
  await setNumber(page, 'Value of crane_luff_angle[0]', 30);
  await page.getByRole('button', { name: 'Pose here, at 30 deg' }).click();
  await saved(page);
  const posed = await kitOf(page);
  expect(bindingOf(posed, 'drv_boom').rows.map(({ value, slope }) => [value, slope !== undefined])).toEqual([
    [0, true],
    [-20, false],
    [30, true],
    [55, true],
  ]);
  const [before, after] = [curved, posed].map((kit) => bindingOf(kit, 'drv_mast_stay').rows);
  expect(after.map(({ value }) => value)).toEqual(before.map(({ value }) => value));
  after.forEach(({ turn }, i) => expect(turn[0]).toBeCloseTo(before[i].turn[0], 6));
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);
  await choose(page, 'From row to row', /straight/);
  await saved(page);
  expect(bindingOf(await kitOf(page), 'drv_boom').between).toBeUndefined();
});

test('the probe: a table the wrong way round is a stop, seen where it is made, and turned round again', async ({ page }) => {
  await stage(page);
  await inView(page, 'drv_boom');
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
  await page.getByRole('button', { name: 'Rows', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Turn its way round' }).click();
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'wrong');
  await expect(finding(page, 'Moves the wrong way')).toBeVisible();
  await verdict(page).getByRole('button', { name: 'Turn its way round' }).click();
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
  await expect(finding(page, 'Moves the wrong way')).toHaveCount(0);

  // Pasted from a spreadsheet, in another unit; a line that can’t be read is named.
  await page.getByRole('button', { name: 'Rows', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Paste rows …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Rows of “drv_boom”' });
  await dialog.getByRole('textbox', { name: 'Rows' }).fill('angle\tturn\n0.5 rad\tfar');
  await expect(dialog.getByText('Line 2: “far” is no turn.')).toBeVisible();
  await dialog.getByRole('textbox', { name: 'Rows' }).fill('angle\tturn\n0.5 rad\t-0.5 rad\n-10\t10');
  await dialog.getByRole('button', { name: 'Write 2 rows' }).click();
  await expect(dialog).toHaveCount(0);
  const { rows } = bindingOf(await kitOf(page), 'drv_boom');
  expect(rows.map(({ value, turn }) => [Number(value.toFixed(3)), Number(turn[0].toFixed(3))])).toEqual([
    [0, 0],
    [-20, 20],
    [-10, 10],
    [28.648, -28.648],
    [55, -55],
  ]);
});

test('a chain: a carrier is put in between and bound, levels change places, the other side gets the same in the mirror', async ({
  page,
}) => {
  await stage(page);
  await choosePart(page, 'drv_boom');
  await unfold(page, 'Chain');
  await card(page).getByRole('button', { name: 'Put a carrier above' }).click();
  await expect(treeRow(page, 'drv_boom_carrier')).toBeVisible();
  // It is driven and nothing moves it yet.
  await expect(finding(page, 'Driven part with no binding')).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search' }).fill('brake');
  await page.getByRole('button', { name: /^crane_brake_set/ }).click();
  await page.getByRole('button', { name: 'Bind drv_boom_carrier' }).click();
  await saved(page);
  let kit = await kitOf(page);
  const named = (name: string) => Object.values(kit.parts).find((part) => part.name === name)!;
  expect(kit.parts[named('drv_boom').parent!].name).toBe('drv_boom_carrier');

  await choosePart(page, 'drv_boom');
  await unfold(page, 'Chain');
  await card(page).getByRole('button', { name: 'Let drv_boom carry drv_boom_carrier' }).click();
  await saved(page);
  kit = await kitOf(page);
  expect(kit.parts[named('drv_boom_carrier').parent!].name).toBe('drv_boom');

  await choosePart(page, 'mast_l');
  await page.getByRole('searchbox', { name: 'Search' }).fill('barrier');
  await page.getByRole('button', { name: /^bridge_barrier/ }).click();
  await page.getByRole('button', { name: 'Bind mast_l' }).click();
  await unfold(page, 'Chain');
  await choose(page, 'Index there', '3');
  await card(page).getByRole('button', { name: 'Give it to the other side' }).click();
  await saved(page);
  kit = await kitOf(page);
  expect([bindingOf(kit, 'mast_r').variable, bindingOf(kit, 'mast_r').index]).toEqual(['bridge_barrier', 3]);
});

test('the trial plays a duty and sweeps every lever, from the package alone', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Trial');
  await page.getByRole('button', { name: 'Duties', exact: true }).click();
  await choose(page, 'Duty', 'A gate test');
  const time = page.getByRole('status', { name: 'Time in the duty' });
  await page.getByRole('button', { name: 'Play the duty' }).click();
  await expect(time).not.toHaveText('0.0 s');
  await page.getByRole('button', { name: 'Stop the duty' }).click();
  // Gone to by the pointer: at three seconds the gate is at its highest.
  const chart = page.getByRole('img', { name: /^A gate test/ });
  const box = (await chart.boundingBox())!;
  await page.mouse.click(box.x + 150 + ((box.width - 162) * 3) / 24, box.y + 60);
  await expect(time).toHaveText('3.0 s');
  await page.getByRole('button', { name: 'Levers', exact: true }).click();
  await expect(find(page, '[data-readout="drv_gate_leaf"]')).toHaveAttribute('data-offset', /^0\.0000 \S+ 1\.(49|50)/);

  await page.getByRole('button', { name: 'Sweep', exact: true }).click();
  await page.getByRole('button', { name: 'Sweep all levers' }).click();
  await expect(find(page, '[data-swept]')).toHaveAttribute('data-swept', 'yes', { timeout: 120_000 });
  await expect(find(page, '[data-swept]')).toContainText('0 driven parts that nothing moves');
});
