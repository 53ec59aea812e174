import { expect, test, type Page } from '@playwright/test';
import { buildSluiceCraneGlb, CRANE, STAYS } from '@itchkit/demo';
import type { Kit } from '@itchkit/core/document';
import { rotateVector } from '@itchkit/core/geometry';
import { useApplication } from '../application';
import type { Way } from '../hands';
import { JobHands } from '../job-hands';
import { base, card, checked, find, kitOf, saved, treeRow } from '../steps';

useApplication({ seed: false });

const partNamed = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!;
const bindingOf = (kit: Kit, part: string) => Object.values(kit.bindings).find((binding) => kit.parts[binding.part].name === part)!;
const verdict = (page: Page) => find(page, '[data-verdict]');
const button = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** The job’s steps, as often as they come, by whatever the hands work with. */
class Wirer {
  constructor(
    readonly page: Page,
    readonly hands: JobHands,
  ) {}

  async place(label: string, place: readonly number[]): Promise<void> {
    for (const [axis, name] of ['x', 'y', 'z'].entries()) await this.hands.number(`${label} ${name}`, place[axis]);
  }

  /** Binds a part to a variable of the catalogue, as it is proposed. */
  async bind(part: string, variable: string): Promise<void> {
    const { page, hands } = this;
    await hands.part(part);
    await hands.type('look for', page.getByRole('searchbox', { name: 'Search' }), variable);
    const entry = page.getByRole('button', { name: new RegExp(`^${variable}(?!_order)`) });
    await expect(entry).toHaveCount(1);
    if ((await entry.getAttribute('aria-expanded')) !== 'true') await hands.press(variable, entry);
    await this.hands.button(`Bind ${part}`);
    await checked(page);
  }

  async giveToOtherSide(parts: readonly string[], index: string): Promise<void> {
    const { page, hands } = this;
    await hands.parts(parts);
    await this.hands.unfold('Chain');
    // The Card is that of these parts by then: it names who gets it.
    await expect(card(page).getByText(/^In the mirror on the other side/)).toContainText(parts[parts.length - 1].replace(/_r$/, '_l'));
    await hands.choose('Index there', index);
    await this.hands.button('Give it to the other side');
    await saved(page);
  }
}

/** What is driven, by the names that the file gives. */
const DRIVEN = [
  ...['Boom', 'Boom Stay', 'Mast Stay', 'Hook-Block', 'Hoist Rope', 'Gate Leaf', 'Pump Wheel'],
  ...['Trolley', 'Trolley Wheel L', 'Trolley Wheel R', 'Tide Gate L', 'Tide Gate R'],
];

const [ax, , az] = CRANE.axis;
const [gx, , gz] = CRANE.gate;
const [rx, ry, rz] = CRANE.trolley;
const gateHinge = (x: 1 | -1) => [gx + x * CRANE.gateHinge.aside, 0, gz - CRANE.gateHinge.behind];
const wheelAxle = (x: 1 | -1) => [rx + x * CRANE.wheelAside, ry, rz];
/** A panel on the left gate’s back, and just inside two of its corners: the edge on which it is hung. */
const BACK = gz - CRANE.gateHinge.behind - 0.05;
const ON_PANEL = [gx + 0.5, 0.9, BACK] as const;
const EDGE = [
  [gx + 0.04, 0.07, BACK],
  [gx + 0.04, 2.53, BACK],
] as const;

