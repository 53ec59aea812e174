import { expect, test, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { MemoryBlobs, type Kit, type Vec3 } from '@itchkit/core/document';
import { kitBounds } from '@itchkit/core/geometry';
import { checkRulebook } from '@itchkit/core/rulebook';
import { sluiceCraneFinished } from '@itchkit/demo';
import { useApplication } from '../application';
import {
  base,
  card,
  checked,
  choose,
  choosePart,
  find,
  goToStage,
  kitOf,
  moreTools,
  onBench,
  openCopy,
  openDemo,
  setNumber,
  treeRow,
  unfold,
} from '../steps';

useApplication({ seed: true });

const partNamed = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!;
const view = async (page: Page) => (await page.getByRole('img', { name: /^Bench/ }).getAttribute('data-view'))!;

test('with the lock one number of a size takes the other two along, as one step', async ({ page }) => {
  await openCopy(page, 'Hill tram halt');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Lamp');
  const before = partNamed(await kitOf(page), 'Lamp').scale;
  await card(page).getByRole('button', { name: 'Lock the proportions of Scale' }).click();
  await setNumber(page, 'Scale x', 2 * before[0]);
  partNamed(await kitOf(page), 'Lamp').scale.forEach((value, axis) => expect(value).toBeCloseTo(2 * before[axis], 6));
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  expect(partNamed(await kitOf(page), 'Lamp').scale).toEqual(before);
  await card(page).getByRole('button', { name: 'Lock the proportions of Scale' }).click();
  await setNumber(page, 'Scale y', 3 * before[1]);
  const after = partNamed(await kitOf(page), 'Lamp').scale;
  expect([after[0], after[2]]).toEqual([before[0], before[2]]);
});

test('in Motion the view goes along with the body where that is wanted, and stands where it is not', async ({ page }) => {
  await openDemo(page, 'Night-watch keeper');
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: 'Motions' }).click();
  await page.getByRole('button', { name: /^Walk/ }).first().click();
  await page.getByRole('checkbox', { name: 'Goes along' }).check();
  await page.getByRole('textbox', { name: 'Name of the clip' }).fill('travels');
  await page.getByTestId('middle').getByRole('button', { name: 'Put it on' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^travels/ }).click();
  const goTo = async (seconds: string) => {
    const field = page.getByRole('textbox', { name: 'Time, seconds' });
    await field.fill(seconds);
    await field.press('Enter');
    await expect(find(page, '[aria-label="Time in the clip"]')).toContainText(Number(seconds).toFixed(2));
  };
  await goTo('0');
  const still = await view(page);
  await goTo('0.8');
  expect(await view(page)).toBe(still);
  await goTo('0');
  await moreTools(page);
  await page.getByRole('button', { name: 'Follow', exact: true }).click();
  const start = await view(page);
  await goTo('0.8');
  await expect.poll(() => view(page)).not.toBe(start);
});

test('a formula moves several chosen parts at once; each has a track of its own, and one step takes all back', async ({ page }) => {
  await openCopy(page, 'Hill tram halt, moving');
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: 'Add clip', exact: true }).click();
  await choosePart(page, 'Lamp');
  await choosePart(page, 'Lamp_2', true);
  const before = await kitOf(page);
  await unfold(page, 'Formula');
  await choose(page, 'Moves', 'turn z');
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await formula.fill('8 * sin(tau * u');
  await expect(page.getByRole('alert').filter({ hasText: 'character' })).toBeVisible();
  await expect(find(page, '.cm-lintRange-error').first()).toBeVisible();
  await formula.fill('8 * sin(tau * u)');
  await card(page).getByText('And others by the same').click();
  await page.getByRole('checkbox', { name: 'of the 1 other chosen part too' }).check();
  await page.getByRole('button', { name: 'Move it by this' }).click();
  const formulas = (kit: Kit) =>
    Object.values(kit.clips).flatMap(({ tracks }) =>
      tracks.flatMap((track) => (track.kind === 'formula' ? [kit.parts[track.part].name] : [])),
    );
  expect(formulas(await kitOf(page)).sort()).toEqual(['Lamp', 'Lamp_2']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  expect((await kitOf(page)).clips).toEqual(before.clips);
});

