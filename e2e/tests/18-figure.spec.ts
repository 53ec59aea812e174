import { expect, test, type Page } from '@playwright/test';
import type { Kit } from '@itchkit/core/document';
import { useApplication } from '../application';
import { look } from '../look';
import { card, checked, choosePart, find, goToStage, kitOf, openCopy, setNumber, unfold } from '../steps';

useApplication({ seed: true });

/** Tables of a kit for a variable: by part, value and the greatest turn there. */
function tables(kit: Kit, variable: string): Record<string, [number, number][]> {
  return Object.fromEntries(
    Object.values(kit.bindings)
      .filter((one) => one.variable === variable)
      .map(({ part, rows }) => [
        kit.parts[part].name,
        rows.map(({ value, turn }) => [value, turn.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0)]),
      ]),
  );
}

async function chooseNeck(page: Page): Promise<void> {
  await choosePart(page, 'head');
  await choosePart(page, 'scope_1', true);
  await choosePart(page, 'scope_2', true);
}

test('the diver’s neck shares a turn: shares typed, an angle in between, mirrored, bent about an edge; one step takes it back', async ({
  page,
}) => {
  await openCopy(page, 'Periscope diver');
  await goToStage(page, 'Wiring');
  await chooseNeck(page);
  const before = await kitOf(page);
  await unfold(page, 'A turn that several share');
  // What it does now is what it is shown with.
  await expect(card(page).getByRole('textbox', { name: 'Share of head' })).toHaveValue('50');
  await setNumber(page, 'Share of head', 40);
  await expect(card(page).getByRole('textbox', { name: 'Share of scope_1' })).toHaveValue('24');
  await card(page).getByRole('button', { name: 'In between' }).click();
  await setNumber(page, 'Turned, turn 2', 20);
  await card(page).getByRole('checkbox', { name: 'The other way alike' }).check();
  await expect(card(page).getByRole('textbox', { name: 'Value of turn 1' })).toHaveValue('37.5');
  await look(page, null);
  await card(page).getByRole('button', { name: 'Share the turn' }).click();
  await checked(page);
  const made = tables(await kitOf(page), 'look_turn');
  expect(made.head.map(([value, turn]) => [value, Math.round(turn)])).toEqual([
    [0, 0],
    [-75, -30],
    [-37.5, -8],
    [37.5, 8],
    [75, 30],
  ]);
  expect(Object.keys(made).sort()).toEqual(['head', 'scope_1', 'scope_2']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  expect((await kitOf(page)).bindings).toEqual(before.bindings);

  // Parts that do not carry one another share nothing: that is said, and nothing is done.
  await choosePart(page, 'l_arm');
  await choosePart(page, 'head', true);
  await card(page).getByRole('button', { name: 'Share the turn' }).click();
  await expect(page.getByText(/does not hang below/).first()).toBeVisible();
  expect((await kitOf(page)).bindings).toEqual(before.bindings);
});

test('in the trial the diver looks where it is told, turns after its head as it stands and not as it sits, walks, and is heard', async ({
  page,
}) => {
  await openCopy(page, 'Periscope diver');
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  const figure = page.getByTestId('figure');
  await expect(page.getByRole('list', { name: 'Import log' })).toContainText('It looks aside from -75° to 75°');

  await setNumber(page, 'Looks aside', 40);
  await setNumber(page, 'Looks up', 20);
  await expect(figure).toContainText('head 40° to its left, 20° up');
  await expect(figure).toContainText('body ahead');
  await setNumber(page, 'Looks aside', 120);
  await expect(figure).toContainText(/body 1(19|20)° to its left/);
  await expect(figure).toContainText(/head (ahead|1° to its left), 20° up/);

  // By the keyboard, and sitting: the body stays, the head goes as far as it goes.
  await page.getByRole('button', { name: 'Put it down again' }).click();
  // It still looks where it was told, and turns there again.
  await expect(figure).toContainText(/body 1(19|20)° to its left/);
  await page.getByRole('button', { name: 'Sits' }).click();
  await page.getByRole('button', { name: 'Put it down again' }).click();
  const gaze = page.getByRole('button', { name: /^Looks 120° to its left/ });
  await gaze.focus();
  await page.keyboard.press('Home');
  await expect(figure).toContainText('head ahead');
  for (let i = 0; i < 7; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('button', { name: /^Looks 105° to its right/ })).toBeFocused();
  await expect(figure).toContainText('head 75° to its right');
  await expect(figure).toContainText('body ahead');
  await look(page, 'trial-figure');

  // By the pointer: the middle of the pad is ahead.
  await page.getByRole('group', { name: 'Where it looks' }).click();
  await expect(figure).toContainText('head ahead');

  await page.getByRole('button', { name: 'Walks' }).click();
  await page.getByRole('checkbox', { name: 'blink runs along' }).uncheck();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Cues' })).toContainText('sound “right boot” of “walk”');
  await page.getByRole('button', { name: 'look, once' }).click();
  await expect(page.getByRole('list', { name: 'Cues' })).toContainText('effect “steam” of “look”');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(figure).not.toContainText('0.0 m from its place');
});
