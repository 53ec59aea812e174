import { expect, test, type Page } from '@playwright/test';
import { buildSluiceCraneGlb } from '@itchkit/demo';
import { useApplication } from '../application';
import { base, checked, dropFile, find, goToStage, saved, type Found } from '../steps';

useApplication({ seed: false });

/** Counts what a person does: a file dropped, a click, a number typed. Waiting and looking count nothing. */
class Hands {
  readonly done: string[] = [];

  constructor(private readonly page: Page) {}

  async click(what: string, on: Found): Promise<void> {
    this.done.push(what);
    await on.click();
  }

  async drop(name: string, bytes: Uint8Array): Promise<void> {
    this.done.push(`drop ${name}`);
    await dropFile(this.page, name, bytes);
  }

  async toStage(stage: string): Promise<void> {
    this.done.push(`to ${stage}`);
    await goToStage(this.page, stage);
  }
}

test('the crane, from the raw file to its package, in fourteen actions at most', async ({ page }) => {
  test.setTimeout(150_000);
  const hands = new Hands(page);
  const button = (name: string | RegExp) => page.getByRole('button', { name });
  await page.goto(base());
  await expect(page.getByText('The shelf is empty')).toBeVisible();
  await hands.drop('sluice-crane.glb', await buildSluiceCraneGlb());
  await page.waitForURL('**/intake');
  await hands.click('for Brinework', page.getByRole('dialog').getByRole('button', { name: /^Brinework/ }));
  await hands.click('centimetres', page.getByRole('radio', { name: 'centimetres' }));
  await expect(page.getByText('Taken in centimetres.')).toBeVisible();
  await checked(page);
  await hands.click('mend all safe', button(/^Mend all safe/));
  await hands.click('look at the others', button(/^Look at \d+ more mends/));
  // All of them are told with what they would change; one step of undo takes them back.
  const dialog = page.getByRole('dialog', { name: 'What these mends would change' });
  await expect(dialog.getByRole('checkbox', { name: /^Normals missing/ })).toBeChecked();
  await hands.click('mend them', dialog.getByRole('button', { name: /^Mend \d+ findings/ }));
  await expect(dialog).toHaveCount(0);
  await checked(page);
  // What is left is a decision: what moves the turntable.
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveText([/Driven part with no binding/]);
  await hands.click('show the driven part', button('Show me').first());
  await page.waitForURL('**/wiring');
  await hands.click('the slew angle', button(/^crane_slew_angle/));
  await hands.click('bind it', button('Bind drv_turntable'));
  await checked(page);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);
  await saved(page);
  await hands.toStage('Ship');
  await hands.click('build', button('Build package'));
  const download = page.waitForEvent('download');
  await hands.click('download', page.getByRole('link', { name: 'Download' }));
  expect((await download).suggestedFilename()).toBe('sluice_crane-brinework.zip');
  expect(hands.done.length, hands.done.join('; ')).toBeLessThanOrEqual(14);
});
