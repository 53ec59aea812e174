import { expect, test, type Page } from '@playwright/test';
import type { Kit } from '@itchkit/core/document';
import { useApplication } from '../application';
import { look } from '../look';
import {
  card,
  checked,
  choose,
  choosePart,
  find,
  finding,
  giveToOtherSide,
  goToStage,
  kitOf,
  openCopy,
  saved,
  setNumber,
  treeRow,
  unfold,
} from '../steps';

useApplication({ seed: true });

const bindingOf = (kit: Kit, part: string) => Object.values(kit.bindings).find((binding) => kit.parts[binding.part].name === part)!;
const inBindings = (page: Page, part: string) =>
  page.getByRole('region', { name: 'Bindings' }).getByRole('button', { name: part, exact: true });

/** The mend of a finding that asks first. */
async function mend(page: Page, title: string | RegExp, by: RegExp): Promise<void> {
  await find(page, '[data-finding]').filter({ hasText: title }).first().locator('..').getByRole('button', { name: by }).first().click();
  await find(page, '[role=dialog] .MuiButton-contained').click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await checked(page);
}

const unbind = async (page: Page, ...parts: string[]) => {
  for (const part of parts) {
    const row = page.getByRole('region', { name: 'Bindings' }).getByRole('button', { name: new RegExp(`^Unbind ${part} from`) });
    await row.first().click();
  }
  await saved(page);
};

test('the lock: turned round, linked again, blurred, given a late level, the right side made of the left, tried and packaged', async ({
  page,
}) => {
  await openCopy(page, 'Tide lock');
  await goToStage(page, 'Wiring');
  await checked(page);

  // The left gate opens the wrong way, and its arm was moved by hand: turned round, then worked out again.
  await inBindings(page, 'drv_gate_left').click();
  await find(page, '[data-verdict]').getByRole('button', { name: 'Turn its way round' }).click();
  await checked(page);
  await mend(page, 'Links do not meet', / …$/);
  let kit = await kitOf(page);
  expect(bindingOf(kit, 'drv_gate_left').rows.at(-1)!.turn[1]).toBe(-78);
  expect(bindingOf(kit, 'drv_strut_left').rows.at(-1)!.value).toBe(78);
  await expect(finding(page, 'Links do not meet')).toHaveCount(0);
  await inBindings(page, 'drv_gantry').click();
  await find(page, '[data-verdict]').getByRole('button', { name: 'Turn its way round' }).click();
  await checked(page);
  await mend(page, 'A wheel does not roll as it goes', / …$/);
  await expect(finding(page, 'A wheel does not roll as it goes')).toHaveCount(0);

  // The right side had mistakes of its own: it is taken from the left one.
  await unbind(page, 'drv_gate_right', 'drv_arm_right', 'drv_strut_right', 'drv_wheel_right');
  await giveToOtherSide(page, ['drv_gate_left', 'drv_arm_left'], '1');
  await giveToOtherSide(page, ['drv_wheel_left'], '0, as here');
  await expect.poll(async () => (await kitOf(page)).links?.length).toBe(4);
  kit = await kitOf(page);
  expect(['gate', 'strut', 'arm', 'wheel'].map((word) => bindingOf(kit, `drv_${word}_right`).index)).toEqual([1, 1, 1, 0]);
  expect(bindingOf(kit, 'drv_gate_right').rows.at(-1)!.turn[1]).toBe(78);

  // What is left is mended: an index, units, what is not rest, lamps that leave a gap.
  await mend(page, 'Index out of range', /^Bind to/);
  await mend(page, 'Values look like rad', / …$/);
  for (const left of ['Neutral is not rest', 'Neutral is not rest']) await mend(page, left, / …$/);
  await mend(page, 'Switched parts leave gaps or overlap', / …$/);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);

  // While it is fast the pump wheel is what it sweeps.
  await choosePart(page, 'drv_pump_wheel');
  await unfold(page, 'Shown and hidden');
  await look(page, null);
  await card(page).getByRole('button', { name: 'Make a blurred stand-in' }).click();
  await expect(treeRow(page, 'pump_wheel_blurred')).toBeVisible();
  await saved(page);

  // A level that comes late: what hoists is to slew as well, and nothing is begun anew.
  const hoist = bindingOf(await kitOf(page), 'drv_hook').rows;
  await choosePart(page, 'drv_hook');
  await unfold(page, 'Chain');
  await card(page).getByRole('button', { name: 'Put a carrier above' }).click();
  await page.getByRole('searchbox', { name: 'Search' }).fill('slew');
  await page.getByRole('button', { name: /^crane_slew_angle/ }).click();
  await page.getByRole('button', { name: 'Bind drv_hook_carrier' }).click();
  await checked(page);
  kit = await kitOf(page);
  expect(bindingOf(kit, 'drv_hook').rows).toEqual(hoist);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);

  await goToStage(page, 'Trial');
  await page.getByRole('button', { name: 'Duties', exact: true }).click();
  await choose(page, 'Duty', 'By orders alone');
  const chart = page.getByRole('img', { name: /^By orders alone/ });
  const box = (await chart.boundingBox())!;
  await page.mouse.click(box.x + 150 + ((box.width - 162) * 18) / 40, box.y + 60);
  await page.getByRole('button', { name: 'Levers', exact: true }).click();
  await expect(find(page, '[data-readout="drv_gate_left"]')).toHaveAttribute('data-turn', /-78\.000/);
  await expect(page.getByText('drv_pump_wheel is hidden')).toBeVisible();

  await goToStage(page, 'Ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
});

