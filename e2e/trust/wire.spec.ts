import { expect, test, type Page } from '@playwright/test';
import { checked, choosePart, find, goToStage, saved, setNumber } from '../steps';
import { useApplication } from '../application';
import { SEED, seeded, startFaultProxy, type Fault, type FaultProxy } from './fault-proxy';

useApplication({ seed: true });
let proxy: FaultProxy;
test.beforeAll(async () => {
  proxy = await startFaultProxy(process.env.BASE_URL!);
});
test.afterAll(() => proxy.close());
test.beforeEach(() => {
  proxy.fault = () => null;
});

async function open(page: Page, name: string): Promise<string> {
  await page.goto(proxy.url);
  await page
    .getByRole('link', { name: `Open ${name}`, exact: true })
    .first()
    .click();
  await checked(page);
  await goToStage(page, 'Shape');
  return /kits\/([^/]+)/.exec(page.url())![1];
}

const documentOf = async (kit: string) =>
  (await (await fetch(`${process.env.BASE_URL}/api/kits/${kit}`)).json()) as {
    revision: number;
    document: { parts: Record<string, { name: string; translation: number[]; hidden: boolean }> };
  };
const partOf = async (kit: string, name: string) =>
  Object.values((await documentOf(kit)).document.parts).filter((part) => part.name === name);

test('over a wire that loses, cuts, doubles and delays, what is done in the page is done once, and “saving …” ends', async ({ page }) => {
  const kit = await open(page, 'Sluice crane, finished');
  const random = seeded(SEED);
  const faults: Fault[] = ['lose', 'drop', 'cut', 'repeat', 'delay'];
  let n = 0;
  proxy.fault = (method) => (method === 'PATCH' && random() < 0.7 ? faults[n++ % faults.length] : null);
  await choosePart(page, 'ladder');
  for (let i = 1; i <= 6; i++) await setNumber(page, 'Position x', i / 10);
  // Done twice it would be undone.
  await page.getByRole('button', { name: 'Hide', exact: true }).click();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+Shift+z');
  await expect(find(page, '[data-save]')).toHaveText('saved', { timeout: 60_000 });
  proxy.fault = () => null;
  const [ladder] = await partOf(kit, 'ladder');
  expect([ladder.translation[0], ladder.hidden]).toEqual([0.6, true]);
  await page.reload();
  await checked(page);
  await choosePart(page, 'ladder');
  await expect(page.getByRole('textbox', { name: 'Position x', exact: true })).toHaveValue('0.6');
  expect(proxy.counts.lose + proxy.counts.drop + proxy.counts.cut).toBeGreaterThan(0);
});

test('a server that takes a change and never answers: the page says so, tries again, and is not done twice', async ({ page }) => {
  const kit = await open(page, 'Sluice crane, finished');
  const { revision } = await documentOf(kit);
  proxy.fault = (method) => (method === 'PATCH' ? 'lose' : null);
  await choosePart(page, 'ladder');
  await setNumber(page, 'Position y', 0.25);
  await expect(find(page, '[data-save]')).toHaveText('not saved yet');
  expect((await documentOf(kit)).revision).toBe(revision + 1);
  await page.getByRole('button', { name: 'Not saved yet: try now' }).hover();
  await expect(page.getByRole('tooltip')).toContainText(/The next try is in \d+ s/);
  proxy.fault = () => null;
  await page.getByRole('button', { name: 'Not saved yet: try now' }).dispatchEvent('click');
  await saved(page);
  expect((await documentOf(kit)).revision).toBe(revision + 1);
});

