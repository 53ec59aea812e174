import { expect, test, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { unzipSync, strFromU8 } from 'fflate';
import { useApplication } from '../application';
import { base, checked, find, finding, goToStage, openDemo, saved } from '../steps';

useApplication({ seed: true });

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' });
const stops = (page: Page) => find(page, '[data-finding][data-grade="stop"]');

async function chooseTarget(page: Page, title: string): Promise<void> {
  await page.getByRole('button', { name: /^(for |Choose a target)/ }).click();
  await page.getByRole('menuitem', { name: new RegExp(`^${title} \\d`) }).click();
  await saved(page);
  await checked(page);
}

/** Presses a key until the focus is on what is wanted. */
async function focusBy(page: Page, key: string, isThere: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if (await isThere()) return;
    await page.keyboard.press(key);
  }
  throw new Error(`${key} never led there.`);
}

test('the raw crane: from its stops to none by the keyboard alone', async ({ page }) => {
  await openDemo(page, 'Sluice crane');
  await checked(page);
  expect(await stops(page).count()).toBeGreaterThanOrEqual(9);
  const focused = (css: string) => page.evaluate((selector) => document.activeElement?.matches(selector) ?? false, css);
  // Whatever a machine can decide: Enter on each finding, and Enter again where it asks first.
  for (let round = 0; round < 40; round++) {
    const mendable = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[data-finding]')].findIndex(
        (row) => row.parentElement!.querySelector('button.MuiButton-outlined') !== null,
      ),
    );
    if (mendable < 0) break;
    await page.keyboard.press('l');
    for (let i = 0; i < mendable; i++) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.waitForTimeout(150);
    if ((await page.getByRole('dialog').count()) > 0) {
      await page.keyboard.press('Enter');
      await expect(page.getByRole('dialog')).toHaveCount(0);
    }
    await checked(page);
  }
  // What is left are driven parts that nothing moves: each is bound in Wiring, from the catalogue.
  await page.keyboard.press('4');
  await page.waitForURL('**/wiring');
  for (let round = 0; round < 12 && (await stops(page).count()) > 0; round++) {
    const before = await stops(page).count();
    await page.keyboard.press('Escape');
    await page.keyboard.press('l');
    await focusBy(page, 'ArrowDown', () => focused('[data-finding][data-grade="stop"]'));
    const owed = await page.evaluate(() => document.activeElement!.getAttribute('data-finding'));
    // Enter on a finding that only a person can settle shows its part, and chooses it.
    await page.keyboard.press('Enter');
    await page.keyboard.press('c');
    await focusBy(page, 'Tab', () =>
      page.evaluate(
        () =>
          document.activeElement?.getAttribute('aria-expanded') === 'false' &&
          document.activeElement.closest('[aria-label="Catalogue of variables"]') !== null,
      ),
    );
    await page.keyboard.press('Enter');
    await page.keyboard.press('c');
    await focusBy(page, 'Tab', () => page.evaluate(() => /^Bind /.test(document.activeElement?.textContent ?? '')));
    await page.keyboard.press('Enter');
    await checked(page);
    // A binding begins with neutral alone; its table is completed by its own mend, which asks how.
    for (let i = 0; i < 6; i++) {
      const table = await page.evaluate(() =>
        [...document.querySelectorAll('[data-finding]')].findIndex((row) => row.getAttribute('data-finding')!.startsWith('full-table')),
      );
      if (table < 0) break;
      await page.keyboard.press('Escape');
      await page.keyboard.press('l');
      for (let k = 0; k < table; k++) await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('dialog')).toBeVisible();
      await page.keyboard.press('Enter');
      await expect(page.getByRole('dialog')).toHaveCount(0);
      await checked(page);
    }
    // A table is posed where the rulebook measures what the variable does; one that poses nothing is owed still: one of its rows is posed.
    if ((await find(page, `[data-finding="${owed}"]`).count()) === 0) continue;
    await page.keyboard.press('Escape');
    if ((await page.getByRole('table', { name: /^Table of / }).count()) === 0) {
      await page.keyboard.press('c');
      await focusBy(page, 'Tab', () => page.evaluate(() => document.activeElement?.textContent === 'Stations'));
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('Enter');
    }
    await page.keyboard.press('c');
    await focusBy(page, 'Tab', () =>
      page.evaluate(() => {
        const { activeElement } = document;
        const isBelow = activeElement?.closest('tr')?.previousElementSibling?.hasAttribute('data-row') ?? false;
        return isBelow && /^turn y at /.test(activeElement?.getAttribute('aria-label') ?? '');
      }),
    );
    await page.keyboard.type('10');
    await page.keyboard.press('Enter');
    await checked(page);
    await expect(find(page, `[data-finding="${owed}"]`)).toHaveCount(0);
    expect(await stops(page).count()).toBeLessThan(before);
  }
  await expect(stops(page)).toHaveCount(0);
});

