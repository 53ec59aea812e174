import { expect, type Page } from '@playwright/test';
import type { Kit } from '@itchkit/core/document';

/** Something on the page, found again each time it is looked at. */
export type Found = ReturnType<Page['getByText']>;

/** What a CSS selector finds. */
export function find(page: Page, css: string): Found {
  return page.locator(css);
}

export const base = () => process.env.BASE_URL!;

export async function goToStage(page: Page, stage: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Stages' })
    .getByRole('link', { name: new RegExp(`^${stage}`) })
    .click();
  await page.waitForURL(`**/${stage.toLowerCase()}`);
}

/** Waits until the checks have run on the kit as it stands. */
export async function checked(page: Page): Promise<void> {
  await expect(page.getByRole('complementary', { name: 'Ledger' })).toHaveAttribute('data-checked', 'true');
}

export async function saved(page: Page): Promise<void> {
  await expect(find(page, '[data-save]')).toHaveAttribute('data-save', 'saved');
}

export function finding(page: Page, title: string): Found {
  return find(page, '[data-finding]').filter({ hasText: title });
}

/** Types into a number field and takes it. */
export async function setNumber(page: Page, label: string, value: number): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(String(value));
  await field.press('Enter');
}

export function treeRow(page: Page, name: string): Found {
  return find(page, `[data-part="${name}"]`);
}

/** Chooses a part in the tree, scrolled into view. @param too Beside those that are chosen */
export async function choosePart(page: Page, name: string, too = false): Promise<void> {
  const row = treeRow(page, name);
  const tree = page.getByRole('region', { name: 'Parts' });
  if ((await row.count()) === 0) {
    await tree.hover();
    await page.mouse.wheel(0, -10_000);
    await page.waitForTimeout(60);
  }
  for (let i = 0; i < 30 && (await row.count()) === 0; i++) {
    await tree.hover();
    await page.mouse.wheel(0, 120);
    await page.waitForTimeout(60);
  }
  await row.scrollIntoViewIfNeeded();
  await row.click(too ? { modifiers: ['ControlOrMeta'] } : {});
  await expect(page.getByRole('treeitem', { selected: true }).filter({ has: row })).toBeVisible();
}

async function demoKit(page: Page, name: string): Promise<string> {
  const kits = (await (await page.request.get(`${base()}/api/kits`)).json()) as { id: string; name: string }[];
  return kits.find((kit) => kit.name === name)!.id;
}

/** A demo kit itself, at Intake. */
export async function openDemo(page: Page, name: string): Promise<void> {
  await page.goto(`${base()}/kits/${await demoKit(page, name)}/intake`);
  await checked(page);
}

/** A copy of a demo kit for the test to change, at Intake; gives its id. */
export async function openCopy(page: Page, name: string): Promise<string> {
  const response = await page.request.post(`${base()}/api/kits/${await demoKit(page, name)}/duplicate`);
  const { id } = (await response.json()) as { id: string };
  await page.goto(`${base()}/kits/${id}/intake`);
  await checked(page);
  return id;
}

/** Drops a file on the page, as from the desktop. */
export async function dropFile(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  const data = await page.evaluateHandle(
    ([fileName, numbers]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(atob(numbers), (c) => c.charCodeAt(0))], fileName));
      return transfer;
    },
    [name, Buffer.from(bytes).toString('base64')] as const,
  );
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent('main', type, { dataTransfer: data });
}

/** Shows tools that have no room in the first row. */
export async function moreTools(page: Page): Promise<void> {
  const more = page.getByRole('button', { name: 'More tools' });
  if ((await more.count()) > 0 && (await more.getAttribute('aria-expanded')) === 'false') await more.click();
}

/** Waits for a kit that was taken in, and says which platform it is for; null decides later. */
export async function takenIn(page: Page, platform: string | null = 'Brinework'): Promise<void> {
  await page.waitForURL('**/intake');
  const asked = page.getByRole('dialog', { name: /^Which platform/ });
  await asked.getByRole('button', { name: platform === null ? 'Decide later' : new RegExp(`^${platform}`) }).click();
  await expect(asked).toHaveCount(0);
}

/** Where a point of the world, in metres, stands on the screen. */
export async function onBench(page: Page, [x, y, z]: readonly [number, number, number]): Promise<{ x: number; y: number }> {
  const bench = page.getByRole('img', { name: /^Bench/ });
  const m = (await bench.getAttribute('data-view'))!.split(' ').map(Number);
  const row = (r: number) => m[r] * x + m[4 + r] * y + m[8 + r] * z + m[12 + r];
  const box = (await bench.boundingBox())!;
  return { x: box.x + ((row(0) / row(3) + 1) / 2) * box.width, y: box.y + ((1 - row(1) / row(3)) / 2) * box.height };
}

/** Clicks on a point of the world. */
export async function clickBench(page: Page, point: readonly [number, number, number]): Promise<void> {
  const { x, y } = await onBench(page, point);
  await page.mouse.click(x, y);
}

export const card = (page: Page): Found => page.getByRole('region', { name: 'Card' });

/** Opens a fold of the Card, if it is closed. */
export async function unfold(page: Page, title: string): Promise<void> {
  const fold = card(page)
    .getByRole('button', { name: new RegExp(`^${title}`) })
    .and(page.locator('[aria-expanded]'))
    .first();
  // What was chosen a moment ago may not be on the Card yet.
  if ((await fold.getAttribute('aria-expanded')) === 'false') await fold.click();
}

/** Chooses from a list by its label. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click();
}

/** Gives the wiring of parts, and of what they carry, to the other side. @param index As the list has it */
export async function giveToOtherSide(page: Page, parts: readonly string[], index: string): Promise<void> {
  for (const [i, part] of parts.entries()) await choosePart(page, part, i > 0);
  await unfold(page, 'Chain');
  // The Card is that of these parts by then: it names who gets it.
  await expect(card(page).getByText(/^In the mirror on the other side/)).toContainText(parts[parts.length - 1].replace('left', 'right'));
  await choose(page, 'Index there', index);
  await card(page).getByRole('button', { name: 'Give it to the other side' }).click();
  await saved(page);
}

/** The kit as the server has it. */
export async function kitOf(page: Page): Promise<Kit> {
  await saved(page);
  const id = /kits\/([^/]+)/.exec(page.url())![1];
  const { document } = (await (await page.request.get(`${base()}/api/kits/${id}`)).json()) as { document: Kit };
  return document;
}