test('two windows: a change comes in within a second, fields merge, the same field is asked with both values, and each sees the other', async ({
  browser,
}) => {
  const [first, second] = await Promise.all([browser.newContext(), browser.newContext()].map(async (context) => (await context).newPage()));
  const kit = await open(first, 'Hill tram halt');
  await open(second, 'Hill tram halt');
  const name = await first.getByRole('treeitem').nth(1).innerText();
  for (const page of [first, second]) await page.getByRole('treeitem').nth(1).click();
  await expect(first.getByRole('button', { name: /^Also here: / })).toBeVisible();
  const began = Date.now();
  await setNumber(first, 'Position x', 1.5);
  await expect(second.getByRole('textbox', { name: 'Position x', exact: true })).toHaveValue('1.5');
  // A second, and what a busy machine takes.
  expect(Date.now() - began).toBeLessThan(5000);

  // Both at once: the second one's saves are held up.
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await second.route('**/api/kits/*', async (route) => {
    if (route.request().method() === 'PATCH') await held;
    await route.continue();
  });
  await setNumber(second, 'Position x', 2.5);
  await setNumber(second, 'Position z', 0.5);
  await setNumber(first, 'Position x', 3.5);
  await setNumber(first, 'Position y', 0.75);
  await saved(first);
  release();
  const dialog = second.getByRole('dialog', { name: 'Changed in two windows' });
  await expect(dialog).toContainText('position x');
  await expect(dialog.getByRole('button', { name: 'here: 2.5' })).toBeVisible();
  await dialog.getByRole('button', { name: 'other window: 3.5' }).click();
  await dialog.getByRole('button', { name: 'Go on with these' }).click();
  await saved(second);
  await expect(first.getByRole('textbox', { name: 'Position z', exact: true })).toHaveValue('0.5');
  const [part] = await partOf(kit, name.split('\n')[0]);
  expect(part.translation).toEqual([3.5, 0.75, 0.5]);
  await Promise.all([first, second].map((page) => page.context().close()));
});

test('a copy and a file whose answers are lost are there once', async ({ page }) => {
  await page.goto(proxy.url);
  const cards = page.getByRole('link', { name: /^Open / });
  await expect(cards.first()).toBeVisible();
  const before = await cards.count();
  let lost = 0;
  proxy.fault = (method) => (method === 'POST' && lost++ < 1 ? 'lose' : null);
  await page.getByRole('button', { name: 'What to do with Hill tram halt', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Make a copy' }).click();
  await expect(cards).toHaveCount(before + 1, { timeout: 20_000 });
  lost = 0;
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'post.obj',
      mimeType: 'text/plain',
      buffer: Buffer.from('o post\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'),
    });
  await expect(page).toHaveURL(/kits/, { timeout: 30_000 });
  await page.goto(proxy.url);
  await expect(cards).toHaveCount(before + 2);
  expect(lost).toBeGreaterThan(1);
});

test('what a closed page could not save is offered on the shelf, and saved from there', async ({ page }) => {
  const kit = await open(page, 'Sluice crane, finished');
  await choosePart(page, 'ladder');
  proxy.fault = (method) => (method === 'PATCH' ? 'drop' : null);
  await setNumber(page, 'Position z', 0.125);
  await expect(find(page, '[data-save]')).toHaveText('not saved yet');
  page.on('dialog', (dialog) => void dialog.accept());
  await page.goto(proxy.url);
  proxy.fault = () => null;
  await page.reload();
  const notice = page.getByRole('alert').filter({ hasText: 'Sluice crane, finished' });
  await expect(notice).toContainText('changes that were not saved');
  await notice.getByRole('button', { name: 'Save now' }).click();
  await expect(notice).toHaveCount(0);
  expect((await partOf(kit, 'ladder'))[0].translation[2]).toBe(0.125);
});