test('a rulebook of one’s own: copied, tightened, exported, deleted, imported; the findings are the same', async ({ page }) => {
  await page.goto(`${base()}/rulebooks`);
  await find(page, '[data-rulebook="brinework"]').getByRole('button', { name: 'Copy' }).click();
  await page.waitForURL('**/rulebooks/brinework-own/edit');
  const limit = find(page, '[data-rule="triangles"]').getByRole('textbox', { name: 'Limit' });
  await limit.fill('-1');
  await expect(page.getByRole('button', { name: /^Save 0/ })).toBeDisabled();
  await expect(find(page, '[data-rule="triangles"]').getByText(/must be greater than or equal to 0/)).toBeVisible();
  await limit.fill('5000');
  await page.getByRole('button', { name: 'Save 0.1.0' }).click();
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();

  // Patterns with which others would take for ever are refused at their field.
  await find(page, '[data-path="naming.patterns.0.pattern"]').fill('^(a+)+$');
  await expect(page.getByText(/exponential time/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /^Save 0/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Undo' }).click();

  await openDemo(page, 'Sluice crane, finished');
  await chooseTarget(page, 'Brinework, own copy');
  const tooMany = finding(page, 'Too many triangles');
  await expect(tooMany).toContainText('5,000');
  const list = () =>
    find(page, '[data-finding]').evaluateAll((rows) => rows.map((row) => `${row.getAttribute('data-finding')} ${row.textContent}`));
  const before = await list();
  await tooMany.click();
  await expect(ledger(page).getByRole('img', { name: /% of the limit/ })).toBeVisible();

  await page.goto(`${base()}/rulebooks`);
  const card = find(page, '[data-rulebook="brinework-own"]');
  const [download] = await Promise.all([page.waitForEvent('download'), card.getByRole('button', { name: 'Export' }).click()]);
  const bytes = await readFile(await download.path());
  await card.getByRole('button', { name: 'Delete' }).click();
  await expect(card).toHaveCount(0);
  await openDemo(page, 'Sluice crane, finished');
  await expect(find(page, '[data-next]')).toContainText('“brinework-own” 0.1.0 is not here');
  await page.goto(`${base()}/rulebooks`);
  await page.getByLabel('Rulebook files').setInputFiles({ name: 'mine.json', mimeType: 'application/json', buffer: bytes });
  await expect(card).toBeVisible();
  await page
    .getByLabel('Rulebook files')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{"format": 3}') });
  await expect(page.getByRole('alert').filter({ hasText: "This rulebook can't be used" })).toBeVisible();
  await openDemo(page, 'Sluice crane, finished');
  await checked(page);
  expect(await list()).toEqual(before);

  // A newer version: what changes and which findings appear or go is shown before the kit is moved to it.
  await page.goto(`${base()}/rulebooks/brinework-own/edit`);
  await find(page, '[data-rule="triangles"]').getByRole('textbox', { name: 'Limit' }).fill('20000');
  await page.getByRole('button', { name: 'Save as a newer version' }).click();
  await expect(page.getByText('0.1.1 is saved.')).toBeVisible();
  await openDemo(page, 'Sluice crane, finished');
  await checked(page);
  await expect(tooMany).toHaveCount(1);
  await page.getByRole('button', { name: /^for / }).click();
  await page.getByRole('menuitem', { name: /^Version 0.1.1 is there/ }).click();
  await expect(page.getByRole('dialog')).toContainText('5000 → 20000');
  await expect(page.getByRole('dialog')).toContainText('Findings that go (1)');
  await page.getByRole('button', { name: 'Move to 0.1.1' }).click();
  await saved(page);
  await checked(page);
  await expect(tooMany).toHaveCount(0);
});

test('a warning is set aside with a reason, which stands in the package’s report', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  await chooseTarget(page, 'Brinework');
  await goToStage(page, 'Shape');
  await find(page, '[data-part]').nth(3).click();
  await page.getByRole('toolbar').click({ position: { x: 600, y: 10 } });
  await page.keyboard.press('h');
  const hidden = finding(page, 'Hidden parts go in too');
  await hidden.click();
  await page.getByRole('button', { name: 'Set it aside …' }).click();
  await page.getByRole('textbox', { name: 'Why it may stay' }).fill('It is shown by the yard itself.');
  await page.getByRole('button', { name: 'Set aside', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Set aside' }).getByText('Hidden parts go in too')).toBeVisible();
  await saved(page);
  await goToStage(page, 'Ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download' }).first().click()]);
  const files = unzipSync(new Uint8Array(await readFile(await download.path())));
  const { report } = JSON.parse(strFromU8(files['manifest.json'])) as { report: { check: string; aside?: string }[] };
  expect(report).toContainEqual(expect.objectContaining({ check: 'hidden', aside: 'It is shown by the yard itself.' }));
});

test('several targets: a matrix in Ship and on the shelf, and the Ledger of the one in view', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  await chooseTarget(page, 'Clashmere');
  await expect(stops(page).first()).toBeVisible();
  await page.getByRole('button', { name: 'Only stops' }).click();
  expect(await find(page, '[data-finding]').count()).toBe(await stops(page).count());
  await goToStage(page, 'Ship');
  const matrix = page.getByRole('table', { name: 'Owed by target and stage' });
  await expect(matrix.getByRole('row')).not.toHaveCount(0);
  expect(await matrix.getByRole('row').count()).toBeGreaterThanOrEqual(3);
  await find(page, '[data-target="brinework"]').click();
  await expect(page.getByRole('button', { name: /^for Brinework/ })).toBeVisible();
  await saved(page);
  await checked(page);
  await page.waitForTimeout(800);
  await page.goto(base());
  await expect(find(page, '[data-kit="Sluice crane, finished"]').getByRole('table')).toBeVisible();
});

test('a booklet: a name tried, a variable found, the rules read', async ({ page }) => {
  await page.goto(`${base()}/rulebooks/brinework`);
  const field = page.getByRole('textbox', { name: 'Try a name for driven' });
  await field.fill('drv_slew');
  await expect(page.getByText('fits', { exact: true })).toBeVisible();
  await field.fill('Slew Ring');
  await expect(page.getByText('perhaps drv_slew_ring')).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search the variables' }).fill('luff');
  await expect(page.getByRole('region', { name: /^Variables/ }).getByText('crane_luff_angle')).toBeVisible();
  await expect(page.getByRole('region', { name: /^Variables/ }).getByText('crane_slew_angle')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Package' }).getByText('manifest.json')).toBeVisible();
  await expect(page.getByRole('region', { name: /^Rules/ }).getByText('A machine over its budget is not drawn')).toBeVisible();
});
