import { expect, test, type Page } from '@playwright/test';
import { useApplication } from '../application';
import { look } from '../look';
import { card, checked, choose, find, finding, goToStage, kitOf, openCopy, saved, setNumber, unfold } from '../steps';

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

  // Numbers are typed in the table, up and down from row to row.
  const seconds = (from: string, to: string) => page.getByRole('textbox', { name: `Seconds from ${from} to ${to}`, exact: true });
  const over = async () => (await kitOf(page)).behaviour!.layers[0].passages[0].over;
  const before = await over();
  await seconds('stand', 'walk').fill('0.35');
  await page.keyboard.press('ArrowDown');
  await expect(seconds('stand', 'walk')).not.toBeFocused();
  await expect.poll(over).toBe(0.35);
  await page.keyboard.press('ArrowUp');
  await expect(seconds('stand', 'walk')).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect.poll(over).toBe(before);
  const least = page.getByRole('textbox', { name: 'Ahead at least from stand to walk', exact: true });
  await least.fill('5');
  await least.press('Enter');
  await choose(page, 'Body is in', 'stand');
  await expect(row(page, 'stand', 'walk')).toHaveAttribute('data-verdict', 'not');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('textbox', { name: 'Find passages' }).fill('run walk');
  await expect(row(page, 'stand', 'walk')).toHaveCount(0);
  await expect(row(page, 'walk', 'run')).toBeVisible();
  await page.getByRole('textbox', { name: 'Find passages' }).fill('');
  await choose(page, 'Body is in', 'walk');

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

  // A name that a state tells is a piece of its own, with a comma in it too; leaving the field takes what was typed.
  await unfold(page, 'States');
  const told = async () => (await kitOf(page)).behaviour!.layers[0].states.find(({ name }) => name === 'walk')!.sends;
  const field = card(page).getByRole('combobox', { name: 'walk tells the game' });
  await field.fill('left, then right');
  await field.press('Enter');
  await field.fill('dust');
  await field.press('Tab');
  await expect.poll(told).toEqual(['left, then right', 'dust']);
  await field.press('Backspace');
  await expect.poll(told).toEqual(['left, then right']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(card(page).getByRole('button', { name: 'dust' })).toBeVisible();
});

