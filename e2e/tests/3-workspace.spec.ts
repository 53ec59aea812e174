import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import {
  base,
  checked,
  choosePart,
  find,
  finding,
  goToStage,
  kitOf,
  openCopy,
  openDemo,
  saved,
  setNumber,
  treeRow,
  unfold,
} from '../steps';

useApplication({ seed: true });

const position = (page: Page) => page.getByRole('textbox', { name: 'Position x', exact: true });

test('every change can be undone and done again; a reload brings back the same thing', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Shape');
  await choosePart(page, 'drv_turntable');
  await setNumber(page, 'Position x', 3.25);
  await setNumber(page, 'Turn y', 30);
  await page.getByRole('combobox', { name: 'Role' }).click();
  await page.getByRole('option', { name: 'seat', exact: true }).click();
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(position(page)).toHaveValue('2.4');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(position(page)).toHaveValue('3.25');
  await saved(page);
  await page.reload();
  await checked(page);
  await choosePart(page, 'drv_turntable');
  await expect(position(page)).toHaveValue('3.25');
  await expect(page.getByRole('textbox', { name: 'Turn y', exact: true })).toHaveValue('0');
});

test('a part dragged onto another one hangs there, and stays where it was', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Shape');
  await choosePart(page, 'bollard');
  const world = page.getByRole('textbox', { name: 'Pivot in the world x' });
  const before = await world.inputValue();
  await treeRow(page, 'bollard').dragTo(treeRow(page, 'drv_trolley'));
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await expect(world).toHaveValue(before);
  await expect(position(page)).toHaveValue(String(Number((Number(before) - 5.4).toFixed(7))));
  // Below a part that has nothing below it yet, too.
  await choosePart(page, 'cabin_window');
  await treeRow(page, 'cabin_window').dragTo(treeRow(page, 'cabin'));
  await expect
    .poll(async () => {
      const { parts } = await kitOf(page);
      const { parent } = Object.values(parts).find(({ name }) => name === 'cabin_window')!;
      return parts[parent!].name;
    })
    .toBe('cabin');
});

test('the raw crane: from the Ledger to the part, renamed in the tree, hidden by key', async ({ page }) => {
  await openCopy(page, 'Sluice crane');
  await finding(page, 'Scale is not 1').click();
  await page.getByRole('button', { name: 'Pump Wheel', exact: true }).click();
  await page.waitForURL('**/shape');
  await expect(page.getByRole('textbox', { name: 'Scale x', exact: true })).toHaveValue('0.5');
  await treeRow(page, 'Pump Wheel').dblclick();
  await page.getByRole('textbox', { name: 'New name' }).fill('drv_wheel');
  await page.keyboard.press('Enter');
  await expect(treeRow(page, 'drv_wheel')).toBeVisible();
  // Keys are the workspace's while the tree has the keyboard; the finder opens out of a field, and shows what it would do.
  await page.getByRole('textbox', { name: 'Name', exact: true }).focus();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('hide or show');
  await expect(find(page, '[role=status]').filter({ hasText: 'Tried, not done: 1 part changed (hidden)' })).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(find(page, '[role=status]').filter({ hasText: 'Tried, not done' })).toHaveCount(0);
  await treeRow(page, 'drv_wheel').click();
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: 'Show drv_wheel' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Show drv_wheel' })).toHaveCount(0);
});

test('keys: dragged on the strip, eased, copied, deleted; written by the gizmo; played', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: /^gate_drop/ }).click();
  const bead = (text: string) => find(page, `[data-bead*="${text}"]`);
  // The strip opens beside the bench and settles; beads are dragged when they lie still.
  await stands(page, () => bead('2.00 s').boundingBox());
  const from = (await bead('2.00 s').boundingBox())!;
  const end = (await bead('4.00 s').boundingBox())!;
  const perSecond = (end.x - from.x) / 2;
  await page.mouse.move(from.x + 6, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(from.x + 6 - perSecond / 2, from.y + 6, { steps: 4 });
  await page.mouse.up();
  await expect(bead('1.50 s')).toHaveCount(1);
  await page.getByRole('button', { name: 'Ease bounce out' }).click();
  await expect(bead('1.50 s, 1.5, bounce-out')).toHaveCount(1);
  await bead('1.50 s').focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(bead('1.47 s')).toHaveCount(1);
  await expect(bead('1.50 s')).toHaveCount(1);
  await page.keyboard.press('Delete');
  await expect(bead('1.47 s')).toHaveCount(0);

  // A part pulled up by the gizmo's green arrow writes a key on the clip, not on the model.
  await choosePart(page, 'drv_turntable');
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(page.getByText('moving a part writes keys')).toBeVisible();
  const handle = await gizmoHandle(page);
  await page.mouse.move(handle.x, handle.y);
  await page.mouse.down();
  await page.mouse.move(handle.x, handle.y - 30, { steps: 5 });
  await page.mouse.up();
  await expect(find(page, '[data-bead*="drv_turntable, offset y"]')).toHaveCount(1);
  await goToStage(page, 'Shape');
  await expect(page.getByRole('textbox', { name: 'Position y', exact: true })).toHaveValue('0.8');

  await goToStage(page, 'Motion');
  const time = page.getByRole('status').filter({ hasText: / s · / });
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(time).not.toHaveText('0.00 s · 0');
});

