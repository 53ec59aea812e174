import { expect, test, type Page } from '@playwright/test';
import type { Kit } from '@itchkit/core/document';
import { useApplication } from '../application';
import { card, choose, choosePart, goToStage, kitOf, openCopy, saved, setNumber, unfold } from '../steps';

useApplication({ seed: true });

const bindingOf = (kit: Kit, part: string) => Object.values(kit.bindings).find((binding) => kit.parts[binding.part].name === part)!;
const inBindings = (page: Page, part: string) =>
  page.getByRole('region', { name: 'Bindings' }).getByRole('button', { name: part, exact: true });

test('a pinion rolls along the rack that moves past it, and goes on doing so when the rack is given another way', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Wiring');
  await choosePart(page, 'gate_pinion');
  await unfold(page, 'Links');
  await expect(card(page).getByText('bind that to a variable first')).toBeVisible();
  await choose(page, 'Rolls on', 'drv_gate_leaf');
  // Its pivot is where that of the raw model was: a wheel would wobble.
  await card(page).getByRole('button', { name: 'Put its pivot in its middle' }).click();
  await expect(card(page).getByText('it would wobble')).toHaveCount(0);
  const radius = Number(await page.getByRole('textbox', { name: 'Radius' }).inputValue()) / 1000;
  expect(radius).toBeGreaterThan(0.1);
  await card(page).getByRole('button', { name: 'Work it out' }).click();
  await expect(card(page).getByText('gate_lift[0]: 2 rows, exact')).toBeVisible();
  await expect(page.getByText('It turns as its link has to.')).toBeVisible();

  const most = (kit: Kit) => {
    const lift = bindingOf(kit, 'drv_gate_leaf').rows.at(-1)!;
    const turn = Math.max(...bindingOf(kit, 'gate_pinion').rows.at(-1)!.turn.map(Math.abs));
    return { way: Math.hypot(...lift.offset), turn };
  };
  const first = most(await kitOf(page));
  expect(first.turn).toBeCloseTo(((first.way / radius) * 180) / Math.PI, 1);

  // The rack goes half as far: the pinion is worked out again within the same step.
  await inBindings(page, 'drv_gate_leaf').click();
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  const cell = page.getByRole('textbox', { name: 'offset z at 2.4' }).or(page.getByRole('textbox', { name: 'offset y at 2.4' }));
  const cells = await cell.evaluateAll((all) =>
    all.map((one) => ({ name: one.getAttribute('aria-label')!, value: Number((one as HTMLInputElement).value) })),
  );
  const moved = cells.find(({ value }) => value !== 0)!;
  await setNumber(page, moved.name, moved.value / 2);
  const second = most(await kitOf(page));
  expect(second.way).toBeCloseTo(first.way / 2, 6);
  expect(second.turn).toBeCloseTo(first.turn / 2, 1);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(most(await kitOf(page)).turn).toBeCloseTo(first.turn, 6);
});

test('two links about one line are refused in a sentence; with a pivot of its own each they meet, are let go, and come back', async ({
  page,
}) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Wiring');
  await choosePart(page, 'boom_sheave');
  await choosePart(page, 'mast_l', true);
  await unfold(page, 'Links');
  await card(page).getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByText('turn about one and the same line at rest').first()).toBeVisible();

  await goToStage(page, 'Shape');
  for (const part of ['boom_sheave', 'mast_l']) {
    await choosePart(page, part);
    await page.getByRole('button', { name: 'Middle of its mass' }).click();
  }
  await goToStage(page, 'Wiring');
  await choosePart(page, 'boom_sheave');
  await choosePart(page, 'mast_l', true);
  await setNumber(page, 'Meet at y', 5000);
  await card(page).getByRole('button', { name: 'Work it out' }).click();
  await expect(card(page).getByText(/^crane_luff_angle\[0\]: \d+ rows, at most 0\.\d+ mm off/)).toBeVisible();
  let kit = await kitOf(page);
  const before = 3;
  expect(kit.links).toHaveLength(before + 1);
  for (const part of ['boom_sheave', 'mast_l']) expect(bindingOf(kit, part).rows.length).toBeGreaterThan(4);

  await card(page).getByRole('button', { name: 'Let go, keep the tables' }).click();
  await expect(card(page).getByRole('button', { name: 'Work it out' })).toBeVisible();
  kit = await kitOf(page);
  expect(kit.links).toHaveLength(before);
  expect(bindingOf(kit, 'mast_l').rows.length).toBeGreaterThan(4);
  await page.keyboard.press('Control+z');
  await expect(card(page).getByRole('button', { name: 'Let go, keep the tables' })).toBeVisible();
});
