import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import { checked, choosePart, goToStage, openDemo } from '../steps';

useApplication({ seed: true });

/** Buttons that lead out of the page, or hand a file over to the browser. */
const LEADS_AWAY = /download|take the kit|json schema|build package|csv|from a file|take off the shelf|make a copy/i;

const focused = (page: Page) =>
  page.evaluate(() => (document.activeElement === document.body ? 'body' : (document.activeElement?.tagName ?? 'nothing')));

/** Where the keyboard is once everything has come to rest: the body is looked at twice. */
async function restsOn(page: Page): Promise<string> {
  for (let i = 0; i < 8; i++) {
    await page.waitForTimeout(i < 4 ? 40 : 150);
    const on = await focused(page);
    if (on !== 'body') return on;
  }
  return 'body';
}

/** Presses every button of the page once, by keyboard. Gives how many, and the names of those after which the keyboard was nowhere. */
async function pressAll(page: Page): Promise<{ pressed: number; lost: string[] }> {
  const names = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLButtonElement>('button')]
      .filter((button) => button.checkVisibility() && !button.disabled)
      .map((button) => (button.getAttribute('aria-label') ?? button.textContent ?? '').trim()),
  );
  const lost: string[] = [];
  let pressed = 0;
  for (const name of [...new Set(names)]) {
    if (name === '' || LEADS_AWAY.test(name)) continue;
    const there = await page.evaluate((wanted) => {
      const button = [...document.querySelectorAll<HTMLButtonElement>('button')].find(
        (one) => (one.getAttribute('aria-label') ?? one.textContent ?? '').trim() === wanted && one.checkVisibility() && !one.disabled,
      );
      button?.focus();
      return button !== undefined && document.activeElement === button;
    }, name);
    if (!there) continue;
    await page.keyboard.press('Enter');
    pressed++;
    if ((await restsOn(page)) === 'body') lost.push(name);
    // Whatever it opened is closed again.
    for (let i = 0; i < 2 && (await page.getByRole('dialog').or(page.getByRole('menu')).or(page.getByRole('listbox')).count()) > 0; i++) {
      await page.keyboard.press('Escape');
      await page.waitForTimeout(250);
      if ((await restsOn(page)) === 'body') lost.push(`${name}, and Esc`);
    }
  }
  return { pressed, lost };
}

for (const [stage, kit, part] of [
  ['Intake', 'Sluice crane', null],
  ['Shape', 'Sluice crane, finished', 'ladder'],
  ['Rig', 'Night-watch keeper', null],
  ['Motion', 'Foghorn cabinet', null],
  ['Wiring', 'Sluice crane, finished', null],
  ['Trial', 'Sluice crane, finished', null],
  ['Ship', 'Sluice crane, finished', null],
] as const)
  test(`after every button of ${stage} the keyboard is somewhere`, async ({ page }) => {
    await openDemo(page, kit);
    await goToStage(page, stage);
    if (part) await choosePart(page, part);
    await checked(page);
    const { pressed, lost } = await pressAll(page);
    expect(lost).toEqual([]);
    expect(pressed).toBeGreaterThan(8);
  });

/** Presses a key until the keyboard was on the way to the shelf twice; gives what it stayed on, or null where it came round. */
async function stuckOn(page: Page, key: string): Promise<string | null> {
  const mark = () =>
    page.evaluate(() => {
      const { activeElement } = document;
      const seen = window as unknown as { seen?: Element | null };
      const same = seen.seen === activeElement && activeElement !== document.body;
      seen.seen = activeElement;
      const name = activeElement?.getAttribute('aria-label') ?? activeElement?.textContent ?? '';
      return { same, name: name.slice(0, 60) };
    });
  let rounds = 0;
  for (let i = 0; i < 500 && rounds < 2; i++) {
    await page.keyboard.press(key);
    const { same, name } = await mark();
    if (same) return name;
    if (name === 'To the shelf') rounds++;
  }
  return rounds < 2 ? 'a round without the way to the shelf' : null;
}

test('Tab goes on from everything, and back', async ({ page }) => {
  await openDemo(page, 'Sluice crane, finished');
  for (const [stage, ...keys] of [
    ['Shape', 'Tab'],
    ['Wiring', 'Tab', 'Shift+Tab'],
  ]) {
    await goToStage(page, stage);
    await choosePart(page, 'drv_boom');
    for (const key of keys) expect([stage, key, await stuckOn(page, key)]).toEqual([stage, key, null]);
  }
});
