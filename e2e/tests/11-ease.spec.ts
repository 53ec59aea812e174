import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import { base, checked, choosePart, find, goToStage, kitOf, openDemo, saved, treeRow } from '../steps';

useApplication({ seed: true });

const field = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });
const undo = (page: Page) => page.getByRole('button', { name: 'Undo', exact: true });

async function openShape(page: Page): Promise<void> {
  await openDemo(page, 'Sluice crane, finished');
  await goToStage(page, 'Shape');
  await choosePart(page, 'ladder');
}

test('numbers take arithmetic and other units; Ctrl+Z in a field whose value was taken is the kit’s', async ({ page }) => {
  await openShape(page);
  const x = field(page, 'Position x');
  const before = await x.inputValue();
  await x.fill('2*1.5 + 10in');
  await x.press('Enter');
  await expect(x).toHaveValue('3.254');
  // The field still has the keyboard.
  await page.keyboard.press('Control+z');
  await expect(x).toHaveValue(before);
  await expect(undo(page)).toBeDisabled();
  await page.keyboard.press('Control+Shift+z');
  await expect(x).toHaveValue('3.254');
  await page.keyboard.press('Control+z');
  const name = field(page, 'Name');
  await name.fill('steps');
  await name.press('Enter');
  await expect(treeRow(page, 'steps')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(name).toHaveValue('ladder');
  await choosePart(page, 'drv_turntable');
  await expect(undo(page)).toBeDisabled();
  await expect(page.getByRole('status').filter({ hasText: /tried/i })).toHaveCount(0);
  await x.fill('45°');
  await expect(x).toHaveAttribute('aria-invalid', 'true');
  await x.press('Escape');
});

/** Scrolls the list of parts, and tells which part lies at a point just then: not when the list has come to rest. */
const scrolledTo = (page: Page, top: number, point: readonly [number, number]) =>
  page.evaluate(
    ([to, x, y]) =>
      new Promise<string | undefined>((resolve) => {
        const list = document.querySelector('[role="tree"] > div')!;
        const there = () => resolve(document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-part]')?.dataset.part);
        list.addEventListener('scroll', () => requestAnimationFrame(() => requestAnimationFrame(there)), { once: true });
        list.scrollTop = to;
      }),
    [top, ...point] as const,
  );

test('a row of Parts is chosen by a press while the list still scrolls', async ({ page }) => {
  await openDemo(page, 'Sluice crane');
  const box = (await page.getByRole('region', { name: 'Parts' }).boundingBox())!;
  const point = [box.x + 120, box.y + box.height / 2] as const;
  await page.mouse.move(...point);
  for (const top of [60, 20, 90]) {
    const row = await scrolledTo(page, top, point);
    expect(row).toBeDefined();
    await page.mouse.down();
    await page.mouse.up();
    await expect(page.getByRole('treeitem', { selected: true }).filter({ has: treeRow(page, row!) })).toBeVisible();
  }
});

test('in the tree Space chooses, F2 renames, and the keyboard stays there; Esc lets go of one thing at a time', async ({ page }) => {
  await openShape(page);
  await page.keyboard.press('Escape');
  await expect(find(page, '[role="treeitem"][aria-selected="true"]')).toHaveCount(0);
  await treeRow(page, 'ladder').click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press(' ');
  const chosen = find(page, '[role="treeitem"][aria-selected="true"]');
  await expect(chosen).toHaveCount(1);
  await expect(chosen).not.toContainText('ladder');
  await page.keyboard.press('F2');
  const name = field(page, 'New name');
  await name.fill('renamed_part');
  await name.press('Enter');
  await expect(treeRow(page, 'renamed_part')).toBeVisible();
  expect(await page.evaluate(() => document.activeElement?.closest('[aria-label="Parts"]') !== null)).toBe(true);
  await page.keyboard.press('o');
  await page.keyboard.press('Escape');
  await expect(chosen).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(chosen).toHaveCount(0);
});

test('what was done is taken back after the page was loaded again', async ({ page }) => {
  await openShape(page);
  await field(page, 'Position y').fill('0.5');
  await field(page, 'Position y').press('Enter');
  await saved(page);
  // Steps are written down a moment later.
  await page.waitForTimeout(600);
  await page.reload();
  await checked(page);
  await undo(page).click();
  await choosePart(page, 'ladder');
  await expect(field(page, 'Position y')).not.toHaveValue('0.5');
  const kit = await kitOf(page);
  expect(Object.values(kit.parts).find(({ name }) => name === 'ladder')!.translation[1]).not.toBe(0.5);
});

test('the finder goes to a section of another stage by what the trade calls it, and to a part', async ({ page }) => {
  await openShape(page);
  const look = async (text: string) => {
    await page.keyboard.press('Control+k');
    await page.getByRole('combobox', { name: 'What are you looking for?' }).fill(text);
  };
  await look('polycount');
  await expect(
    page
      .getByRole('option')
      .filter({ hasText: /triangles|Simplify/i })
      .first(),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await look('origin to bottom');
  await expect(page.getByRole('option').filter({ hasText: 'Pivot' }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await look('turntbale');
  await page.getByRole('option').filter({ hasText: 'drv_turntable' }).first().click();
  await expect(field(page, 'Name')).toHaveValue('drv_turntable');
  await look('goes in');
  await page
    .getByRole('option', { name: /^Goes in/ })
    .first()
    .click();
  await page.waitForURL('**/ship');
  await expect(page.getByRole('heading', { name: 'Goes in' })).toBeFocused();
});

test('the shelf is searched and ordered; several kits are copied and taken off at once, and lie in the bin', async ({ page }) => {
  await page.goto(base());
  const cards = page.getByRole('link', { name: /^Open / });
  await expect(cards.first()).toBeVisible();
  const all = await cards.count();
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('crane brine');
  await expect.poll(() => cards.count()).toBeLessThan(all);
  for (const name of await cards.evaluateAll((links) => links.map((link) => link.getAttribute('aria-label')!)))
    expect(name).toMatch(/crane/i);
  await page.getByRole('searchbox', { name: 'Search the shelf' }).fill('');
  await expect(cards).toHaveCount(all);
  for (const name of ['Hill tram halt', 'Sluice crane, finished'])
    await page.getByRole('checkbox', { name: `Choose ${name}`, exact: true }).check();
  await page.getByRole('group', { name: 'Chosen kits' }).getByRole('button', { name: 'Make a copy' }).click();
  await expect(cards).toHaveCount(all + 2);
  for (const name of ['Hill tram halt, copy', 'Sluice crane, finished, copy'])
    await page.getByRole('checkbox', { name: `Choose ${name}`, exact: true }).check();
  await page.getByRole('group', { name: 'Chosen kits' }).getByRole('button', { name: 'Take off the shelf' }).click();
  await expect(cards).toHaveCount(all);
  await page.getByRole('button', { name: 'Bin', exact: true }).click();
  const bin = page.getByRole('dialog', { name: 'Bin' });
  await expect(bin.getByRole('listitem').filter({ hasText: ', copy' })).toHaveCount(2);
  await bin.getByRole('listitem').filter({ hasText: 'Hill tram halt, copy' }).getByRole('button', { name: 'Put it back' }).click();
  await bin.getByRole('button', { name: 'Done' }).click();
  await expect(cards).toHaveCount(all + 1);
});

test('the rulebook’s JSON folds, marks the line where something is wrong, and goes there', async ({ page }) => {
  await page.goto(`${base()}/rulebooks`);
  const made = await page.request.post(`${base()}/api/rulebooks`, {
    data: OWN,
    headers: { 'content-type': 'application/json' },
  });
  expect(made.ok()).toBe(true);
  await page.goto(`${base()}/rulebooks/own-yard/edit`);
  const text = page.getByRole('textbox', { name: 'The rulebook as JSON' });
  await expect(text).toContainText('"own-yard"');
  await text.click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('End');
  await page.keyboard.type('?');
  await page.getByRole('button', { name: /^Go to line/ }).click();
  await expect(find(page, '.cm-lint-marker-error').first()).toBeVisible();
  await expect(find(page, '.cm-foldGutter').first()).toBeVisible();
  await text.click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Go to line/ })).toHaveCount(0);
});

/** A small rulebook of one's own. */
const OWN = {
  format: 'itchkit.rulebook/1',
  id: 'own-yard',
  version: '0.1.0',
  title: 'Own yard',
  summary: 'A yard of our own.',
  space: { metresPerUnit: 1, up: '+y', forward: '+z', handedness: 'right' },
  unit: { name: 'metres', short: 'm' },
  tileMetres: 1,
  stepMetres: 0.01,
  stepDegrees: 1,
  naming: {
    root: 'base',
    maxLength: 40,
    patterns: [{ role: null, prefix: '', pattern: '^[a-z_]+$', explain: 'lower case', examples: ['a'] }],
  },
  variables: [],
  packaging: [{ path: 'model/{kit}.glb', holds: 'model' }],
  rules: [{ id: 'one-root', check: 'hierarchy.single-root', grade: 'stop', why: 'One root.' }],
};

test('learning by the crane: a line tells the next task where it is done, goes on by itself, and can be left and taken up', async ({
  page,
}) => {
  await openShape(page);
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Learn by mending the crane' }).click();
  const line = page.getByRole('status', { name: 'Learn by mending the crane' });
  await expect(line).toContainText('Task 1 of 7');
  await page.getByRole('radio', { name: 'centimetres' }).click();
  await expect(line).toContainText('Task 2 of 7');
  await checked(page);
  await page.getByRole('button', { name: /^Mend all safe/ }).click();
  await expect(line).toContainText('Task 3 of 7');
  await line.getByRole('button', { name: 'Leave it for now' }).click();
  await expect(line).toHaveCount(0);
  await page.goto(base());
  await page.getByRole('link', { name: 'Open Sluice crane, finished', exact: true }).click();
  await checked(page);
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Go on mending the crane' }).click();
  await expect(line).toContainText('Task 3 of 7');
  // The one after it is in another stage: it says where.
  for (const title of ['Normals missing', 'Texture of an odd size']) {
    await find(page, '[data-finding]').filter({ hasText: title }).press('Enter');
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Compute|Resize/ })
      .click();
  }
  await expect(line).toContainText('Task 4 of 7');
  await line.getByRole('link', { name: 'Go to Shape' }).click();
  await page.waitForURL('**/shape');
});