test('what is missing on the other side is made as it is given its wiring: mirrored, named for its side, linked, in one step', async ({ page }) => {
  await openCopy(page, 'Tide lock, finished');
  await goToStage(page, 'Shape');
  await choosePart(page, 'drv_gate_right');
  await card(page).getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(treeRow(page, 'drv_gate_right')).toHaveCount(0);
  await expect(treeRow(page, 'drv_strut_right')).toHaveCount(0);
  await saved(page);
  await goToStage(page, 'Wiring');
  await choosePart(page, 'drv_gate_left');
  await choosePart(page, 'drv_arm_left', true);
  await unfold(page, 'Chain');
  await expect(card(page).getByText(/^In the mirror on the other side/)).toContainText('drv_arm_right, one like drv_gate_left, which is made');
  await choose(page, 'Index there', '1');
  await card(page).getByRole('button', { name: 'Give it to the other side' }).click();
  await expect(inBindings(page, 'drv_strut_right')).toBeVisible();
  await saved(page);
  const kit = await kitOf(page);
  const named = (name: string) => Object.values(kit.parts).find((part) => part.name === name)!;
  expect(named('drv_strut_right').parent).toBe(named('drv_gate_right').id);
  expect(bindingOf(kit, 'drv_gate_right').rows.at(-1)!.turn[1]).toBe(78);
  expect(kit.links).toHaveLength(4);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(inBindings(page, 'drv_strut_right')).toHaveCount(0);
  await saved(page);
  expect(Object.values((await kitOf(page)).parts).filter(({ name }) => name === 'drv_gate_right')).toEqual([]);
});

