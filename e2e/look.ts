import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { join } from 'node:path';

/** With ITCHKIT_PICTURES=yes the pictures in docs/screenshots are drawn anew. */
export const PICTURES = process.env.ITCHKIT_PICTURES === 'yes';

/** Looks at a view: a picture of it where one is kept under that name, and no serious fault of access. */
export async function look(page: Page, name: string | null): Promise<void> {
  await page.waitForTimeout(PICTURES ? 1500 : 200);
  if (PICTURES && name !== null) await page.screenshot({ path: join(import.meta.dirname, '../docs/screenshots', `${name}.png`) });
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter((one) => one.impact === 'serious' || one.impact === 'critical');
  expect.soft(serious.map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)).toEqual([]);
}
