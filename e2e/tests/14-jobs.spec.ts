import { expect, test, type Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { buildFoghornCabinetGlb, buildHillTramHaltGlb, buildNightWatchKeeperGlb, buildSluiceCraneGlb, planksPng } from '@itchkit/demo';
import { useApplication } from '../application';
import { Hands, type Way } from '../hands';
import { base, checked, find, saved } from '../steps';

useApplication({ seed: false });

const stops = (page: Page) => find(page, '[data-finding][data-grade=stop]');
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name });
const ofFinding = (page: Page, title: string, name: string | RegExp) =>
  find(page, '[data-finding]').filter({ hasText: title }).locator('..').getByRole('button', { name });

interface Start {
  file: string;
  bytes: Uint8Array;
  platform: string;
  unit: string;
}

/** From the shelf to a kit that is settled, with all that is safe mended, and all that asks looked at and mended. */
async function takeIn(page: Page, hands: Hands, { file, bytes, platform, unit }: Start): Promise<void> {
  await page.goto(base());
  await hands.bring(file, bytes, button(page, 'New kit from a file'));
  await page.waitForURL('**/intake');
  await hands.press(`for ${platform}`, page.getByRole('dialog').getByRole('button', { name: new RegExp(`^${platform}`) }));
  await hands.press(unit, page.getByRole('radio', { name: new RegExp(`^${unit}`) }));
  await expect(page.getByText(`Taken in ${unit}.`)).toBeVisible();
  await checked(page);
}

async function mendSafe(page: Page, hands: Hands): Promise<void> {
  await hands.press('mend all safe', button(page, /^Mend all safe/));
  await checked(page);
}

/** All mends that ask are told with what they would change; one step of undo takes them back. */
async function mendAsked(page: Page, hands: Hands, first: RegExp): Promise<void> {
  await hands.press('look at the others', button(page, /^Look at \d+ more mends?/));
  const dialog = page.getByRole('dialog', { name: 'What these mends would change' });
  await expect(dialog.getByRole('checkbox', { name: first })).toBeChecked();
  await hands.press('mend them', dialog.getByRole('button', { name: /^Mend \d+ findings?/ }));
  await expect(dialog).toHaveCount(0);
  await checked(page);
}

/** A mend that asks, by itself. */
async function mendOne(page: Page, hands: Hands, title: string): Promise<void> {
  await hands.press(`look at the mend of ${title}`, ofFinding(page, title, / …$/));
  await hands.press('mend it', find(page, '[role=dialog] .MuiButton-contained'));
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await checked(page);
}

async function toStage(page: Page, hands: Hands, stage: string): Promise<void> {
  const link = page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: new RegExp(`^${stage}`) });
  await hands.press(`to ${stage}`, link);
  await page.waitForURL(`**/${stage.toLowerCase()}`);
}

async function ship(page: Page, hands: Hands, name: string): Promise<void> {
  await checked(page);
  await expect(stops(page)).toHaveCount(0);
  await saved(page);
  await toStage(page, hands, 'Ship');
  await hands.press('build', button(page, 'Build package'));
  const link = page.getByRole('link', { name: 'Download' });
  await expect(link).toBeVisible({ timeout: 60_000 });
  const download = page.waitForEvent('download');
  await hands.press('download', link);
  expect((await download).suggestedFilename()).toBe(name);
}

function atMost(hands: Hands, most: number): void {
  test.info().annotations.push({ type: 'actions', description: `${hands.done.length}: ${hands.done.join('; ')}` });
  expect(hands.done.length, hands.done.join('; ')).toBeLessThanOrEqual(most);
}

