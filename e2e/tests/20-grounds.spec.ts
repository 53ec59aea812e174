import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildHillTramHaltOnTilesGlb } from '@itchkit/demo';
import { checkRulebook } from '@itchkit/core/rulebook';
import { useApplication } from '../application';
import { look } from '../look';
import {
  base,
  card,
  checked,
  choose,
  choosePart,
  dropFile,
  find,
  goToStage,
  kitOf,
  onBench,
  openCopy,
  saved,
  setNumber,
  takenIn,
  unfold,
} from '../steps';

useApplication({ seed: true });

const plotwick = () => checkRulebook(JSON.parse(readFileSync(join(import.meta.dirname, '../../rulebooks/plotwick.rulebook.json'), 'utf8')));

const stops = (page: Page) => find(page, '[data-finding][data-grade=stop]');
const counted = async (page: Page, key: string) => Number(await page.getByTestId('park').locator(`[data-count=${key}]`).textContent());

async function dragOnBench(page: Page, from: readonly [number, number, number], to: readonly [number, number, number]): Promise<void> {
  const [a, b] = [await onBench(page, from), await onBench(page, to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 3 });
  await page.mouse.move(b.x, b.y, { steps: 3 });
  await page.mouse.up();
}

test('from the halt’s file: tiles, seats upright, colliders, a way found and a knot moved, states, glow, facts, eight ride and leave, packaged', async ({
  page,
}) => {
  await page.goto(base());
  await dropFile(page, 'hill-tram-halt.glb', await buildHillTramHaltOnTilesGlb(plotwick()));
  await takenIn(page, 'Plotwick');
  await checked(page);
  await goToStage(page, 'Wiring');
  // Tiles, from where everything comes.
  await card(page).getByRole('button', { name: 'Take them from all that moves' }).click();
  await checked(page);
  expect((await kitOf(page)).grounds!.footprint).toEqual({ low: [-3, 0, -2], high: [3, 0, 2], holes: [] });

  // Seats that came in on their backs.
  await unfold(page, 'Seats');
  await expect(card(page).getByText('leans 90°')).toHaveCount(8);
  await card(page).getByRole('button', { name: 'Set all 8 upright' }).click();
  await checked(page);
  await expect(card(page).getByText('leans 90°')).toHaveCount(0);

  // A collider about the platform's post, and how well it fits.
  await choosePart(page, 'lamp');
  await unfold(page, 'Colliders');
  await card(page).getByRole('button', { name: 'A capsule' }).click();
  await checked(page);
  await expect(card(page).getByRole('list', { name: 'Colliders' })).toContainText('lamp, capsule');
  await expect(card(page).getByRole('list', { name: 'Colliders' })).toContainText('100 % inside');

  // The way, and one of its knots pulled aside on the bench; undo takes it back, and it is pulled again.
  await unfold(page, 'Walkway');
  await card(page).getByRole('button', { name: 'Find the way' }).click();
  await checked(page);
  const way = (await kitOf(page)).walkway!;
  expect(way.knots.filter(({ edge }) => edge)).toHaveLength(1);
  expect(way.knots.filter(({ boards }) => boards.length === 1)).toHaveLength(1);
  const board = way.knots.find(({ boards }) => boards.length === 1)!;
  const there = [board.at[0] - 0.3, board.at[1], board.at[2] - 0.2] as const;
  await dragOnBench(page, board.at, there);
  const moved = (await kitOf(page)).walkway!.knots.find(({ id }) => id === board.id)!;
  expect(Math.hypot(moved.at[0] - there[0], moved.at[2] - there[2])).toBeLessThan(0.1);
  // It keeps to what is under it.
  expect(moved.at[1]).toBeCloseTo(0.6, 2);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  expect((await kitOf(page)).walkway!.knots.find(({ id }) => id === board.id)!.at).toEqual(board.at);
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await checked(page);
  await look(page, null);

  // What plays while it runs, what shines by night, and the sheet of facts.
  await choose(page, 'Run plays', 'ride');
  await checked(page);
  await unfold(page, 'Night and paints');
  await card(page).getByRole('checkbox', { name: 'night-glow shines' }).check();
  await card(page).getByRole('checkbox', { name: 'See it by night' }).check();
  await look(page, null);
  await card(page).getByRole('checkbox', { name: 'See it by night' }).uncheck();
  await unfold(page, 'Sheet of facts');
  await setNumber(page, 'Price', 900);
  await choose(page, 'Kind', 'transport');
  await checked(page);
  await expect(card(page).getByRole('img', { name: /^900 pence: more than 9 of 15/ })).toBeVisible();
  // A mend may uncover another; what is checked meanwhile may settle the last, and its button goes while it is pressed.
  const safe = page.getByRole('button', { name: /^Mend all safe/ });
  await expect(async () => {
    await checked(page);
    if ((await safe.count()) > 0) await safe.click({ timeout: 2000 });
    await checked(page);
    await expect(safe).toHaveCount(0, { timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await expect(stops(page)).toHaveCount(0);
  await saved(page);

  // Eight come, ride and leave.
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible({ timeout: 60_000 });
  await setNumber(page, 'How many visitors come', 8);
  await choose(page, 'Time goes', /^16 times/);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => counted(page, 'left'), { timeout: 120_000 }).toBe(8);
  expect([await counted(page, 'rode'), await counted(page, 'stuck'), await counted(page, 'gaveUp')]).toEqual([8, 0, 0]);
  await look(page, null);
  await goToStage(page, 'Ship');
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible({ timeout: 60_000 });
});

test('tiles are drawn larger on the bench and opened to visitors; knots are put by clicking, joined, railed and taken away', async ({
  page,
}) => {
  await openCopy(page, 'Hill tram halt, finished');
  await goToStage(page, 'Wiring');
  await look(page, 'grounds');
  // By the handle in the middle of a side, to whole tiles.
  await dragOnBench(page, [3, 0, 0], [4.4, 0, 0]);
  await checked(page);
  expect((await kitOf(page)).grounds!.footprint!.high[0]).toBe(5);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await unfold(page, 'Tiles');
  const tile = card(page).getByRole('button', { name: 'Tile 3 across, 2 deep' });
  await tile.click();
  await expect(tile).toHaveAttribute('aria-pressed', 'true');
  expect((await kitOf(page)).grounds!.footprint!.holes).toEqual([[2, 0, 1]]);
  await unfold(page, 'Tiles');

  await unfold(page, 'Walkway');
  const before = (await kitOf(page)).walkway!;
  await card(page).getByRole('button', { name: 'Put knots by clicking' }).click();
  for (const point of [
    [2.4, 0, 1.8],
    [2.4, 0, 1.4],
  ] as const) {
    const { x, y } = await onBench(page, point);
    await page.mouse.click(x, y);
  }
  const now = (await kitOf(page)).walkway!;
  expect([now.knots.length, now.ropes.length]).toEqual([before.knots.length + 2, before.ropes.length + 1]);
  expect(Math.hypot(now.knots.at(-1)!.at[0] - 2.4, now.knots.at(-1)!.at[2] - 1.4)).toBeLessThan(0.05);
  await card(page).getByRole('button', { name: 'Put knots by clicking' }).click();
  await card(page).getByRole('checkbox', { name: 'rail' }).check();
  await card(page).getByRole('checkbox', { name: 'one way' }).check();
  await card(page).getByRole('button', { name: 'Turn round' }).click();
  const rope = (await kitOf(page)).walkway!.ropes.at(-1)!;
  expect([rope.rail, rope.oneWay, rope.from]).toEqual([true, true, now.knots.at(-1)!.id]);
  // By keyboard: the two new knots are chosen in the list and taken away.
  const list = card(page).getByRole('list', { name: 'Knots' });
  await list.getByRole('button', { name: /^Knot 5/ }).focus();
  await page.keyboard.press('Enter');
  await card(page).getByRole('button', { name: 'Take the knot away' }).click();
  await list.getByRole('button', { name: /^Knot 5/ }).click();
  await card(page).getByRole('button', { name: 'Take the knot away' }).click();
  expect((await kitOf(page)).walkway!.knots).toEqual(before.knots);
});

test('a ring lies round the edge where visitors can walk; a way is laid between two knots; heights by tile are said and drawn', async ({
  page,
}) => {
  await openCopy(page, 'Hill tram halt, finished');
  await goToStage(page, 'Wiring');
  await unfold(page, 'Tiles');
  // The car's roof reaches over each of the six tiles; the lamps are higher.
  const tiles = card(page).getByRole('group', { name: 'Tiles that visitors may cross' }).getByRole('button');
  await expect(tiles).toHaveCount(6);
  await expect(tiles.first()).toHaveAttribute('title', /^up to 3\.\d+ m$/);
  await card(page).getByRole('checkbox', { name: 'Show how high it stands on each tile' }).check();
  await look(page, null);

  await unfold(page, 'Walkway');
  const before = (await kitOf(page)).walkway!;
  await card(page).getByRole('button', { name: 'Ring round the edge' }).click();
  // Along the back the platform stands at the very edge: the ring is open there, and says so.
  await expect(page.getByText(/^The ring is open at \d+ places?: something stands there$/)).toBeVisible();
  const ring = (await kitOf(page)).walkway!;
  expect(ring.knots.filter(({ edge }) => edge).length).toBeGreaterThan(before.knots.filter(({ edge }) => edge).length);
  await checked(page);
  await expect(stops(page)).toHaveCount(0);

  const list = card(page).getByRole('list', { name: 'Knots' });
  const boards = list.getByRole('button', { name: /boards/ });
  await boards.click();
  // The foot of the stairs, where the way that was found comes from the park.
  await list
    .getByRole('button', { name: /joined to the park/ })
    .first()
    .click({ modifiers: ['Shift'] });
  await card(page).getByRole('button', { name: 'Lay the way between, up stairs and ramps' }).click();
  await expect.poll(async () => (await kitOf(page)).walkway!.ropes.length).toBeGreaterThan(ring.ropes.length);
  await checked(page);
  await expect(stops(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect.poll(async () => (await kitOf(page)).walkway!.knots).toEqual(before.knots);
});

test('in the park the carousel rides, by night and on a hillside; who can’t come is told why', async ({ page }) => {
  await openCopy(page, 'Tide carousel');
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('list', { name: 'Import log' })).toContainText('3 × 3 tiles');
  await choose(page, 'Time goes', /^16 times/);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => counted(page, 'rides'), { timeout: 60_000 }).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Night' }).check();
  await look(page, 'trial-park');
  await page.getByRole('checkbox', { name: 'Night' }).uncheck();
  await choose(page, 'It stands on', 'a hillside');
  await expect(page.getByText(/^By \d edges? nobody comes/)).toBeVisible();
  expect(await counted(page, 'came')).toBe(0);
  await page.getByRole('button', { name: /^Turn it by a quarter/ }).click();
  await expect(page.getByRole('button', { name: 'Turn it by a quarter, now 90°' })).toBeVisible();
});
