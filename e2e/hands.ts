import { expect, type Page } from '@playwright/test';
import { choosePart, dropFile, onBench, treeRow, type Found } from './steps';

/** By what somebody works: the mouse, or the keyboard alone. */
export type Way = 'mouse' | 'keyboard';

/**
 * Works as a person does, and counts it: a file brought, a button pressed, something chosen, a number typed. Waiting and looking count
 * nothing. By the keyboard everything is gone to with Tab, and with arrows inside a group that Tab goes to as one.
 */
export class Hands {
  readonly done: string[] = [];

  constructor(
    protected readonly page: Page,
    readonly way: Way,
  ) {}

  async press(what: string, on: Found): Promise<void> {
    this.done.push(what);
    if (this.way === 'mouse') return on.click();
    await this.goTo(on);
    // A box or a round one takes Space; all others take Enter, as links do.
    const kind = await on.evaluate((element) => (element as HTMLInputElement).type ?? '');
    await this.page.keyboard.press(kind === 'checkbox' || kind === 'radio' ? 'Space' : 'Enter');
  }

  /** Brings a file: dropped, or chosen in the dialog that its button opens. */
  async bring(name: string, bytes: Uint8Array, button: Found): Promise<void> {
    this.done.push(`bring ${name}`);
    if (this.way === 'mouse') return dropFile(this.page, name, bytes);
    const asked = this.page.waitForEvent('filechooser');
    await this.goTo(button);
    await this.page.keyboard.press('Enter');
    await (await asked).setFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) });
  }

  /** Types into a field and takes it. */
  async type(what: string, field: Found, text: string): Promise<void> {
    this.done.push(`${what} ${text}`);
    if (this.way === 'mouse') await field.click();
    else await this.goTo(field);
    await this.page.keyboard.press('ControlOrMeta+a');
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
  }

  /** Chooses from a list by what the choice begins with. */
  async choose(label: string, option: string | RegExp): Promise<void> {
    this.done.push(`${label}: ${String(option)}`);
    const list = this.page.getByRole('combobox', { name: label, exact: true });
    const wanted = this.page.getByRole('option', { name: option }).first();
    if (this.way === 'mouse') {
      await list.click();
      return wanted.click();
    }
    await this.goTo(list);
    await this.page.keyboard.press('Enter');
    await expect(wanted).toBeVisible();
    await this.arrowsTo(wanted, ['ArrowDown', 'ArrowUp']);
    await this.page.keyboard.press('Enter');
  }

  /** Several parts, in the tree: by the pointer, or by arrows and Ctrl. */
  async parts(names: readonly string[]): Promise<void> {
    for (const [i, name] of names.entries()) {
      if (i === 0) await this.part(name);
      else if (this.way === 'mouse') await choosePart(this.page, name, true);
      else {
        await this.goTo(this.page.getByRole('tree'));
        await this.rowTo(name);
        await this.page.keyboard.press('Control+Enter');
        await expect(this.page.getByRole('treeitem', { selected: true }).filter({ has: treeRow(this.page, name) })).toBeVisible();
      }
    }
  }

  /** Presses on a place of the world: with the pointer, or with the sight. */
  async bench(what: string, point: readonly [number, number, number]): Promise<void> {
    this.done.push(what);
    const { x, y } = await onBench(this.page, point);
    if (this.way === 'mouse') return this.page.mouse.click(x, y);
    await this.page.keyboard.press('x');
    const cross = this.page.locator('[data-sight] svg');
    const off = async () => {
      const box = (await cross.boundingBox())!;
      return { right: Math.round(x - box.x - box.width / 2), down: Math.round(y - box.y - box.height / 2) };
    };
    const { right, down } = await off();
    await this.step(right > 0 ? 'ArrowRight' : 'ArrowLeft', Math.abs(right));
    await this.step(down > 0 ? 'ArrowDown' : 'ArrowUp', Math.abs(down));
    expect(Object.values(await off()).every((pixels) => Math.abs(pixels) < 1)).toBe(true);
    await this.page.keyboard.press('Enter');
  }

  private async step(arrow: string, pixels: number): Promise<void> {
    let left = pixels;
    for (const [size, held] of [
      [100, 'Shift+'],
      [10, ''],
      [1, 'Alt+'],
    ] as const)
      for (; left >= size; left -= size) await this.page.keyboard.press(held + arrow);
  }

  /** From row to row of the tree, until one has the keyboard. */
  private async rowTo(name: string): Promise<void> {
    const row = () => this.page.evaluate(() => document.activeElement?.querySelector('[data-part]')?.getAttribute('data-part'));
    await this.page.keyboard.press('Home');
    for (let i = 0; i < 200 && (await row()) !== name; i++) await this.page.keyboard.press('ArrowDown');
    expect(await row()).toBe(name);
  }

  /** Chooses a part: in the tree, or by the finder. */
  async part(name: string): Promise<void> {
    this.done.push(name);
    if (this.way === 'mouse') return choosePart(this.page, name);
    await this.page.keyboard.press('Control+k');
    await this.page.getByRole('combobox', { name: 'What are you looking for?' }).fill(name);
    await expect(this.page.getByRole('option').first()).toContainText(name);
    await this.page.keyboard.press('Enter');
  }

  private async goTo(on: Found): Promise<void> {
    await expect(on).toBeVisible();
    // The Card has a key of its own.
    if (await on.evaluate(nearByCard)) await this.page.keyboard.press('c');
    for (let i = 0; i < 300; i++) {
      const where = await on.evaluate(whereIs);
      if (where === 'there') return;
      if (where === 'beside') return this.arrowsTo(on, ['ArrowRight', 'ArrowDown', 'ArrowUp']);
      await this.page.keyboard.press(where === 'behind' ? 'Shift+Tab' : 'Tab');
    }
    throw new Error('Tab never led there.');
  }

  private async arrowsTo(on: Found, keys: string[]): Promise<void> {
    for (const key of keys)
      for (let i = 0; i < 40; i++) {
        if ((await on.evaluate(whereIs)) === 'there') return;
        await this.page.keyboard.press(key);
      }
    throw new Error('No arrow led there.');
  }
}

/** Whether an element is on the Card and the keyboard is not, nor in a field that would take a letter. */
function nearByCard(element: Element): boolean {
  const card = element.closest('[aria-label=Card]');
  const { activeElement: active } = document;
  return card !== null && !card.contains(active) && !active?.matches('input, textarea, select, [contenteditable=true]');
}

/** Where an element is as seen from the keyboard: there, in the group that it is in, behind or ahead. */
function whereIs(element: Element): 'there' | 'beside' | 'behind' | 'ahead' {
  const { activeElement } = document;
  if (!activeElement || activeElement === document.body) return 'ahead';
  if (activeElement === element || element.contains(activeElement)) return 'there';
  const group = element.closest(
    '[role=radiogroup],[role=toolbar],[role=tablist],[role=listbox],[role=tree],[role=menu],.MuiToggleButtonGroup-root',
  );
  const canTab = (element as HTMLElement).tabIndex >= 0 && (element as HTMLInputElement).type !== 'radio';
  if (!canTab && group?.contains(activeElement)) return 'beside';
  return element.compareDocumentPosition(activeElement) & Node.DOCUMENT_POSITION_FOLLOWING ? 'behind' : 'ahead';
}