test('a new kit is asked once which platform it is for, the likeliest first; without one the Ledger shows what is wrong anywhere', async ({
  page,
}) => {
  const box = (x: number) => [0, 1].flatMap((y) => [0, 1].flatMap((z) => [`v ${x} ${y} ${z}`, `v ${x + 1} ${y} ${z}`])).join('\n');
  const faces = (n: number) =>
    ['1 2 4 3', '5 7 8 6', '1 5 6 2', '3 4 8 7', '1 3 7 5', '2 6 8 4']
      .map(
        (f) =>
          `f ${f
            .split(' ')
            .map((i) => Number(i) + n)
            .join(' ')}`,
      )
      .join('\n');
  const obj = `o one\n${box(0)}\n${faces(0)}\no two\n${box(2)}\n${faces(8)}\n`;
  const drop = async () => {
    await page.goto(base());
    await page.getByLabel('Files for new kits').setInputFiles([{ name: 'blocks.obj', mimeType: 'text/plain', buffer: Buffer.from(obj) }]);
    await page.waitForURL('**/intake');
  };
  const asked = page.getByRole('dialog', { name: /^Which platform/ });
  const first = asked.getByRole('button').first();
  await drop();
  await expect(first).toContainText('Cubbin');
  await expect(first).toContainText('Every part of it is a box');
  await asked.getByRole('button', { name: 'Decide later' }).click();
  await checked(page);
  await expect(page.getByText('Here is what is wrong wherever it goes.')).toBeVisible();
  // What Brinework alone would ask for is not owed.
  await expect(find(page, '[data-finding]').filter({ hasText: /root/ })).toHaveCount(0);
  await page.reload();
  await checked(page);
  await expect(asked).toHaveCount(0);
  await drop();
  await asked.getByRole('button', { name: /^Lantern Lot/ }).click();
  await expect(page.getByRole('button', { name: /^for Lantern Lot/ })).toBeVisible();
  await drop();
  await expect(asked.getByRole('button', { name: /^Lantern Lot/ })).toContainText('as last time');
});