test('pages run no script but the server’s own, sit in no frame, and answer to no foreign name', async ({ page, request }) => {
  const broken: string[] = [];
  page.on('console', (message) => /Content Security Policy/.test(message.text()) && broken.push(message.text()));
  await open(page, 'Sluice crane, finished');
  for (const stage of ['Motion', 'Wiring', 'Trial', 'Ship']) await goToStage(page, stage);
  expect(broken).toEqual([]);
  expect(await page.evaluate(() => (window as unknown as { spoilt?: boolean }).spoilt)).toBeUndefined();
  await page.evaluate(() => {
    const holder = document.createElement('div');
    holder.innerHTML = '<img src=x onerror="window.spoilt = true">';
    document.body.append(holder);
  });
  await page.waitForTimeout(300);
  expect(await page.evaluate(() => (window as unknown as { spoilt?: boolean }).spoilt)).toBeUndefined();
  const answer = await request.get(process.env.BASE_URL!);
  expect(answer.headers()).toMatchObject({
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'content-security-policy': expect.stringMatching(
      /script-src 'self' 'nonce-[^']+' 'strict-dynamic' 'wasm-unsafe-eval'.*frame-ancestors 'none'/,
    ),
  });
  expect(answer.headers()['content-security-policy']).not.toContain("'unsafe-eval'");
  for (const path of ['/', '/rulebooks', '/api/kits', '/api/health'])
    expect((await request.get(process.env.BASE_URL! + path, { headers: { host: 'elsewhere.invalid' } })).status(), path).toBe(403);
});

test('a kit is exported from the shelf and from Ship, dropped on the shelf, and is there again', async ({ page }) => {
  await page.goto(process.env.BASE_URL!);
  const card = page.locator('[data-kit="Hill tram halt"]').first();
  await card.getByRole('button', { name: /What to do with/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Export kit' }).click();
  const path = await (await download).path();
  const before = await page.locator('[data-kit="Hill tram halt"]').count();
  await page
    .getByLabel('Files for new kits')
    .setInputFiles({ name: 'halt.kit.zip', mimeType: 'application/zip', buffer: (await import('node:fs')).readFileSync(path) });
  await page.waitForURL(/\/kits\/.+\/intake/);
  await checked(page);
  await goToStage(page, 'Ship');
  const again = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export kit' }).click();
  expect((await again).suggestedFilename()).toBe('hill_tram_halt.kit.zip');
  await page.goto(process.env.BASE_URL!);
  await expect(page.locator('[data-kit="Hill tram halt"]')).toHaveCount(before + 1);
});

test('what is kept is seen and changed on the shelf; a kit taken off is put back', async ({ page }) => {
  await page.goto(process.env.BASE_URL!);
  const name = await page.locator('[data-kit]').last().getAttribute('data-kit');
  const kit = page.locator(`[data-kit="${name}"]`);
  await kit.getByRole('button', { name: /What to do with/ }).click();
  await page.getByRole('menuitem', { name: 'Take off the shelf' }).click();
  await expect(kit).toHaveCount(0);
  await page.getByRole('button', { name: 'What is kept' }).click();
  const dialog = page.getByRole('dialog', { name: 'What is kept' });
  await expect(dialog).toContainText(/\d+ revisions/);
  await dialog.getByRole('list', { name: 'Off the shelf' }).getByRole('button', { name: 'Put it back' }).first().click();
  await expect(dialog).toContainText('Nothing was taken off the shelf lately.');
  const days = dialog.getByRole('spinbutton', { name: 'Kits off the shelf days' });
  await days.fill('0');
  await expect(dialog.getByRole('button', { name: 'Keep so' })).toBeDisabled();
  await days.fill('7');
  await dialog.getByRole('button', { name: 'Keep so' }).click();
  await expect(dialog.getByRole('button', { name: 'Keep so' })).toBeDisabled();
  await page.reload();
  await page.getByRole('button', { name: 'What is kept' }).click();
  await expect(days).toHaveValue('7');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(kit).toHaveCount(1);
});

test('of several files that wait, one that is cancelled does not come in', async ({ page }) => {
  await page.goto(process.env.BASE_URL!);
  await page.route('**/api/kits', async (route) => {
    if (route.request().method() === 'POST') await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  const file = (name: string) => ({ name, mimeType: 'model/obj', buffer: Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n') });
  await page.getByLabel('Files for new kits').setInputFiles([file('one.obj'), file('two.obj')]);
  await page.getByRole('button', { name: 'Cancel' }).nth(1).click();
  await expect(page.locator('[data-kit="one"]')).toHaveCount(1);
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await expect(page.locator('[data-kit="two"]')).toHaveCount(0);
});
