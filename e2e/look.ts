import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { join } from 'node:path';

/** With ITCHKIT_PICTURES=yes the pictures in docs/screenshots are drawn anew. */
export const PICTURES = process.env.ITCHKIT_PICTURES === 'yes';

/** The rules of axe that hang on colours: of a view that was looked at by day these alone can be broken by night. */
export const COLOUR_RULES = ['color-contrast', 'link-in-text-block'];

/**
 * Looks at a view: a picture of it where one is kept under that name, and no serious fault of access.
 *
 * @param rules Those of axe that are looked at; all where not given.
 */
export async function look(page: Page, name: string | null, rules?: string[]): Promise<void> {
  await page.waitForTimeout(PICTURES ? 1500 : 200);
  if (PICTURES && name !== null) await page.screenshot({ path: join(import.meta.dirname, '../docs/screenshots', `${name}.png`) });
  const axe = new AxeBuilder({ page });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  const serious = violations.filter((one) => one.impact === 'serious' || one.impact === 'critical');
  expect.soft(serious.map((one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)).toEqual([]);
}