test('a walk becomes a run by the speeds of their own feet; one put elsewhere slides and is told; a gait plays otherwise; the bench plays it', async ({
  page,
}) => {
  await openCopy(page, 'Night-watch keeper');
  await goToStage(page, 'Wiring');
  await checked(page);
  await unfold(page, 'Mixes');
  await card(page).getByRole('button', { name: 'Mix clips by how fast they go' }).click();
  const mixOf = async () => (await kitOf(page)).mixes![0];
  await expect.poll(async () => (await kitOf(page)).mixes?.[0].pegs.length).toBe(3);
  const { pegs, parameters } = await mixOf();
  expect(parameters).toEqual(['ahead']);
  expect(pegs.map(({ clip }) => clip)).toEqual(['clip-idle', 'clip-walk', 'clip-run']);
  const [still, walk, run] = pegs.map(({ at }) => at[0]);
  expect(still).toBe(0);
  expect(walk).toBeGreaterThan(0.7);
  expect(run).toBeGreaterThan(2 * walk);

  // By keyboard: the run's knot a metre a second further; then back by its mend.
  const rope = page.getByRole('group', { name: /^The mix Mix 1 along Ahead/ });
  await expect(page.getByText(/^Feet slide most at/)).toBeVisible();
  await rope.getByRole('slider', { name: /^run at/ }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await checked(page);
  await expect(finding(page, 'Feet slide in a mix')).toBeVisible();
  await look(page, 'mix');
  await card(page)
    .getByRole('group', { name: 'run in the mix' })
    .getByRole('button', { name: /^Put it at/ })
    .click();
  await checked(page);
  await expect(finding(page, 'Feet slide in a mix')).toHaveCount(0);
  expect((await mixOf()).pegs[2].at).toEqual([run]);

  // By pointer: a knot is dragged along the rope.
  const knot = rope.getByRole('slider', { name: /^walk at/ });
  const box = (await knot.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await mixOf()).pegs[1].at[0]).toBeGreaterThan(walk + 0.2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();

  // The state plays the mix, and limping the walk alone; the bench is in it as soon as the game says so.
  await unfold(page, 'States');
  await choose(page, 'walk plays', 'the mix Mix 1');
  await choose(page, 'States play otherwise', 'by Gait');
  await choose(page, 'walk, limping', 'walk');
  const kit = await kitOf(page);
  expect(kit.behaviour!.gait).toBe('gait');
  expect(kit.behaviour!.layers[0].states[1]).toMatchObject({
    clip: null,
    mix: kit.mixes![0].id,
    gaits: [{ gait: 'limping', clip: 'clip-walk' }],
  });
  await page.getByRole('button', { name: 'Passages', exact: true }).click();
  await page.getByRole('button', { name: 'Play it on the bench' }).click();
  await setNumber(page, 'Ahead', 1);
  await expect(page.getByRole('combobox', { name: 'Body is in', exact: true })).toHaveText('walk');
  await page.getByRole('button', { name: 'Play it no more' }).click();
  await saved(page);
});

test('on the route map what is passed in lights the way; a flag is chosen by keyboard, a line drawn from halt to halt is a passage', async ({
  page,
}) => {
  await openCopy(page, 'Night-watch keeper, finished');
  await goToStage(page, 'Wiring');
  await checked(page);
  await page.getByRole('button', { name: 'Route map', exact: true }).click();
  const map = page.getByRole('group', { name: 'Route map' });
  const halt = (name: string) => map.locator(`[data-halt="${name}"]`);
  const flag = (from: string, to: string) => map.getByRole('button', { name: new RegExp(`^From ${from} to ${to}:`) });
  await expect(halt('stand')).toHaveAttribute('data-here', 'true');
  await expect(flag('stand', 'go')).not.toHaveAttribute('data-lit', /./);
  await setNumber(page, 'Ahead', 2);
  await expect(flag('stand', 'go')).toHaveAttribute('data-lit', 'taken');
  await look(page, 'route-map');

  await unfold(page, 'Passages');
  await flag('stand', 'go').focus();
  await page.keyboard.press('Enter');
  await expect(card(page).getByRole('group', { name: 'The chosen passage' })).toContainText('stand → go');
  await expect(flag('stand', 'go')).toHaveAttribute('aria-pressed', 'true');
  // Led elsewhere: from anywhere, but not from one state.
  await choose(page, 'It leads from', 'anywhere');
  await card(page).getByRole('group', { name: 'But not from' }).getByRole('checkbox', { name: 'rise' }).check();
  await expect(flag('anywhere', 'go')).toHaveAttribute('aria-pressed', 'true');
  const led = (await kitOf(page)).behaviour!.layers[0];
  const goes = led.passages.find(({ from, to }) => from === null && led.states.find(({ id }) => id === to)!.name === 'go')!;
  expect(goes.except.map((id) => led.states.find((one) => one.id === id)!.name)).toEqual(['rise']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(flag('stand', 'go')).toHaveAttribute('aria-pressed', 'true');
  await halt('fall').focus();
  await page.keyboard.press('Enter');
  await expect(halt('fall')).toHaveAttribute('data-here', 'true');
  await expect(flag('stand', 'go')).not.toHaveAttribute('data-lit', /./);

  // A halt that has the keyboard is in view, wherever the map was.
  await halt('stand').focus();
  const room = await map.boundingBox();
  await expect.poll(async () => (await halt('stand').boundingBox())!.x).toBeGreaterThanOrEqual(room!.x);
  await page.keyboard.press('Enter');
  await expect(halt('stand')).toHaveAttribute('data-here', 'true');
  const before = (await kitOf(page)).behaviour!.layers[0].passages.length;
  await halt('stand').hover();
  const [start, end] = await Promise.all([find(page, '[data-halt=stand] .source').boundingBox(), halt('fall').boundingBox()]);
  await page.mouse.move(start!.x + 5, start!.y + 5);
  await page.mouse.down();
  await page.mouse.move(end!.x + 20, end!.y + 20, { steps: 6 });
  await page.mouse.move(end!.x + 2, end!.y + end!.height / 2, { steps: 3 });
  await page.mouse.up();
  await expect(flag('stand', 'fall')).toHaveAttribute('aria-pressed', 'true');
  const { passages, states } = (await kitOf(page)).behaviour!.layers[0];
  expect(passages).toHaveLength(before + 1);
  const named = (id: string | null) => states.find((one) => one.id === id)!.name;
  const added = passages[passages.length - 1];
  expect([named(added.from), named(added.to), added.when]).toEqual(['stand', 'fall', []]);
  // What stands on the map goes along with undo.
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(flag('stand', 'fall')).toHaveCount(0);

  // Four blows fold into one halt; pressed, it opens again.
  await unfold(page, 'Layers');
  await card(page)
    .getByRole('list', { name: 'Layers' })
    .getByRole('button', { name: /^Blows/ })
    .click();
  await unfold(page, 'States');
  await card(page)
    .getByRole('button', { name: /blows on the trunk 4 states/ })
    .click();
  await expect(halt('blows on the trunk')).toContainText('4 states, folded');
  await expect(halt('hit left')).toHaveCount(0);
  await expect(flag('calm', 'blows on the trunk')).toContainText('4 ways');
  await halt('blows on the trunk').focus();
  await page.keyboard.press('Enter');
  await expect(halt('hit left')).toBeAttached();
  await expect(card(page).getByRole('combobox', { name: 'hit left is in the group' })).toHaveValue('blows on the trunk');
});

test('a clip of a mix is tried while its list is open, and taken from the library or another kit; each is one step of undo', async ({
  page,
}) => {
  await openCopy(page, 'Night-watch keeper, finished');
  await goToStage(page, 'Wiring');
  await unfold(page, 'Mixes');
  const before = await kitOf(page);
  const mixed = async () => {
    const { mixes, clips } = await kitOf(page);
    return mixes!.find(({ name }) => name === 'on foot')!.pegs.map(({ clip }) => clips[clip!].name);
  };
  expect(await mixed()).toEqual(['walk', 'walk', 'run', 'run']);
  const list = (clip: string) =>
    card(page)
      .getByRole('group', { name: `${clip} in the mix` })
      .first()
      .getByRole('combobox', { name: 'Clip' });
  const sign = page.getByText(/^Tried, not done/);
  await list('run').click();
  const sneak = page.getByRole('option', { name: 'Sneak, of the library' });
  await sneak.hover();
  await expect(sign).toContainText('clips 19 → 20');
  await sneak.click();
  await expect(sign).toHaveCount(0);
  await expect.poll(mixed).toEqual(['walk', 'walk', 'sneak_2', 'run']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect.poll(mixed).toEqual(['walk', 'walk', 'run', 'run']);
  expect(Object.keys((await kitOf(page)).clips)).toEqual(Object.keys(before.clips));

  // By keyboard, from another kit: its clip is fitted onto this skeleton.
  await list('run').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  const drawer = page.getByRole('dialog', { name: 'A clip to mix in' });
  await expect(drawer.getByRole('button', { name: 'Mix it in' })).toBeDisabled();
  await choose(page, 'Another kit', 'Night-watch keeper');
  await drawer.getByRole('button', { name: /^idle/ }).click();
  await expect(sign).toContainText('clips 19 → 20');
  await drawer.getByRole('button', { name: 'Mix it in' }).click();
  await expect(drawer).toHaveCount(0);
  await expect.poll(mixed).toEqual(['walk', 'walk', 'idle_2', 'run']);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  expect((await kitOf(page)).clips).toEqual(before.clips);
});

test('the tangled keeper is told every kind of mistake that can be proven, and mends that ask take all of them but the notes', async ({
  page,
}) => {
  await openCopy(page, 'Night-watch keeper, tangled');
  await goToStage(page, 'Wiring');
  await checked(page);
  for (const title of [
    'It is never passed in',
    'Round without end',
    'Feet slide in a mix',
    'A state that nothing leads to',
    'A passage that is never taken',
    'No way out',
    'A layer that is never seen',
    'A clip that nothing plays',
    'A state that plays nothing',
    'Two ways at once',
    'Nothing asks about 4 values',
  ])
    await expect(finding(page, title).first()).toBeAttached();
  // Pressed, a finding shows what it is about: the passage in the table, the state that is looked at.
  const showMe = async (title: string) => {
    await finding(page, title).click();
    await finding(page, title).locator('..').getByRole('button', { name: 'Show me' }).click();
  };
  await showMe('A passage that is never taken');
  await expect(page.getByRole('button', { name: 'Passage from go to limp' })).toHaveAttribute('aria-pressed', 'true');
  await showMe('No way out');
  await expect(page.getByRole('combobox', { name: 'Body is in', exact: true })).toHaveText('fall');
  // Where a passage leads is chosen in its cell.
  await page.getByRole('combobox', { name: 'To, from limp to stand' }).selectOption('go');
  await expect(page.getByRole('combobox', { name: 'To, from limp to go' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'To, from limp to go' })).toHaveCount(1);
  // So is where it leads from, and when it is taken.
  await page.getByRole('combobox', { name: 'Taken from limp to stand' }).selectOption('once its clip has ended');
  await page.getByRole('combobox', { name: 'From, from limp to stand' }).selectOption('anywhere');
  await expect(page.getByRole('button', { name: 'Passage from anywhere to stand' })).toHaveCount(1);
  const [body] = (await kitOf(page)).behaviour!.layers;
  const stand = body.states.find((one) => one.name === 'stand')!.id;
  expect(body.passages.filter(({ from, to, after }) => from === null && to === stand && after === 'end')).toHaveLength(1);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Passage from limp to stand' })).toHaveCount(1);

  // Beside the finished one: what differs, by names.
  await unfold(page, 'Beside another kit');
  await choose(page, 'Behaviour of', 'Night-watch keeper, finished');
  const beside = page.getByRole('table', { name: 'Behaviour beside Night-watch keeper, finished' });
  await expect(beside.getByRole('row', { name: /^Body: crouch plays crouch over and over –/ })).toBeAttached();
  await expect(
    beside.getByRole('row', { name: /^Body: stand → go Ahead is 0.2 m\/s or more; over 0.2 s Lies is no, Ahead/ }),
  ).toBeAttached();

  await page.getByRole('button', { name: /^Look at \d+ more mends?/ }).click();
  const dialog = page.getByRole('dialog', { name: 'What these mends would change' });
  await dialog.getByRole('button', { name: /^Mend \d+ findings?/ }).click();
  await expect(dialog).toHaveCount(0);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);
  for (const title of ['A state that nothing leads to', 'No way out', 'Feet slide in a mix'])
    await expect(finding(page, title)).toHaveCount(0);
});

test('a number of the kit’s own is worked out of what the game passes in, asked about, and played from the package', async ({ page }) => {
  await openCopy(page, 'Night-watch keeper');
  await goToStage(page, 'Wiring');
  await unfold(page, 'Variables of the kit');
  await page.getByRole('textbox', { name: 'Name of the variable' }).fill('pace');
  await page.getByRole('textbox', { name: 'Worked out of what the game passes in' }).click();
  await page.keyboard.type('abs(ahead) * 2');
  await page.getByRole('button', { name: 'Add the variable' }).click();
  const whatIf = page.getByRole('group', { name: 'What if' });
  await expect(whatIf.getByText('pace is 0 m/s')).toBeVisible();
  await setNumber(page, 'Ahead', 1.5);
  await expect(whatIf.getByText('pace is 3 m/s')).toBeVisible();

  await unfold(page, 'Passages');
  await page.getByRole('button', { name: 'Passage from stand to walk' }).click();
  await choose(page, 'Also ask about', 'pace');
  await setNumber(page, 'pace at least', 5);
  const passage = page.getByRole('row').filter({ has: page.getByRole('button', { name: 'Passage from stand to walk' }) });
  await expect(passage).toHaveAttribute('data-verdict', 'not');
  await setNumber(page, 'Ahead', 3);
  await expect(passage).toHaveAttribute('data-verdict', 'taken');

  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  const layer = find(page, '[data-layer=Body]');
  await setNumber(page, 'Ahead', 2);
  await page.waitForTimeout(500);
  await expect(layer).toHaveAttribute('data-state', 'stand');
  await setNumber(page, 'Ahead', 2.5);
  await expect(layer).toHaveAttribute('data-state', 'walk');
  await page.getByRole('group', { name: 'What stands below' }).getByRole('button', { name: 'Passages' }).click();
  await expect(page.getByRole('list', { name: 'Passages taken' })).toContainText(/pace is 5 m\/s or more \(5\)/);
});

test('on the field the finished keeper walks, is hit, falls and gets up by what the game passes in; what was done is written down and done again', async ({
  page,
}) => {
  await openCopy(page, 'Night-watch keeper, finished');
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  const layer = (name: string) => find(page, `[data-layer="${name}"]`);
  await expect(layer('Body')).toHaveAttribute('data-state', 'stand');
  await page.getByRole('button', { name: 'Write down what is passed in' }).click();

  // By keyboard on the field: faster, and round.
  const field = page.getByRole('application', { name: /^The field from above/ });
  await field.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('textbox', { name: 'Ahead' })).toHaveValue('2');
  await expect(layer('Body')).toHaveAttribute('data-state', 'go');
  await expect(layer('Body')).toContainText(/walk \d+ %, run \d+ %/);
  // The map lights up where it is, and how it came there.
  const map = page.getByRole('group', { name: 'Route map' }).last();
  await expect(map.locator('[data-halt=go]')).toHaveAttribute('data-here', 'true');
  await expect(map.getByRole('img', { name: /^From stand to go:/ })).toHaveAttribute('data-lit', 'before');
  await page.keyboard.down('ArrowLeft');
  await page.waitForTimeout(300);
  await page.keyboard.up('ArrowLeft');
  await page.getByRole('checkbox', { name: 'Lantern raised' }).check();
  await expect(layer('Lantern arm')).toHaveAttribute('data-state', 'raised');

  // Nine more beside it, each as fast as its place says; put away again before the blow is looked at.
  await choose(page, 'Beside it', 'nine more, Ahead from -2 to 7');
  await expect(find(page, '[data-other]')).toHaveCount(9);
  await look(page, 'trial-body');
  await choose(page, 'Beside it', 'nobody');
  await expect(find(page, '[data-other]')).toHaveCount(0);

  await choose(page, 'Hit from', 'left');
  await choose(page, 'Time passes', 'a fifth as fast');
  await page.getByRole('button', { name: 'Send Jolt' }).click();
  await expect(layer('Blows')).toHaveAttribute('data-state', 'hit left');
  await choose(page, 'Time passes', 'as it is');
  await expect(layer('Blows')).toHaveAttribute('data-state', 'calm');
  const below = page.getByRole('group', { name: 'What stands below' });
  await below.getByRole('button', { name: 'Passages' }).click();
  const taken = page.getByRole('list', { name: 'Passages taken' });
  await expect(taken).toContainText('calm → hit left: Jolt is sent, Hit on is trunk, Hit from is left');

  // A moment that is past is looked at again; then time goes on from where it was.
  const seconds = async () => Number(/([\d.]+) s$/.exec((await find(page, '[data-testid=body]').innerText()).trim())![1]);
  await below.getByRole('button', { name: 'The last seconds' }).click();
  const moment = page.getByRole('slider', { name: 'Look at a moment again' });
  await moment.focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  const first = await seconds();
  await page.keyboard.press('End');
  await expect.poll(seconds).toBeGreaterThan(first);
  const end = await seconds();
  await page.keyboard.press('Home');
  await expect.poll(seconds).toBe(first);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(seconds).toBeGreaterThan(end);

  await page.getByRole('checkbox', { name: 'Lies' }).check();
  await expect(layer('Body')).toHaveAttribute('data-state', 'fall');
  await below.getByRole('button', { name: 'Passages' }).click();
  await expect(page.getByRole('list', { name: 'Told to the game' })).toContainText(/s down/);
  await setNumber(page, 'Ahead', 0);
  await page.waitForTimeout(1200);
  await page.getByRole('checkbox', { name: 'Lies' }).uncheck();
  await expect(layer('Body')).toHaveAttribute('data-state', 'rise');
  await expect(layer('Body')).toHaveAttribute('data-state', 'stand');

  await page.getByRole('button', { name: 'Write down no more' }).click();
  await page.getByRole('button', { name: /^Play the script/ }).click();
  await expect(layer('Body')).toHaveAttribute('data-state', 'go');
  await expect(layer('Body')).toHaveAttribute('data-state', 'fall');
  await expect(page.getByRole('button', { name: /^Play the script/ })).toBeVisible();
});

test('walked by a pad: by the pointer on the field as by one that is plugged in; let go it stands', async ({ page }) => {
  const pad = { connected: true, axes: [0, 0] };
  await page.addInitScript(() => {
    const plugged = { pad: null as unknown };
    Object.assign(window, { plugged });
    navigator.getGamepads = () => [plugged.pad as Gamepad | null];
  });
  await openCopy(page, 'Night-watch keeper, finished');
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  const layer = find(page, '[data-layer="Body"]');
  const ahead = page.getByRole('textbox', { name: 'Ahead', exact: true });
  const field = page.getByRole('application', { name: /^The field from above/ });
  const box = (await field.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y - 2);
  await page.mouse.down();
  await page.mouse.move(x, box.y + 12, { steps: 4 });
  await expect(layer).toHaveAttribute('data-state', 'go');
  expect(Number(await ahead.inputValue())).toBeGreaterThan(4);
  await page.mouse.up();
  await expect(ahead).toHaveValue('0');
  await expect(layer).toHaveAttribute('data-state', 'stand');

  // One that is plugged in while the page is open: its stick a little up, then let go.
  const plug = (axes: number[]) =>
    page.evaluate((one) => Object.assign((window as unknown as { plugged: object }).plugged, { pad: one }), { ...pad, axes });
  await plug([0, 0]);
  await page.evaluate(() => window.dispatchEvent(new Event('gamepadconnected')));
  await plug([0, -0.5]);
  await expect(layer).toHaveAttribute('data-state', 'go');
  await expect.poll(async () => Number(await ahead.inputValue())).toBeCloseTo(2.9, 1);
  await plug([0, 0]);
  await expect(layer).toHaveAttribute('data-state', 'stand');
});
