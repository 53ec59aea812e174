import { expect, test, type Page } from '@playwright/test';
import { buildNextSluiceCraneGlb } from '@itchkit/demo';
import { useApplication } from '../application';
import { look as lookAt, PICTURES } from '../look';
import { base, checked, choosePart, find, goToStage, openDemo, saved, setNumber } from '../steps';

useApplication({ seed: true });

/** Of the night watch one picture is kept; the others are looked at all the same. */
const look = (page: Page, name: string | null) => lookAt(page, name?.endsWith('-night') && name !== 'shape-night' ? null : name);

/** The comparison with a new version, and the history after it; everything as before at the end. */
async function lookAtIntake(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'New version' }).click();
  await find(page, '[role=dialog] input[type=file]').setInputFiles({
    name: 'sluice-crane-2.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(
      await buildNextSluiceCraneGlb({ detail: 40, rename: { Boom: 'Jib' }, remove: ['Pump Wheel'], repivot: { 'Gate Leaf': [0, -60, 0] } }),
    ),
  });
  await expect(page.getByRole('button', { name: 'Take it in' })).toBeVisible();
  await look(page, 'new-version');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await saved(page);
  await page.keyboard.press('Shift+H');
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await page.getByRole('button', { name: 'Compare' }).first().click();
  await expect(page.getByRole('table', { name: 'Figures' })).toBeVisible();
  await look(page, 'history');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
}

async function lookAtRulebooks(page: Page, name: (view: string) => string): Promise<void> {
  await page.goto(`${base()}/rulebooks`);
  await expect(find(page, '[data-rulebook]').first()).toBeVisible();
  await look(page, name('rulebooks'));
  await find(page, '[data-rulebook="plotwick"]').getByRole('link', { name: 'Read' }).click();
  await page.getByRole('textbox', { name: 'Try a name for seat' }).fill('Seat 1');
  await look(page, name('booklet'));
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.waitForURL('**/edit');
  await find(page, '[data-path="naming.patterns.1.pattern"]').fill('^seat-([0-9]+)+$');
  await expect(page.getByText(/exponential time/).first()).toBeVisible();
  await find(page, '[data-path="naming.root"]').scrollIntoViewIfNeeded();
  await look(page, name('editor'));
}

for (const scheme of ['light', 'dark'] as const) {
  test(`no view has a serious fault of access (${scheme})`, async ({ browser }) => {
    test.setTimeout(180_000);
    const page = await (
      await browser.newContext({ colorScheme: scheme, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })
    ).newPage();
    const name = (view: string) => (scheme === 'dark' ? `${view}-night` : view);
    await page.goto(base());
    await expect(find(page, '[data-kit] img').first()).toBeVisible();
    if (PICTURES) await expect(find(page, '[data-kit] img')).toHaveCount(await find(page, '[data-kit]').count(), { timeout: 60_000 });
    await look(page, name('shelf'));
    await openDemo(page, 'Sluice crane');
    await look(page, name('intake'));
    await find(page, '[data-finding]').first().click();
    await goToStage(page, 'Shape');
    await choosePart(page, 'drv_turntable');
    await look(page, name('shape'));

    await openDemo(page, 'Sluice crane, finished');
    if (scheme === 'light') await lookAtIntake(page);
    await goToStage(page, 'Motion');
    await find(page, '[data-bead*="drv_turntable"]').nth(1).click();
    await look(page, null);
    await goToStage(page, 'Wiring');
    await setNumber(page, 'Value of crane_slew_angle[0]', 60);
    await page.getByRole('button', { name: /^crane_luff_angle/ }).click();
    await look(page, name('wiring'));
    await goToStage(page, 'Trial');
    await expect(find(page, '[data-trial=running]')).toBeVisible();
    await setNumber(page, 'Value of crane_slew_angle[0]', 35);
    await setNumber(page, 'Value of gate_lift[0]', 2);
    await look(page, name('trial'));
    await goToStage(page, 'Ship');
    for (const title of ['Plotwick', 'Brinework']) {
      await page.getByRole('button', { name: /^for / }).click();
      await page.getByRole('menuitem', { name: new RegExp(`^${title} \\d`) }).click();
      await checked(page);
    }
    await page.getByRole('button', { name: 'Build package' }).click();
    await expect(page.getByTestId('package-sha').first()).toBeVisible();
    await checked(page);
    await look(page, name('ship'));
    await page.keyboard.press('?');
    await look(page, null);
    await page.close();
  });

  test(`nor has a page of the rulebooks (${scheme})`, async ({ browser }) => {
    test.setTimeout(240_000);
    const page = await (
      await browser.newContext({ colorScheme: scheme, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })
    ).newPage();
    await lookAtRulebooks(page, (view) => (scheme === 'dark' ? `${view}-night` : view));
    await page.close();
  });
}