test('a duty is written by working the levers, changed by pointer, keys and numbers, and undone', async ({ page }) => {
  await openCopy(page, 'Tide lock, finished');
  await goToStage(page, 'Trial');
  await page.getByRole('button', { name: 'Write a duty by working the levers' }).click();
  await setNumber(page, 'Value of trolley_way[0]', 2);
  await page.waitForTimeout(400);
  await setNumber(page, 'Value of trolley_way[0]', -1);
  await page.getByRole('button', { name: 'Keep it as a duty' }).click();
  await expect(page.getByRole('combobox', { name: 'Duty' })).toHaveText('My duty');
  // It goes into no package: the trial is not behind.
  await expect(page.getByRole('button', { name: 'The kit has changed: load it again' })).toHaveCount(0);
  let [duty] = (await kitOf(page)).duties!;
  expect(duty.lines.map(({ variable }) => variable)).toEqual(['trolley_way']);
  expect(duty.lines[0].points.map(({ value }) => value)).toEqual(expect.arrayContaining([0, 2, -1]));

  const points = find(page, '[data-point]');
  const last = points.last();
  const before = (await last.boundingBox())!;
  await last.focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByRole('textbox', { name: 'Value of the point' })).toHaveValue('-0.5');
  await setNumber(page, 'Length of the duty', 20);
  await setNumber(page, 'Time of the point', 15);
  [duty] = (await kitOf(page)).duties!;
  expect([duty.seconds, duty.lines[0].points.at(-1)]).toEqual([20, { time: 15, value: -0.5 }]);
  expect((await last.boundingBox())!.x).not.toBe(before.x);

  // Dragged up: a higher value at an earlier time.
  const from = (await last.boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x - 60, from.y - 8, { steps: 4 });
  await page.mouse.up();
  [duty] = (await kitOf(page)).duties!;
  const dragged = duty.lines[0].points.at(-1)!;
  expect(dragged.time).toBeLessThan(15);
  expect(dragged.value).toBeGreaterThan(-0.5);

  await choose(page, 'Another line', 'lock_gate_order[0]');
  const total = await points.count();
  const ordered = find(page, '[data-lane="lock_gate_order[0]"]');
  await ordered.scrollIntoViewIfNeeded();
  const lane = (await ordered.boundingBox())!;
  await page.mouse.dblclick(lane.x + lane.width / 2, lane.y + lane.height / 2);
  await expect(points).toHaveCount(total + 1);
  await expect(page.getByText('as ordered')).toBeVisible();
  await look(page, null);
  await page.keyboard.press('Control+z');
  await expect(points).toHaveCount(total);
  await page.keyboard.press('Control+z');
  await saved(page);
  [duty] = (await kitOf(page)).duties!;
  expect(duty.lines).toHaveLength(1);
});

test('an order is followed at the platform’s rate; a shipped duty is copied to be changed; levels of a chain change places by drag', async ({
  page,
}) => {
  await openCopy(page, 'Tide lock, finished');
  await goToStage(page, 'Trial');
  await setNumber(page, 'Value of lock_gate_order[0]', 0.5);
  const lever = page.getByRole('textbox', { name: 'Value of lock_gate_swing[0]' });
  // Six degrees a second, and no further than it was asked to go.
  await expect(lever).not.toHaveValue('0');
  await expect(lever).toHaveValue('39', { timeout: 30_000 });
  await page.waitForTimeout(500);
  await expect(lever).toHaveValue('39');

  await page.getByRole('button', { name: 'Duties', exact: true }).click();
  await choose(page, 'Duty', 'A rolling trolley');
  await page.getByRole('button', { name: 'Copy it to change' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the duty' })).toHaveValue('A rolling trolley, mine');
  await page.getByRole('textbox', { name: 'Name of the duty' }).fill('Short run');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Duty' })).toHaveText('Short run');
  await page.getByRole('button', { name: 'Take the duty away' }).click();
  await saved(page);
  expect((await kitOf(page)).duties).toBeUndefined();

  await goToStage(page, 'Wiring');
  await choosePart(page, 'drv_hook');
  await unfold(page, 'Chain');
  await find(page, '[data-level="drv_hook"]').dragTo(find(page, '[data-level="drv_gantry"]'));
  await saved(page);
  const kit = await kitOf(page);
  const part = (name: string) => Object.values(kit.parts).find((one) => one.name === name)!;
  expect(kit.parts[part('drv_gantry').parent!].name).toBe('drv_hook');
  await page.keyboard.press('Control+z');

  // Of two chosen parts the second moves as the first, where it stands: no mirror, so the wheel turns the same way.
  await choosePart(page, 'drv_wheel_left');
  await choosePart(page, 'drv_wheel_right', true);
  await unfold(page, 'Chain');
  await choose(page, 'Index at that place', '2');
  await card(page).getByRole('button', { name: 'Give it to drv_wheel_right' }).click();
  await saved(page);
  const wheels = await kitOf(page);
  const [left, right] = ['left', 'right'].map((word) => bindingOf(wheels, `drv_wheel_${word}`));
  expect([right.variable, right.index]).toEqual(['trolley_way', 2]);
  expect(right.rows.map(({ turn }) => turn[0])).toEqual(left.rows.map(({ turn }) => turn[0]));
});
