import { expect, test, type Page } from '@playwright/test';
import { MemoryBlobs, clipsInOrder, type Clip, type Kit, type KeyTrack, type Quat } from '@itchkit/core/document';
import {
  angleBetweenQuats,
  conjugateQuat,
  decomposeMatrix,
  flattenParts,
  multiplyQuats,
  Poser,
  quatFromTurn,
  restWorlds,
} from '@itchkit/core/geometry';
import { headOf } from '@itchkit/core/rig';
import { compileClip, sampleClip } from '@itchkit/core/motion';
import {
  card,
  checked,
  choose,
  choosePart,
  clickBench,
  find,
  finding,
  goToStage,
  kitOf,
  moreTools,
  onBench,
  openDemo,
  setNumber,
  unfold,
} from '../steps';
import { useApplication } from '../application';
import { look } from '../look';

useApplication({ seed: true });

const clipNamed = (kit: Kit, name: string): Clip => clipsInOrder(kit).find((clip) => clip.name === name)!;
const partNamed = (kit: Kit, name: string): string => Object.values(kit.parts).find((part) => part.name === name)!.id;
const trackOf = (kit: Kit, clip: string, part: string, property: string, axis = 0): KeyTrack | undefined =>
  clipNamed(kit, clip).tracks.find(
    (track): track is KeyTrack =>
      track.kind === 'keys' && track.part === partNamed(kit, part) && track.property === property && track.axis === axis,
  );

/** How a part of a clip is turned away from rest, in the world. */
function worldTurnOf(kit: Kit, clip: string, part: string, time: number): Quat {
  const poser = new Poser(flattenParts(kit));
  const id = partNamed(kit, part);
  const rest = decomposeMatrix(poser.worldOf(id)).rotation;
  sampleClip(compileClip(clipNamed(kit, clip), poser.flat, new MemoryBlobs()), time, poser.pose);
  poser.update();
  return multiplyQuats(decomposeMatrix(poser.worldOf(id)).rotation, conjugateQuat(rest));
}

async function openMotion(page: Page, kit: string, clip?: string): Promise<void> {
  await openDemo(page, kit);
  await goToStage(page, 'Motion');
  if (clip !== undefined)
    await page
      .getByRole('button', { name: new RegExp(`^${clip}`) })
      .first()
      .click();
  await expect(page.getByTestId('strip-rows')).toBeVisible();
}

/** Goes to a time by the strip's field. */
async function goTo(page: Page, seconds: number): Promise<void> {
  const field = page.getByRole('textbox', { name: 'Time, seconds' });
  await field.fill(String(seconds));
  await field.press('Enter');
  await expect(
    page.getByRole('status', { name: 'Time in the clip' }).or(find(page, '[aria-label="Time in the clip"]')).first(),
  ).toContainText(seconds.toFixed(2));
}

/** Opens a tool of the Card, looks at what it would do, and does it. */
async function useTool(page: Page, title: string, verb: string, numbers: Record<string, number> = {}): Promise<void> {
  await unfold(page, 'Tools');
  const entry = card(page).getByRole('button', { name: title, exact: true });
  if ((await entry.getAttribute('aria-expanded')) !== 'true') await entry.click();
  for (const [label, value] of Object.entries(numbers)) await setNumber(page, label, value);
  const button = card(page).getByRole('button', { name: verb, exact: true }).last();
  await button.hover();
  await expect(page.getByRole('status').filter({ hasText: 'Tried, not done' })).toBeVisible();
  await button.click();
}