test('“as it will play” says how far off the platform’s straight keys are, and how many there will be', async ({ page }) => {
  await openCopy(page, 'Hill tram halt, moving');
  await goToStage(page, 'Motion');
  await choosePart(page, 'Lamp');
  await page.getByRole('button', { name: 'As it will play' }).click();
  await expect(page.getByTestId('played-words')).toBeVisible();
  await expect(card(page).getByText(/straight ones played/)).toBeVisible();

  // The platform plays no sizes: what is keyed by them is named, and stands as it does at rest.
  const differs = card(page).getByRole('list', { name: 'What differs' });
  const rate = 'Plotwick plays 24 frames a second, the clip has 30';
  await expect(differs.getByRole('listitem')).toHaveText([rate]);
  await setNumber(page, 'Size x', 3);
  await expect(differs.getByRole('listitem')).toHaveText(['“Lamp” keeps its size of rest', rate]);
  await choosePart(page, 'Lamp_2');
  await differs.getByRole('button', { name: /Lamp/ }).click();
  const chosen = find(page, '[role=treeitem][aria-selected=true]');
  await expect(chosen).toHaveCount(1);
  await expect(chosen).toContainText(/^Lamp(?!_)/);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(differs.getByRole('listitem')).toHaveText([rate]);
});

test('Esc closes History wherever the keyboard is, and the keyboard is on the page again', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  await page.getByRole('button', { name: 'History', exact: true }).click();
  const drawer = page.getByRole('tab', { name: /^Steps/ });
  await expect(drawer).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Tab');
  await page.keyboard.press('Escape');
  await expect(drawer).toHaveCount(0);
  expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true);
});

test('the whole kit is in view as it is opened, and again after the window has another size', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  await goToStage(page, 'Shape');
  const blobs = new MemoryBlobs();
  const rulebook = checkRulebook(JSON.parse(await readFile(join(import.meta.dirname, '../../rulebooks/brinework.rulebook.json'), 'utf8')));
  const { min, max } = kitBounds(await sluiceCraneFinished(rulebook, blobs), blobs);
  const isInside = async () => {
    const box = (await page.getByRole('img', { name: /^Bench/ }).boundingBox())!;
    for (let corner = 0; corner < 8; corner++) {
      const { x, y } = await onBench(page, [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? max : min)[axis]) as Vec3);
      expect(x).toBeGreaterThanOrEqual(box.x);
      expect(x).toBeLessThanOrEqual(box.x + box.width);
      expect(y).toBeGreaterThanOrEqual(box.y);
      expect(y).toBeLessThanOrEqual(box.y + box.height);
    }
  };
  await expect(isInside).toPass();
  await page.setViewportSize({ width: 1000, height: 640 });
  await expect(isInside).toPass();
});

test('a hinge that is tried knows how far it is free, and says why', async ({ page }) => {
  await openCopy(page, 'Foghorn cabinet');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Cabinet');
  await unfold(page, 'Split');
  await page.getByRole('button', { name: /loose pieces$/ }).click();
  await expect(treeRow(page, 'Cabinet_2')).toBeVisible();
  await choosePart(page, 'Cabinet_2');
  await unfold(page, 'Try the hinge');
  await expect(card(page).getByText(/It swings from -?\d+° to -?\d+°: /)).toBeVisible();
  const slider = card(page).getByRole('slider', { name: 'Swing' });
  const most = Number(await slider.getAttribute('aria-valuemax'));
  await slider.press('End');
  expect(Number(await slider.getAttribute('aria-valuenow'))).toBe(most);
  await slider.blur();
  // Let go it stands at rest again, and nothing of it is kept.
  await expect(slider).toHaveAttribute('aria-valuenow', '0');
});