for (const way of ['mouse', 'keyboard'] as const satisfies Way[])
  test(`from the crane’s file, by ${way}: a face split out and hinged, wired, linked, blurred, mirrored, given a late level, tried and packaged`, async ({
    page,
  }) => {
    const hands = new JobHands(page, way);
    const wirer = new Wirer(page, hands);
    await page.goto(base());
    await hands.bring('sluice-crane.glb', await buildSluiceCraneGlb(), page.getByRole('button', { name: 'New kit from a file' }));
    await page.waitForURL('**/intake');
    await hands.press('for Brinework', page.getByRole('dialog').getByRole('button', { name: /^Brinework/ }));
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await hands.press('centimetres', page.getByRole('radio', { name: /^centimetres/ }));
    await expect(page.getByText('Taken in centimetres.')).toBeVisible();
    await checked(page);

    // What moves is said before anything is named.
    await hands.toStage('Shape');
    await hands.parts(DRIVEN);
    await hands.choose('Role', 'driven');
    await hands.press('mend all safe', page.getByRole('button', { name: /^Mend all safe/ }));
    await checked(page);
    await hands.press('look at the others', page.getByRole('button', { name: /^Look at \d+ more mends?/ }));
    const mends = page.getByRole('dialog', { name: 'What these mends would change' });
    await hands.press('mend them', mends.getByRole('button', { name: /^Mend \d+ findings?/ }));
    await expect(mends).toHaveCount(0);
    await checked(page);

    // The face that is to be a shutter, on its own hinge.
    await hands.part('drv_tide_gate_l');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('look from the back');
    await page.keyboard.press('Enter');
    await hands.button('Faces');
    await hands.bench('the panel', ON_PANEL);
    await expect(card(page)).toContainText(/[12] of \d+ of drv_tide_gate_l/);
    await hands.button('Grow');
    await hands.type('call it', page.getByRole('textbox', { name: 'Name of the new part' }), 'drv_shutter');
    await hands.choose('Its pivot', 'where the old one is');
    await hands.press('split off', page.getByRole('button', { name: /^Split off \d+ faces/ }));
    await expect(treeRow(page, 'drv_shutter')).toBeVisible();
    await hands.button('Points');
    // What was said about mends lies over the lower corner for a while.
    await expect(page.getByText(/findings mended, as one step/)).toHaveCount(0);
    for (const corner of EDGE) await hands.bench('a corner', corner);
    await hands.button('Hinge along 1 to 2');
    const shutter = partNamed(await kitOf(page), 'drv_shutter');
    expect(Math.abs(rotateVector(shutter.rotation, [0, 1, 0])[1])).toBeCloseTo(1, 5);
    await hands.button('Points');
    await expect(button(page, 'Points')).toHaveAttribute('aria-pressed', 'false');

    for (const [part, place] of [
      ['drv_turntable', [ax, 0.8, az]],
      ['drv_boom', CRANE.hinge],
      ['drv_boom_stay', STAYS.boomPin],
      ['drv_mast_stay', STAYS.mastPin],
      ['drv_pump_wheel', CRANE.wheel],
      ['drv_trolley', CRANE.trolley],
      ['drv_trolley_wheel_r', wheelAxle(-1)],
      ['drv_trolley_wheel_l', wheelAxle(1)],
      ['drv_tide_gate_r', gateHinge(-1)],
      ['drv_tide_gate_l', gateHinge(1)],
    ] as const) {
      await hands.part(part);
      await wirer.place('Pivot in the world', place);
    }

    // What slews, luffs and hoists; two stays that meet above the boom; a wheel that rolls; one gate.
    await hands.toStage('Wiring');
    await wirer.bind('drv_turntable', 'crane_slew_angle');
    await wirer.bind('drv_boom', 'crane_luff_angle');
    await hands.button('Table');
    await hands.number('turn x at -20', 20);
    await hands.number('turn x at 55', -55);
    await hands.button('Stations');
    await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
    await wirer.bind('drv_hook_block', 'crane_hoist_drop');
    await wirer.bind('drv_hoist_rope', 'crane_hoist_drop');
    await wirer.bind('drv_gate_leaf', 'gate_lift');
    await hands.parts(['drv_boom_stay', 'drv_mast_stay']);
    await hands.unfold('Links');
    await wirer.place(
      'Meet at',
      STAYS.joint.map((metres) => 1000 * metres),
    );
    await hands.button('Work it out');
    await expect(card(page).getByText(/^crane_luff_angle\[0\]: \d+ rows/)).toBeVisible();
    await wirer.bind('drv_trolley', 'trolley_way');
    await hands.part('drv_trolley_wheel_r');
    await hands.unfold('Links');
    await hands.button('Work it out');
    await expect(card(page).getByText(/^trolley_way\[0\]: \d+ rows/)).toBeVisible();
    await wirer.bind('drv_tide_gate_r', 'lock_gate_swing');
    await hands.button('Table');
    await hands.number('turn y at 78', 78);
    await hands.button('Stations');
    await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');

    // The left one is made of the right one.
    await wirer.giveToOtherSide(['drv_tide_gate_r'], '1');
    await wirer.giveToOtherSide(['drv_trolley_wheel_r'], '0, as here');
    await expect.poll(async () => (await kitOf(page)).links?.length).toBe(3);
    let kit = await kitOf(page);
    expect(['tide_gate', 'trolley_wheel'].map((word) => bindingOf(kit, `drv_${word}_l`).index)).toEqual([1, 0]);
    expect(bindingOf(kit, 'drv_tide_gate_l').rows.at(-1)!.turn.map((degrees) => Math.round(degrees))).toEqual([0, -78, 0]);

    // The shutter: stations at ± 20 degrees, the wrong way round as it turns out.
    await wirer.bind('drv_shutter', 'crane_slew_angle');
    await hands.button('Table');
    for (const [row, end, station] of [
      [2, -170, -20],
      [3, 170, 20],
    ]) {
      await hands.number(`turn y at ${end}`, -station);
      await hands.number(`Value of row ${row}`, station);
    }
    await hands.button('Stations');
    await expect(verdict(page)).toHaveAttribute('data-verdict', 'wrong');
    await hands.press('turn round', verdict(page).getByRole('button', { name: 'Turn its way round' }));
    await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
    kit = await kitOf(page);
    expect(bindingOf(kit, 'drv_shutter').rows.map(({ value, turn }) => [value, Math.round(Math.abs(turn[1]))])).toEqual([
      [0, 0],
      [-20, 20],
      [20, 20],
    ]);

    // Beyond its stations the platform would stop it short: the table is completed as that would do.
    const short = find(page, '[data-finding]').filter({ hasText: 'Table does not cover the range' }).locator('..');
    await hands.press('look at the mend', short.getByRole('button', { name: / …$/ }));
    await hands.press('complete it', find(page, '[role=dialog] .MuiButton-contained'));
    await expect(page.getByRole('dialog')).toHaveCount(0);

    // The wheel, still and blurred; and the trolley, which gets a level below which it goes on as before.
    await wirer.bind('drv_pump_wheel', 'pump_wheel_phase');
    await hands.button('Table');
    await hands.number('turn x at 360', 360);
    await hands.choose('Beyond the table', /begin again/);
    await hands.unfold('Shown and hidden');
    await hands.button('Make a blurred stand-in');
    await expect(treeRow(page, 'pump_wheel_blurred')).toBeVisible();
    const along = bindingOf(await kitOf(page), 'drv_trolley').rows;
    await hands.part('drv_trolley');
    await hands.unfold('Chain');
    await hands.button('Put a carrier above');
    await wirer.bind('drv_trolley_carrier', 'crane_slew_angle');
    kit = await kitOf(page);
    expect(bindingOf(kit, 'drv_trolley').rows).toEqual(along);
    await expect(find(page, '[data-finding][data-grade=stop]')).toHaveText([]);

    await hands.toStage('Trial');
    await expect(find(page, '[data-trial=running]')).toBeVisible();
    await hands.button('Duties');
    await hands.choose('Duty', 'A rolling trolley');
    await hands.button('Play the duty');
    await expect(page.getByRole('status', { name: 'Time in the duty' })).not.toHaveText('0.0 s');
    await hands.button('Stop the duty');
    await hands.toStage('Ship');
    await hands.button('Build package');
    await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
  });