test('the halt: keyed, eased, sent there and back, held with a dwell, its lamp copied to the twin', async ({ page }) => {
  await openMotion(page, 'Hill tram halt, moving');
  await page.getByRole('button', { name: 'Add clip', exact: true }).click();
  await setNumber(page, 'Length', 1);
  const name = (await kitOf(page)).clips;
  const made = Object.values(name).find(({ tracks }) => tracks.length === 0)!.name;
  await choosePart(page, 'Lamp');
  await setNumber(page, 'Turn z', 0);
  await goTo(page, 1);
  await setNumber(page, 'Turn z', 20);
  await setNumber(page, 'Offset x', 0.1);
  let kit = await kitOf(page);
  expect(trackOf(kit, made, 'Lamp', 'turn', 2)!.keys.map(({ time, value }) => [time, value])).toEqual([
    [0, 0],
    [1, 20],
  ]);
  // Eased: the whole row is chosen by its name.
  await page.getByRole('button', { name: 'All keys of turn z of Lamp' }).click();
  await page.getByRole('button', { name: 'Ease elastic out' }).click();
  kit = await kitOf(page);
  expect(trackOf(kit, made, 'Lamp', 'turn', 2)!.keys[0].easing).toBe('elastic-out');

  await useTool(page, 'Return trip', 'Go there and back');
  kit = await kitOf(page);
  expect(clipNamed(kit, made).lengthSeconds).toBeCloseTo(2, 6);
  expect(trackOf(kit, made, 'Lamp', 'turn', 2)!.keys.map(({ easing, value }) => [easing, value])).toEqual([
    ['elastic-out', 0],
    ['elastic-in', 20],
    ['elastic-out', 0],
  ]);
  await goTo(page, 1);
  await useTool(page, 'Dwell', 'Dwell here', { For: 0.5 });
  kit = await kitOf(page);
  expect(clipNamed(kit, made).lengthSeconds).toBeCloseTo(2.5, 6);
  expect(trackOf(kit, made, 'Lamp', 'turn', 2)!.keys.map(({ time, value }) => [time, value])).toEqual([
    [0, 0],
    [1, 20],
    [1.5, 20],
    [2.5, 0],
  ]);

  // The other lamp does the same in the mirror.
  await page.keyboard.press('Escape');
  await choosePart(page, 'Lamp');
  await useTool(page, 'To the twin', 'Copy to the twin');
  kit = await kitOf(page);
  trackOf(kit, made, 'Lamp_2', 'turn', 2)!.keys.forEach((key, i) =>
    expect(key.value).toBeCloseTo(-trackOf(kit, made, 'Lamp', 'turn', 2)!.keys[i].value, 6),
  );
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('group', { name: 'Tracks of Lamp_2' })).toHaveCount(0);

  // Keys are copied and pasted, by the keyboard alone, and chosen by a box.
  await page.getByRole('button', { name: 'All keys of turn z of Lamp' }).click();
  await page.keyboard.press('Control+c');
  await choosePart(page, 'Step');
  await page.getByRole('textbox', { name: 'Time, seconds' }).fill('0');
  await page.getByRole('textbox', { name: 'Time, seconds' }).press('Enter');
  await page.getByRole('slider', { name: 'Time', exact: true }).focus();
  await page.keyboard.press('Control+Shift+v');
  await expect(page.getByRole('group', { name: 'Tracks of Step' })).toBeVisible();
  kit = await kitOf(page);
  expect(trackOf(kit, made, 'Step', 'turn', 2)!.keys).toHaveLength(4);
  const rows = (await page.getByTestId('rows').boundingBox())!;
  await page.mouse.move(rows.x + 198, rows.y + 2);
  await page.mouse.down();
  await page.mouse.move(rows.x + rows.width - 10, rows.y + rows.height - 2, { steps: 5 });
  await page.mouse.up();
  await expect(find(page, '[data-bead][aria-pressed="true"]').first()).toBeVisible();
  await expect(card(page).getByRole('heading', { name: /^\d+ keys$/ })).toBeVisible();
  await look(page, null);
});

