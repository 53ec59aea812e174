import { expect, test, type Page } from '@playwright/test';
import { buildNextSluiceCraneGlb } from '@itchkit/demo';
import { useApplication } from '../application';
import { COLOUR_RULES, look, PICTURES } from '../look';
import { base, checked, choosePart, find, goToStage, openDemo, saved, setNumber } from '../steps';

useApplication({ seed: true });

type Look = (view: string | null) => Promise<void>;

/** Colours fade into one another where the scheme changes, milliseconds. */
const FADE = 400;

/**
 * A view by day, then by night, as it is where somebody switches. Of the night watch one picture is kept; the others are looked at all the
 * same, for what colours can break.
 */
async function byDayAndNight(page: Page, view: string | null): Promise<void> {
  await look(page, view);
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.waitForTimeout(FADE);
  await look(page, view === 'shape' ? 'shape-night' : null, COLOUR_RULES);
  await page.emulateMedia({ colorScheme: 'light' });
  await page.waitForTimeout(FADE);
}

/** The comparison with a new version, and the history after it; everything as before at the end. */
async function lookAtIntake(page: Page, lookAt: Look): Promise<void> {
  await page.getByRole('button', { name: 'New version' }).click();
  await find(page, '[role=dialog] input[type=file]').setInputFiles({
    name: 'sluice-crane-2.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(
      await buildNextSluiceCraneGlb({ detail: 36, rename: { Boom: 'Jib' }, remove: ['Pump Wheel'], repivot: { 'Gate Leaf': [0, -60, 0] } }),
    ),
  });
  await expect(page.getByRole('button', { name: 'Take it in' })).toBeVisible();
  await lookAt(null);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await saved(page);
  await page.keyboard.press('Shift+H');
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await page.getByRole('button', { name: 'Compare' }).first().click();
  await expect(page.getByRole('table', { name: 'Figures' })).toBeVisible();
  await lookAt('history');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
}

async function lookAtRulebooks(page: Page, lookAt: Look): Promise<void> {
  await page.goto(`${base()}/rulebooks`);
  await expect(find(page, '[data-rulebook]').first()).toBeVisible();
  await lookAt('rulebooks');
  await find(page, '[data-rulebook="plotwick"]').getByRole('link', { name: 'Read' }).click();
  await page.getByRole('textbox', { name: 'Try a name for seat' }).fill('Seat 1');
  await lookAt(null);
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.waitForURL('**/edit');
  await find(page, '[data-path="naming.patterns.1.pattern"]').fill('^seat-([0-9]+)+$');
  await expect(page.getByText(/exponential time/).first()).toBeVisible();
  await find(page, '[data-path="naming.root"]').scrollIntoViewIfNeeded();
  await lookAt(null);
}

test('no view has a serious fault of access, by day or night: shelf, a raw kit, a new version of one', async ({ page }) => {
  const lookAt: Look = (view) => byDayAndNight(page, view);
  await page.goto(base());
  await expect(find(page, '[data-kit] img').first()).toBeVisible();
  if (PICTURES) await expect(find(page, '[data-kit] img')).toHaveCount(await find(page, '[data-kit]').count(), { timeout: 120_000 });
  await lookAt('shelf');
  await openDemo(page, 'Sluice crane');
  await lookAt('intake');
  await find(page, '[data-finding]').first().click();
  await goToStage(page, 'Shape');
  await choosePart(page, 'drv_turntable');
  await lookAt('shape');
  await openDemo(page, 'Sluice crane, finished');
  await lookAtIntake(page, (view) => look(page, view));
});

test('nor has a finished kit from Motion to Ship', async ({ page }) => {
  const lookAt: Look = (view) => byDayAndNight(page, view);
  await openDemo(page, 'Sluice crane, finished');
  await goToStage(page, 'Motion');
  await find(page, '[data-bead*="drv_turntable"]').nth(1).click();
  await lookAt(null);
  await goToStage(page, 'Wiring');
  await setNumber(page, 'Value of crane_slew_angle[0]', 60);
  await page.getByRole('button', { name: /^crane_luff_angle/ }).click();
  await lookAt('wiring');
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  await setNumber(page, 'Value of crane_slew_angle[0]', 35);
  await setNumber(page, 'Value of gate_lift[0]', 2);
  await lookAt('trial');
  await goToStage(page, 'Ship');
  for (const title of ['Plotwick', 'Brinework']) {
    await page.getByRole('button', { name: /^for / }).click();
    await page.getByRole('menuitem', { name: new RegExp(`^${title} \\d`) }).click();
    await checked(page);
  }
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByTestId('package-sha').first()).toBeVisible();
  await checked(page);
  await lookAt('ship');
  await page.keyboard.press('?');
  await lookAt(null);
});

test('nor has a page of the rulebooks', async ({ page }) => {
  await lookAtRulebooks(page, (view) => byDayAndNight(page, view));
});