const JOBS: Record<string, { most: number; work: (page: Page, hands: Hands) => Promise<void> }> = {
  crane: {
    most: 14,
    async work(page, hands) {
      await takeIn(page, hands, {
        file: 'sluice-crane.glb',
        bytes: await buildSluiceCraneGlb(),
        platform: 'Brinework',
        unit: 'centimetres',
      });
      await mendSafe(page, hands);
      await mendAsked(page, hands, /^Normals missing/);
      // What is left is a decision: what moves the turntable.
      await expect(stops(page)).toHaveText([/Driven part with no binding/]);
      await hands.press('show the driven part', button(page, 'Show me').first());
      await page.waitForURL('**/wiring');
      await hands.press('the slew angle', button(page, /^crane_slew_angle/));
      await hands.press('bind it', button(page, 'Bind drv_turntable'));
      await ship(page, hands, 'sluice_crane-brinework.zip');
    },
  },
  halt: {
    most: 18,
    async work(page, hands) {
      await takeIn(page, hands, { file: 'hill-tram-halt.glb', bytes: await buildHillTramHaltGlb(), platform: 'Plotwick', unit: 'metres' });
      await mendSafe(page, hands);
      await toStage(page, hands, 'Motion');
      await hands.press('a clip', page.getByRole('button', { name: 'Add clip', exact: true }));
      // Its lamp swings, and comes back to where it began.
      await hands.part('lamp');
      const [turn, time] = ['Turn z', 'Time, seconds'].map((name) => page.getByRole('textbox', { name, exact: true }));
      await hands.type('turned', turn, '0');
      await hands.type('at', time, '1');
      await hands.type('turned', turn, '20');
      await hands.type('at', time, '2');
      await hands.type('turned', turn, '0');
      await checked(page);
      // What is left asks: faces, the state that plays the clip, a price and a kind.
      await mendAsked(page, hands, /^A clip that no state plays/);
      await ship(page, hands, 'hill_tram_halt-plotwick.zip');
    },
  },
  keeper: {
    most: 18,
    async work(page, hands) {
      const bytes = await buildNightWatchKeeperGlb();
      await takeIn(page, hands, { file: 'night-watch-keeper.glb', bytes, platform: 'Emberfold', unit: 'metres' });
      await hands.press('show what has no joints', ofFinding(page, 'Joints are missing', /^(Show me|Go to )/));
      await page.waitForURL('**/rig');
      await hands.press('fit', button(page, 'Fit to the body'));
      const make = button(page, 'Make 20 joints');
      await expect(make).toBeVisible({ timeout: 30_000 });
      await hands.press('make joints', make);
      await hands.press('weights', page.getByRole('button', { name: 'Weights', exact: true }));
      await hands.press('solve', button(page, 'Solve the weights of “body”'));
      await expect(page.getByText('Shares by joint')).toBeVisible({ timeout: 30_000 });
      await checked(page);
      await mendAsked(page, hands, /^Clip “idle” is missing/);
      await ship(page, hands, 'night_watch_keeper-emberfold.zip');
    },
  },
  cabinet: {
    most: 18,
    async work(page, hands) {
      const bytes = await buildFoghornCabinetGlb();
      await takeIn(page, hands, { file: 'foghorn-cabinet.glb', bytes, platform: 'Lantern Lot', unit: 'centimetres' });
      await mendSafe(page, hands);
      await mendAsked(page, hands, /^Texture of an odd size/);
      await hands.press('show what nothing holds', ofFinding(page, 'Bodies that nothing holds', /^(Show me|Go to )/));
      await page.waitForURL('**/rig');
      await hands.press('couple', button(page, 'Couple two bodies …'));
      await hands.choose('Axis', 'x');
      await hands.press('couple them', button(page, /^Couple “/));
      await ship(page, hands, 'foghorn_cabinet-lanternlot.zip');
    },
  },
  crate: {
    most: 12,
    async work(page, hands) {
      await takeIn(page, hands, { file: 'crate.zip', bytes: crate(), platform: 'Lantern Lot', unit: 'metres' });
      await mendSafe(page, hands);
      await mendOne(page, hands, 'No bodies');
      await ship(page, hands, 'crate-lanternlot.zip');
    },
  },
};

/** Somebody’s crate with a lid: OBJ, MTL and a picture in a ZIP, in metres. */
function crate(): Uint8Array {
  const corners = [0, 1].flatMap((y) => [
    [-0.4, y, -0.3],
    [0.4, y, -0.3],
    [0.4, y, 0.3],
    [-0.4, y, 0.3],
  ]);
  const sides = ['1 2 3 4', '5 8 7 6', '1 5 6 2', '2 6 7 3', '3 7 8 4', '4 8 5 1'].map((side) => side.split(' ').map(Number));
  const solid = (name: string, bottom: number, height: number, after: number) =>
    [
      `o ${name}`,
      ...corners.map(([x, y, z]) => `v ${x} ${bottom + y * height} ${z}`),
      'usemtl planks',
      ...sides.map((side) => `f ${side.map((corner, k) => `${corner + after}/${k + 1}`).join(' ')}`),
    ].join('\n');
  const obj = ['mtllib crate.mtl', 'vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1', solid('Crate Body', 0, 0.5, 0), solid('Crate Lid', 0.5, 0.06, 8), ''];
  return zipSync({
    'crate/crate.obj': strToU8(obj.join('\n')),
    'crate/crate.mtl': strToU8('newmtl planks\nKd 1 1 1\nmap_Kd planks.png\n'),
    'crate/planks.png': planksPng(64),
  });
}

for (const way of ['mouse', 'keyboard'] satisfies Way[])
  for (const [name, { most, work }] of Object.entries(JOBS))
    test(`the ${name}, from the raw file to its package, in ${most} actions at most: by ${way}`, async ({ page }) => {
      const hands = new Hands(page, way);
      await work(page, hands);
      atMost(hands, most);
    });