test('the diver’s take: its loops found on the map, trimmed and mended until the seam meets; curves; played as the platform will', async ({
  page,
}) => {
  await openMotion(page, 'Brass diver’s jig');
  await expect(finding(page, 'Seam does not meet')).toBeVisible();
  await unfold(page, 'Loop');
  await expect(page.getByTestId('seam-figure')).toContainText('jumps by');
  // Within the dance: what comes before and after it is still.
  await goTo(page, 2.4);
  await page.getByRole('button', { name: 'From here' }).click();
  await goTo(page, 7.1);
  await page.getByRole('button', { name: 'To here' }).click();
  await page.getByRole('button', { name: 'Find loops in the stretch' }).click();
  const found = page.getByRole('list', { name: 'Loops found' });
  await expect(found).toBeVisible({ timeout: 30_000 });
  await page.getByRole('img', { name: /^How near the poses/ }).scrollIntoViewIfNeeded();
  await look(page, null);
  await page.getByRole('button', { name: 'Trim to it and mend the seam' }).click();
  await checked(page);
  await expect(finding(page, 'Seam does not meet')).toHaveCount(0);
  const kit = await kitOf(page);
  const [take] = clipsInOrder(kit);
  const rounds = take.lengthSeconds / 1.6;
  expect(Math.abs(rounds - Math.round(rounds))).toBeLessThan(0.06);

  await choosePart(page, 'Arm_L');
  await useTool(page, 'Thin', 'Thin');
  expect((await kitOf(page)).clips[take.id].tracks.some((track) => track.kind === 'keys' && track.keys.length < 60)).toBe(true);
  await page.getByRole('button', { name: 'Curves', exact: true }).click();
  await page.getByRole('button', { name: 'As it will play' }).click();
  await expect(page.getByTestId('played').first()).toBeVisible();
  await expect(page.getByTestId('played-words')).toContainText('→');
  const key = find(page, '[data-curve-key]').nth(3);
  const before = (await key.boundingBox())!;
  await page.mouse.move(before.x + 5, before.y + 5);
  await page.mouse.down();
  await page.mouse.move(before.x + 5, before.y - 25, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Tangent out of/ })).toBeVisible();
  await look(page, 'motion-curves');
});

test('the ray: an echo down its fin, a formula for its trunk, a cue that is set and seen, a part recorded and a path', async ({ page }) => {
  await openMotion(page, 'Lantern ray', 'glide');
  await page.getByRole('button', { name: 'Add clip', exact: true }).click();
  let kit = await kitOf(page);
  const { name: made } = Object.values(kit.clips).reduce((a, b) => (b.order > a.order ? b : a));
  await choosePart(page, 'l_fin_root');
  await setNumber(page, 'Turn z', 0);
  await goTo(page, 1);
  await setNumber(page, 'Turn z', 30);
  await goTo(page, 2);
  await setNumber(page, 'Turn z', 0);
  await useTool(page, 'Echo', 'Echo', { 'Later by': 0.2, Each: 0.5 });
  kit = await kitOf(page);
  const top = (part: string) => Math.max(...trackOf(kit, made, part, 'turn', 2)!.keys.map(({ value }) => value));
  expect([top('l_fin_root'), top('l_fin_mid'), top('l_fin_tip')]).toEqual([30, 15, 7.5]);

  await choosePart(page, 'trunk');
  await unfold(page, 'Formula');
  await choose(page, 'Moves', 'offset y');
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await formula.fill('0.1 * sine(tau * u)');
  await expect(page.getByRole('alert').filter({ hasText: 'There is no function “sine”' })).toContainText('character 7');
  await formula.fill('0.1 * sin(tau * u)');
  await page.getByRole('button', { name: 'Move it by this' }).click();
  await expect(find(page, '[data-row]').filter({ hasText: '= 0.1 * sin(tau * u)' })).toBeVisible();
  await page.getByRole('button', { name: 'Turn into keys' }).click();
  kit = await kitOf(page);
  expect(trackOf(kit, made, 'trunk', 'offset', 1)!.keys.length).toBeGreaterThan(2);

  await unfold(page, 'Cues and flags');
  await goTo(page, 0.5);
  await choose(page, 'At this time', 'an effect');
  await page.getByRole('button', { name: /^Set the cue/ }).click();
  await expect(find(page, '[data-cue="effect steam"]')).toBeVisible();
  await page.getByRole('textbox', { name: 'Name of the flag' }).fill('up');
  await page.getByRole('button', { name: 'Set the flag here' }).click();
  await expect(page.getByRole('button', { name: 'Flag up at 0.50 s' })).toBeVisible();
  await goTo(page, 0.9);
  await look(page, null);

  // Recorded: the head is dragged by its green arrow while time runs.
  await choosePart(page, 'head');
  await goTo(page, 0);
  await unfold(page, 'Record');
  await page.getByRole('button', { name: 'Record', exact: true }).last().click();
  await expect(page.getByText('time runs while you do')).toBeVisible();
  const view = (await page.getByRole('img', { name: /^Bench/ }).boundingBox())!;
  let recorded = false;
  for (const [dx, dy] of [
    [0, -40],
    [0, -55],
    [0, -70],
    [30, 0],
    [-30, 0],
  ]) {
    const middle = await headOnBench(page, kit);
    await page.mouse.move(middle.x + dx, middle.y + dy);
    await page.mouse.down();
    for (let i = 1; i <= 12; i++) {
      await page.mouse.move(middle.x + dx, Math.max(view.y + 5, middle.y + dy - 3 * i));
      await page.waitForTimeout(40);
    }
    await page.mouse.up();
    if (await page.getByTestId('recorded').count()) {
      recorded = true;
      break;
    }
  }
  expect(recorded).toBe(true);
  await expect(page.getByRole('img', { name: 'Offset as recorded and as written' })).toBeVisible();
  await expect(page.getByTestId('recorded-line')).toHaveCount(3);
  await expect(page.getByTestId('written-line')).toHaveCount(3);
  await look(page, null);
  await page.getByRole('button', { name: 'Write it into the clip' }).click();
  kit = await kitOf(page);
  expect(
    clipNamed(kit, made).tracks.some(
      (track) => track.kind === 'keys' && track.part === partNamed(kit, 'head') && track.property === 'offset',
    ),
  ).toBe(true);

  // A path through three points at the height of the tail.
  await choosePart(page, 'tail');
  await unfold(page, 'Path');
  await page.getByRole('button', { name: 'Place points on the bench' }).click();
  const [x, y, z] = headOf(restWorlds(kit), partNamed(kit, 'tail'));
  for (const point of [
    [x + 0.6, y, z],
    [x, y, z - 0.6],
    [x - 0.6, y, z],
  ] as const)
    await clickBench(page, point);
  await page.getByRole('button', { name: 'Send it along 3 points' }).click();
  kit = await kitOf(page);
  const path = trackOf(kit, made, 'tail', 'offset', 0)!;
  expect(path.keys[0].value).toBeCloseTo(0.6, 1);
  expect(path.keys[path.keys.length - 1].value).toBeCloseTo(-0.6, 1);
});

