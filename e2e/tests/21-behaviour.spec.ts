import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import { look } from '../look';
import { card, checked, choose, find, finding, goToStage, kitOf, openCopy, setNumber, unfold } from '../steps';

useApplication({ seed: true });

const row = (page: Page, from: string, to: string) =>
  page.getByRole('row').filter({ has: page.getByRole('button', { name: `Passage from ${from} to ${to}`, exact: true }) });
const passage = (page: Page, from: string, to: string) => page.getByRole('button', { name: `Passage from ${from} to ${to}`, exact: true });

test('a body by its speed: what is taken and why, a passage broken and said so, a layer for the lantern, packaged', async ({ page }) => {
  await openCopy(page, 'Night-watch keeper');
  await goToStage(page, 'Wiring');
  await checked(page);
  await expect(row(page, 'stand', 'walk')).toHaveAttribute('data-verdict', 'not');
  await expect(row(page, 'stand', 'walk').getByText('✗')).toBeVisible();
  await setNumber(page, 'Ahead', 3);
  await expect(row(page, 'stand', 'walk')).toHaveAttribute('data-verdict', 'taken');
  await choose(page, 'Body is in', 'walk');
  await expect(row(page, 'walk', 'run')).toHaveAttribute('data-verdict', 'taken');
  await expect(row(page, 'walk', 'stand')).toHaveAttribute('data-verdict', 'not');
  await expect(row(page, 'stand', 'walk')).toHaveAttribute('data-verdict', 'elsewhere');

  // Faster than anything that the game passes in: the run is out of reach, and that is said while it is done.
  await unfold(page, 'Passages');
  await passage(page, 'walk', 'run').click();
  await setNumber(page, 'Ahead at least', 20);
  await checked(page);
  await expect(finding(page, 'A state that nothing leads to')).toBeVisible();
  await expect(finding(page, 'A passage that is never taken')).toBeVisible();
  await look(page, null);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await checked(page);
  await expect(finding(page, 'A passage that is never taken')).toHaveCount(0);

  // The lantern: a layer on top, up and down by what the game says.
  await page.keyboard.press('Escape');
  await unfold(page, 'Layers');
  await card(page).getByRole('button', { name: 'Add a layer' }).click();
  await card(page)
    .getByRole('list', { name: 'Layers' })
    .getByRole('button', { name: /^Layer 2/ })
    .click();
  const name = card(page).getByRole('textbox', { name: 'Name of the layer' });
  await name.fill('Lantern');
  await name.press('Enter');
  await unfold(page, 'States');
  await card(page).getByRole('button', { name: 'Add a state' }).click();
  await checked(page);
  await expect(finding(page, 'A state that nothing leads to')).toBeVisible();
  for (const [from, to, value] of [
    ['nothing', 'state 2', 'yes'],
    ['state 2', 'nothing', 'no'],
  ]) {
    await choose(page, 'New passage from', from);
    await choose(page, 'New passage to', to);
    await card(page).getByRole('button', { name: 'Add the passage' }).click();
    await choose(page, 'Also ask about', 'Lantern raised');
    if (value === 'no') await card(page).getByRole('group', { name: 'Asks about Lantern raised' }).getByRole('combobox').click();
    if (value === 'no') await page.getByRole('option', { name: 'no', exact: true }).click();
  }
  await checked(page);
  await expect(finding(page, 'A state that nothing leads to')).toHaveCount(0);
  const { behaviour } = await kitOf(page);
  expect(behaviour!.layers.map(({ name: called, how, states }) => [called, how, states.length])).toEqual([
    ['Body', 'replaces', 3],
    ['Lantern', 'adds', 2],
  ]);
  expect(behaviour!.layers[1].passages.map(({ when }) => when)).toEqual(
    ['yes', 'no'].map((value) => [{ kind: 'among', parameter: 'lantern', values: [value] }]),
  );
  // By keyboard: a passage is chosen in the table, and let go of.
  await passage(page, 'state 2', 'nothing').focus();
  await page.keyboard.press('Enter');
  await expect(passage(page, 'state 2', 'nothing')).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('Enter');
  await expect(passage(page, 'state 2', 'nothing')).toHaveAttribute('aria-pressed', 'true');

  await goToStage(page, 'Ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible({ timeout: 60_000 });
  await expect(find(page, 'main')).toContainText('.behaviour.json');
});

test('a kit without a behaviour begins with a state for each clip, and is told what is missing', async ({ page }) => {
  await openCopy(page, 'Night-watch keeper');
  await goToStage(page, 'Wiring');
  await unfold(page, 'Layers');
  await card(page).getByRole('button', { name: 'Take the layer away' }).click();
  await expect(page.getByText('Nothing says what plays when. Begin with a layer')).toBeVisible();
  await card(page).getByRole('button', { name: 'Begin with a state for each clip' }).click();
  await checked(page);
  const { layers } = (await kitOf(page)).behaviour!;
  expect(layers.map(({ first, states }) => [states[0].id === first, ...states.map(({ name }) => name)])).toEqual([
    [true, 'idle', 'walk', 'run'],
  ]);
  await expect(finding(page, 'A state that nothing leads to')).toHaveCount(2);
  await expect(finding(page, 'No way out')).toHaveCount(1);
});