test('parts shown one at a time: lanes over the variable, an edge moved for both, the gap closed, played in the trial', async ({
  page,
}) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Wiring');
  const names = ['ladder', 'bollard'];
  await choosePart(page, names[0]);
  await choosePart(page, names[1], true);
  await unfold(page, 'Shown and hidden');
  await choose(page, 'By', 'pump_speed');
  await page.getByRole('button', { name: 'Show one at a time' }).click();
  const edges = find(page, '[data-edge]');
  await expect(edges).toHaveCount(1);
  const at = Number(await edges.first().getAttribute('data-edge'));
  await edges.first().press('ArrowRight');
  await expect.poll(async () => Number(await edges.first().getAttribute('data-edge'))).toBeGreaterThan(at);
  const spans = (kit: Kit) => kit.switches!.filter(({ part }) => names.includes(kit.parts[part].name)).map((one) => one.spans);
  const [[first], [second]] = spans(await kitOf(page));
  expect(first.to).toBe(second.from);
  // One of the two by itself: a gap, told with its values, and closed.
  await choosePart(page, names[0]);
  const below = page.getByRole('textbox', { name: 'Below, span 1' });
  await below.fill('0');
  await below.press('Enter');
  await checked(page);
  const owed = find(page, '[data-finding]').filter({ hasText: 'Switched parts leave gaps or overlap' });
  await expect(owed).toBeVisible();
  await page.getByRole('button', { name: 'Close the gaps', exact: true }).click();
  await checked(page);
  await expect(owed).toHaveCount(0);
  // As text: the line that is gone to chooses its part.
  await page.getByRole('button', { name: 'As text' }).click();
  await page.getByRole('button', { name: 'shown.csv' }).click();
  await find(page, '.cm-line').filter({ hasText: names[1] }).first().click();
  await expect(find(page, '[role=treeitem][aria-selected=true]')).toContainText(names[1]);
  await goToStage(page, 'Trial');
  await expect(page.getByText(/is shown$|is hidden$/).first()).toBeVisible({ timeout: 30_000 });
});

test('learning by the crane, its last tasks: it goes on by itself to the built package', async ({ page }) => {
  await page.goto(base());
  await page.getByRole('link', { name: 'Open Sluice crane, finished', exact: true }).click();
  await checked(page);
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Learn by mending the crane' }).click();
  const line = page.getByRole('status', { name: 'Learn by mending the crane' });
  await page.getByRole('radio', { name: 'centimetres' }).click();
  await checked(page);
  await page.getByRole('button', { name: /^Mend all safe/ }).click();
  await expect(line).toContainText('Task 3 of 7');
  await page.getByRole('button', { name: /^Look at \d+ more mends/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Mend \d+ findings/ })
    .click();
  await expect(line).toContainText('Task 4 of 7');
  await line.getByRole('link', { name: 'Go to Shape' }).click();
  await page.waitForURL('**/shape');
  await choosePart(page, 'drv_turntable');
  await page.getByRole('button', { name: 'bottom, centre, centre' }).click();
  await expect(line).toContainText('Task 5 of 7');
  await line.getByRole('link', { name: 'Go to Motion' }).click();
  await page.waitForURL('**/motion');
  await page.getByRole('button', { name: 'Add clip', exact: true }).click();
  await choosePart(page, 'drv_turntable');
  await setNumber(page, 'Turn y', 0);
  const time = page.getByRole('textbox', { name: 'Time, seconds' });
  await time.fill('1');
  await time.press('Enter');
  await setNumber(page, 'Turn y', 40);
  await expect(line).toContainText('Task 6 of 7');
  await line.getByRole('link', { name: 'Go to Wiring' }).click();
  await page.waitForURL('**/wiring');
  await page.getByRole('button', { name: /^crane_slew_angle/ }).click();
  await page.getByRole('button', { name: 'Bind drv_turntable' }).click();
  await checked(page);
  await expect(line).toContainText('Task 7 of 7');
  await line.getByRole('link', { name: 'Go to Ship' }).click();
  await page.waitForURL('**/ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(line).toContainText('All seven tasks are done', { timeout: 60_000 });
});