test('all chosen beads go along while one of them is dragged; Shift lets one go and keeps the others', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: /^gate_drop/ }).click();
  const bead = (text: string) => find(page, `[data-bead*="${text}"]`);
  await stands(page, () => bead('2.00 s').boundingBox());
  await bead('2.00 s').click();
  await bead('4.00 s').click({ modifiers: ['Shift'] });
  const pressed = async (...texts: string[]) => Promise.all(texts.map((text) => bead(text).getAttribute('aria-pressed')));
  expect(await pressed('2.00 s', '4.00 s')).toEqual(['true', 'true']);
  // The other one has the keyboard: letting this one go by Shift must not let go of that one.
  await bead('2.00 s').click({ modifiers: ['Shift'] });
  expect(await pressed('2.00 s', '4.00 s')).toEqual(['false', 'true']);
  await bead('2.00 s').click({ modifiers: ['Shift'] });
  expect(await pressed('2.00 s', '4.00 s')).toEqual(['true', 'true']);

  const [from, end] = [(await bead('2.00 s').boundingBox())!, (await bead('4.00 s').boundingBox())!];
  const perSecond = (end.x - from.x) / 2;
  await page.mouse.move(from.x + 6, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(from.x + 6 - perSecond / 2, from.y + 6, { steps: 4 });
  const there = (await bead('4.00 s').boundingBox())!;
  expect(Math.abs(there.x - (end.x - perSecond / 2))).toBeLessThan(2);
  await page.mouse.up();
  await expect(bead('1.50 s')).toHaveCount(1);
  await expect(bead('3.50 s')).toHaveCount(1);
  expect(await pressed('1.50 s', '3.50 s')).toEqual(['true', 'true']);
  // What is dragged past the start stops there together.
  await bead('1.50 s').press('Shift+ArrowLeft');
  await page.keyboard.press('Control+z');
  await expect(bead('3.50 s')).toHaveCount(1);
});

/** Waits until something on the page lies still. */
async function stands(page: Page, where: () => Promise<unknown>): Promise<void> {
  const still = async () => {
    const before = JSON.stringify(await where());
    await page.waitForTimeout(250);
    return before === JSON.stringify(await where());
  };
  await expect.poll(still, { timeout: 20_000 }).toBe(true);
}

/** Where the gizmo's upward arrow is on the screen: found by its colour. */
async function gizmoHandle(page: Page): Promise<{ x: number; y: number }> {
  await page.waitForTimeout(300);
  return page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=bench] canvas')!;
    const copy = document.createElement('canvas');
    [copy.width, copy.height] = [canvas.width, canvas.height];
    const context = copy.getContext('2d')!;
    context.drawImage(canvas, 0, 0);
    const { data } = context.getImageData(0, 0, copy.width, copy.height);
    const box = canvas.getBoundingClientRect();
    for (let y = 0; y < copy.height; y++) {
      for (let x = 0; x < copy.width; x++) {
        const i = 4 * (y * copy.width + x);
        if (data[i] < 40 && data[i + 1] > 200 && data[i + 2] < 40)
          return { x: box.left + ((x + 0.5) / copy.width) * box.width, y: box.top + ((y + 5) / copy.height) * box.height };
      }
    }
    throw new Error('There is no green arrow on the bench');
  });
}

test('wiring: a pose captured on the bench becomes a row of the table', async ({ page }) => {
  await openCopy(page, 'Sluice crane, finished');
  await goToStage(page, 'Wiring');
  await page.getByRole('button', { name: 'drv_turntable', exact: true }).click();
  await setNumber(page, 'Value of crane_slew_angle[0]', 40);
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  const handle = await gizmoHandle(page);
  await page.mouse.move(handle.x, handle.y);
  await page.mouse.down();
  await page.mouse.move(handle.x, handle.y - 25, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByText('is held in a pose that is not written yet')).toBeVisible();
  await page.getByRole('button', { name: 'Pose here, at 40 deg' }).click();
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'offset y at 40', exact: true })).not.toHaveValue('0');
  await expect(page.getByRole('textbox', { name: 'turn y at 40', exact: true })).toHaveValue('40');
});

