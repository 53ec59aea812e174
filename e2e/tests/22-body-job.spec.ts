import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import { JobHands } from '../job-hands';
import { card, checked, find, finding, kitOf, openCopy } from '../steps';

useApplication({ seed: true });

const row = (page: Page, from: string, to: string) =>
  page.getByRole('row').filter({ has: page.getByRole('button', { name: `Passage from ${from} to ${to}`, exact: true }) });

/** Puts motions of the library on the body, each as a clip. */
async function putOn(page: Page, hands: JobHands, motions: readonly (readonly [title: string, clip: string])[]): Promise<void> {
  await hands.button('Motions');
  const drawer = page.getByRole('dialog', { name: 'Motions' });
  for (const [title, clip] of motions) {
    await hands.press(title, drawer.getByRole('button', { name: new RegExp(`^${title} `) }).first());
    await hands.press('put it on', drawer.getByRole('button', { name: 'Put it on' }));
    await expect(drawer.getByText(`“${clip}” is on`)).toBeVisible();
  }
  await hands.press('close', drawer.getByRole('button', { name: 'Close' }));
}

/** A layer of the chosen parts, with a second state that plays a clip. */
async function addLayer(page: Page, hands: JobHands, name: string, how: RegExp, part: string, clip: string): Promise<void> {
  await hands.part(part);
  await hands.unfold('Layers');
  await hands.button('Add a layer');
  const layers = card(page).getByRole('list', { name: 'Layers' });
  await hands.press('the new layer', layers.getByRole('button', { name: /^Layer \d/ }).last());
  await hands.type('call it', card(page).getByRole('textbox', { name: 'Name of the layer' }), name);
  await hands.choose('It is played', how);
  await hands.button('Let it move 1 chosen part');
  await hands.unfold('States');
  await hands.button('Add a state');
  await hands.choose('state 2 plays', clip);
}

async function passage(page: Page, hands: JobHands, from: string, to: string, asked: string[]): Promise<void> {
  await hands.unfold('Passages');
  await hands.choose('New passage from', from);
  await hands.choose('New passage to', to);
  await hands.button('Add the passage');
  for (const title of asked) {
    await hands.choose('Also ask about', title);
    await expect(card(page).getByRole('group', { name: `Asks about ${title}` })).toBeVisible();
  }
}

test('a body from walk and run, by keyboard alone: mixed by its own speeds, a limp, a passage broken and read, an arm’s layer, hits tried, packaged', async ({
  page,
}) => {
  const hands = new JobHands(page, 'keyboard');
  await openCopy(page, 'Night-watch keeper');
  await hands.toStage('Wiring');
  await checked(page);

  // A walk that becomes a run where their own feet are as fast.
  await hands.unfold('Mixes');
  await hands.button('Mix clips by how fast they go');
  await hands.unfold('States');
  await hands.choose('walk plays', /^the mix/);
  let kit = await kitOf(page);
  const places = new Map(kit.mixes![0].pegs.map(({ clip, at }) => [kit.clips[clip!].name, at[0]]));
  expect(places.get('walk')).toBeCloseTo(0.95, 1);
  expect(places.get('run')).toBeGreaterThan(2);

  // Another gait.
  await hands.toStage('Motion');
  await putOn(page, hands, [
    ['Limp', 'limp'],
    ['Raise', 'raise'],
    ['Hit from the left', 'hit-left'],
  ]);
  await hands.toStage('Wiring');
  await hands.unfold('States');
  await hands.choose('States play otherwise', 'by Gait');
  await hands.choose('walk, limping', 'limp');

  // Faster than anything that is passed in: what asks for that is never taken, and the Ledger says why.
  await hands.press('the table', page.getByRole('group', { name: 'What stands here' }).getByRole('button', { name: 'Passages' }));
  await hands.number('Ahead at least from stand to walk', 20);
  await checked(page);
  const never = finding(page, 'A passage that is never taken').first();
  await hands.press('read it', never);
  const why = page.getByRole('dialog', { name: 'A passage that is never taken' });
  await expect(why).toContainText('its conditions never hold together: Ahead is 20 m/s or more');
  await hands.press('leave it', why.getByRole('button', { name: 'Leave it' }));
  await expect(why).toHaveCount(0);
  await hands.number('Ahead at least from stand to walk', 0.4);
  await checked(page);
  await expect(finding(page, 'A passage that is never taken')).toHaveCount(0);

  // At once into a run: an earlier passage is always taken instead, which is mended by letting this one go first.
  await passage(page, hands, 'stand', 'run', ['Ahead']);
  await hands.number('Ahead at least from stand to run', 2.6);
  await checked(page);
  await expect(finding(page, 'A passage that is never taken')).toHaveCount(1);
  const first = finding(page, 'A passage that is never taken').locator('..').getByRole('button', { name: /^Let it go first/ });
  await hands.press('let it go first', first);
  const mend = page.getByRole('dialog');
  await expect(mend).toContainText('is looked at before the one');
  await hands.press('mend it', find(page, '[role=dialog] .MuiButton-contained'));
  await expect(mend).toHaveCount(0);
  await checked(page);
  await expect(finding(page, 'A passage that is never taken')).toHaveCount(0);
  await hands.number('Ahead', 3);
  await expect(row(page, 'stand', 'run')).toHaveAttribute('data-verdict', 'taken');
  await hands.number('Ahead', 1.5);
  await expect(row(page, 'stand', 'walk')).toHaveAttribute('data-verdict', 'taken');

  await addLayer(page, hands, 'Lantern arm', /^instead/, 'upper_arm_r', 'raise');
  await passage(page, hands, 'nothing', 'state 2', ['Lantern raised']);
  await addLayer(page, hands, 'Blows', /^on top/, 'spine', 'hit-left');
  await passage(page, hands, 'nothing', 'state 2', ['Jolt']);
  await passage(page, hands, 'state 2', 'nothing', []);
  await hands.choose('It may be taken', /end/);
  await checked(page);
  kit = await kitOf(page);
  expect(kit.behaviour!.layers.map(({ name, how, parts }) => [name, how, ...parts.map((id) => kit.parts[id].name)])).toEqual([
    ['Body', 'replaces'],
    ['Lantern arm', 'replaces', 'upper_arm_r'],
    ['Blows', 'adds', 'spine'],
  ]);

  await hands.toStage('Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  const layer = (name: string) => find(page, `[data-layer="${name}"]`);
  await hands.number('Ahead', 1.5);
  await expect(layer('Body')).toContainText(/walk \d+ %, run \d+ %/);
  await hands.choose('Gait', 'limping');
  await expect(layer('Body')).toContainText('limp');
  await hands.press('the lantern', page.getByRole('checkbox', { name: 'Lantern raised' }));
  await expect(layer('Lantern arm')).toHaveAttribute('data-state', 'state 2');
  await hands.choose('Time passes', 'a fifth as fast');
  await hands.button('Send Jolt');
  await expect(layer('Blows')).toHaveAttribute('data-state', 'state 2');
  await hands.choose('Time passes', 'as it is');
  await expect(layer('Blows')).toHaveAttribute('data-state', 'nothing');

  await hands.toStage('Ship');
  await hands.button('Build package');
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
});