/** Where the head's pivot is on the screen: the middle of its handles. */
const headOnBench = (page: Page, kit: Kit) => onBench(page, headOf(restWorlds(kit), partNamed(kit, 'head')));

test('the keeper: a motion of the library tried on its skeleton, adjusted and put on; the trail of its hand', async ({ page }) => {
  await openMotion(page, 'Night-watch keeper', 'walk');
  await page.getByRole('button', { name: 'Motions' }).click();
  await page.getByRole('button', { name: /^Jig/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Tried, not done: clips 3 → 4' })).toBeVisible();
  await expect(page.getByTestId('contacts')).toBeVisible();
  await setNumber(page, 'Arms out', 10);
  await look(page, null);
  const drawer = page.getByRole('dialog', { name: 'Motions' });
  await drawer.getByRole('button', { name: 'Put it on' }).click();
  // One can be put on after another: the drawer stays until it is closed, by Esc wherever the keyboard is.
  await expect(drawer.getByText('“jig” is on.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(drawer).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^jig/ })).toBeVisible();
  const kit = await kitOf(page);
  expect(clipNamed(kit, 'jig').tracks.length).toBeGreaterThan(20);
  await useTool(page, 'Fit to the body', 'Fit it', { 'Arms out': 8, 'Hips, of their height': -8 });
  await choosePart(page, 'hand_l');
  await moreTools(page);
  await page.getByRole('button', { name: 'Trail' }).click();
  await page.getByRole('combobox', { name: 'Playback speed' }).selectOption('0.5');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.waitForTimeout(400);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await look(page, 'motion');
});

test('the keeper again: a joint is told what it is for, and a hand is copied to a twin whose axes lie askew', async ({ page }) => {
  await openDemo(page, 'Night-watch keeper');
  // Axes of the right hand, which no clip turns, are laid along it.
  await goToStage(page, 'Rig');
  await choosePart(page, 'hand_r');
  await unfold(page, 'Own axes');
  await page.getByRole('button', { name: 'Lay the axes so' }).click();
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: 'Add clip', exact: true }).click();
  const made = Object.values((await kitOf(page)).clips).find(({ tracks }) => tracks.length === 0)!.name;
  await choosePart(page, 'hand_l');
  await setNumber(page, 'Turn x', 0);
  await goTo(page, 1);
  await setNumber(page, 'Turn x', 50);
  await useTool(page, 'To the twin', 'Copy to the twin');
  let kit = await kitOf(page);
  const twins = clipNamed(kit, made).tracks.filter(({ part }) => part === partNamed(kit, 'hand_r'));
  expect(twins.length).toBeGreaterThan(1);
  // In the mirror of x a turn about x is the same one.
  const [left, right] = ['hand_l', 'hand_r'].map((name) => worldTurnOf(kit, made, name, 1));
  expect(angleBetweenQuats(left, quatFromTurn([50, 0, 0], 'xyz'))).toBeLessThan(0.1);
  expect(angleBetweenQuats(right, left)).toBeLessThan(0.1);

  await page.getByRole('button', { name: 'Motions' }).click();
  const drawer = page.getByRole('dialog', { name: 'Motions' });
  await drawer.getByRole('button', { name: /^Joints/ }).click();
  await drawer.getByRole('button', { name: 'The chosen part is the head' }).click();
  await expect(drawer.getByRole('combobox', { name: 'Part of the kit for head' })).toHaveText('hand_l');
  await expect(drawer.getByRole('combobox', { name: 'Part of the kit for left hand' })).toHaveText('none');
  await look(page, null);
  await choose(page, 'Part of the kit for right foot', 'none');
  await drawer.getByRole('button', { name: /^Wave/ }).click();
  await expect(drawer.getByText(/Not on this skeleton, and left out:.*right foot/)).toBeVisible();
  await drawer.getByRole('button', { name: 'By their names again' }).click();
  await expect(drawer.getByRole('combobox', { name: 'Part of the kit for head' })).toHaveText('head');
  kit = await kitOf(page);
  expect(kit.motionRoles).toBeUndefined();
});

test('the brass diver: the walk of another kit, matched by what its parts are for, tried, put on, and fitted further', async ({ page }) => {
  await openMotion(page, 'Brass diver’s jig', 'take 3');
  await page.getByRole('button', { name: 'Motions' }).click();
  await choose(page, 'Another kit', 'Night-watch keeper');
  const drawer = page.getByRole('dialog', { name: 'Motions' });
  await drawer.getByRole('button', { name: /^walk/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Tried, not done: clips 1 → 2' })).toBeVisible();
  await drawer.getByRole('button', { name: /^Matches/ }).click();
  await expect(drawer.getByRole('combobox', { name: 'Part of the kit for thigh_l' })).toHaveText('Leg_L');
  await look(page, null);
  await drawer.getByLabel('Left for right').check();
  await drawer.getByRole('button', { name: 'Put it on' }).click();
  await expect(drawer.getByText('“walk” is on.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(drawer).toHaveCount(0);
  const kit = await kitOf(page);
  const moved = new Set(clipNamed(kit, 'walk').tracks.map(({ part }) => kit.parts[part].name));
  expect([...moved].sort()).toEqual(expect.arrayContaining(['Arm_L', 'Arm_R', 'Leg_L', 'Leg_R']));
  await page.getByRole('combobox', { name: 'Times go onto' }).selectOption('free');
  await goTo(page, 0.1234);
  await expect(page.getByRole('textbox', { name: 'Time, seconds' })).toHaveValue('0.1234');
  await page.getByRole('combobox', { name: 'Times go onto' }).selectOption('10');
  await expect(page.getByRole('textbox', { name: 'Time, seconds' })).toHaveValue('0.1');
});

test('the periscope diver: what runs along, by the clip in view and by itself', async ({ page }) => {
  await openMotion(page, 'Periscope diver', 'blink');
  await unfold(page, 'Group and overlay');
  await choose(page, 'What it does', 'comes to what they do');
  await expect.poll(async () => clipNamed(await kitOf(page), 'blink').overlay).toEqual({ place: 'over', mode: 'add', parts: null });
  await page.getByRole('button', { name: 'An ordinary clip again' }).click();
  await expect.poll(async () => clipNamed(await kitOf(page), 'blink').overlay).toBeUndefined();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => clipNamed(await kitOf(page), 'blink').overlay?.mode).toBe('add');
  await page
    .getByRole('button', { name: /^stand/ })
    .first()
    .click();
  // One overlay can be left out of what runs along.
  await moreTools(page);
  await page.getByRole('button', { name: 'Overlays 1/1' }).click();
  await page.getByRole('menuitemcheckbox', { name: /^blink/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Overlays 0/1' })).toBeVisible();
});