test('two windows on one kit: changes are brought together, and what does not fit is asked', async ({ context }) => {
  const one = await context.newPage();
  const id = await openCopy(one, 'Sluice crane, finished');
  const two = await context.newPage();
  await two.goto(`${base()}/kits/${id}/shape`);
  await checked(two);

  // Both change before either hears of the other: the second to save works on top of the first.
  await goToStage(one, 'Shape');
  await choosePart(one, 'bollard');
  await choosePart(two, 'ladder');
  let letGo = (): void => undefined;
  let held = Promise.resolve();
  const hold = () => (held = new Promise((resolve) => (letGo = resolve)));
  await two.route('**/api/kits/*', async (route) => {
    if (route.request().method() === 'PATCH') await held;
    await route.continue();
  });
  void hold();
  await setNumber(two, 'Position y', 0.5);
  await setNumber(one, 'Position y', 0.25);
  await saved(one);
  letGo();
  await saved(two);
  await expect(two.getByText('This kit was changed in another window.')).toBeVisible();
  await choosePart(two, 'bollard');
  await expect(two.getByRole('textbox', { name: 'Position y', exact: true })).toHaveValue('0.25');
  await choosePart(one, 'ladder');
  await expect(one.getByRole('textbox', { name: 'Position y', exact: true })).toHaveValue('0.5');

  // One takes the part out that the other one moves: neither is thrown away unasked.
  await choosePart(one, 'bollard');
  void hold();
  await setNumber(two, 'Position y', 0.75);
  await one.getByRole('toolbar').click({ position: { x: 600, y: 10 } });
  await one.keyboard.press('Delete');
  await saved(one);
  letGo();
  await expect(two.getByRole('dialog', { name: 'Changed in two windows' })).toBeVisible();
  await two.getByRole('button', { name: 'Keep this window’s' }).click();
  await saved(two);
  await expect(treeRow(one, 'bollard')).toBeVisible();
});

test('the shelf: duplicate, rename, take off, put back', async ({ page }) => {
  await page.goto(base());
  const card = (name: string) => find(page, `[data-kit="${name}"]`);
  const renameCopy = async () => {
    await find(page, '[data-kit^="Sluice crane, copy"]').first().getByRole('button').click();
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByRole('textbox', { name: 'Name of the kit' }).fill('Gantry');
    await page.keyboard.press('Enter');
    await expect(card('Gantry')).toBeVisible();
  };
  await page.getByRole('button', { name: 'What to do with Sluice crane', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Make a copy' }).click();
  await expect(find(page, '[data-kit^="Sluice crane, copy"]').first()).toBeVisible();
  await renameCopy();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card('Gantry')).toHaveCount(0);
  await expect(find(page, '[data-kit^="Sluice crane, copy"]').first()).toBeVisible();
  await renameCopy();
  await card('Gantry').getByRole('button').click();
  await page.getByRole('menuitem', { name: 'Take off the shelf' }).click();
  await expect(card('Gantry')).toHaveCount(0);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(card('Gantry')).toBeVisible();
});

test('any command by name, every key in a list', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  await page.keyboard.press('4');
  await page.waitForURL('**/wiring');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('go to ship');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/ship');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Find any command');
});

test('names of many at once, a parent above some parts, and dissolved again', async ({ page }) => {
  await openCopy(page, 'Sluice crane');
  await goToStage(page, 'Shape');
  await page.getByRole('button', { name: 'Names', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Whole name anew' }).fill('part');
  await expect(dialog.getByRole('status')).toContainText('taken or empty');
  await expect(dialog.getByRole('button', { name: /^Rename \d+ parts/ })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'Whole name anew' }).fill('{name}_{nn}');
  await dialog.getByRole('combobox', { name: 'Letters' }).click();
  await page.getByRole('option', { name: 'all small' }).click();
  await dialog.getByRole('combobox', { name: 'Words joined' }).click();
  await page.getByRole('option', { name: 'by _' }).click();
  await expect(find(page, '[data-renamed="quay_plinth_01"]')).toBeVisible();
  await dialog.getByRole('button', { name: 'Rename 39 parts' }).click();
  await expect(treeRow(page, 'quay_plinth_01')).toBeVisible();
  await expect(finding(page, 'Name used twice')).toHaveCount(0);

  await treeRow(page, 'bollard_02').click();
  await page.getByRole('button', { name: 'Parents' }).click();
  await page.getByRole('menuitem', { name: 'At the bottom of their bounds' }).click();
  await expect(treeRow(page, 'carrier')).toBeVisible();
  await page.getByRole('button', { name: 'Parents' }).click();
  await page.getByRole('menuitem', { name: /^Dissolve/ }).click();
  await expect(treeRow(page, 'carrier')).toHaveCount(0);
  await treeRow(page, 'bollard_02').click();
  await page.getByRole('button', { name: 'Parents' }).click();
  await page.getByRole('menuitem', { name: /^Dissolve/ }).click();
  await expect(page.getByText("can't be dissolved: it is drawn itself.")).toBeVisible();
  await page.keyboard.press('Escape');

  // Copies on a ring are shown before they are made; then they are there.
  await treeRow(page, 'bollard_02').click();
  await unfold(page, 'Repeat');
  await page.getByRole('combobox', { name: 'Way' }).click();
  await page.getByRole('option', { name: 'on a ring' }).click();
  await page.getByRole('button', { name: 'Full ring' }).click();
  await expect(page.getByRole('textbox', { name: 'From one to the next' })).toHaveValue('90');
  await page.getByRole('button', { name: 'Make 3 copies' }).click();
  await saved(page);
  await expect(page.getByRole('region', { name: 'Parts' }).getByText('42', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Parts' }).getByText('39', { exact: true })).toBeVisible();
});
