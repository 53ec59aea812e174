import { expect, test, type Page } from '@playwright/test';
import { buildTideLockGlb, LOCK } from '@itchkit/demo';
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
    const entry = page.getByRole('button', { name: new RegExp(`^${variable}`) });
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
    await expect(card(page).getByText(/^In the mirror on the other side/)).toContainText(parts[parts.length - 1].replace('left', 'right'));
    await hands.choose('Index there', index);
    await this.hands.button('Give it to the other side');
    await saved(page);
  }
}

/** A panel on the gate’s front, and two of its corners: the edge on which it is hung. */
const ON_PANEL = [0.7, 1.25, 0.08] as const;
const EDGE = [
  [0.02, 0.45, 0.08],
  [0.02, 2.75, 0.08],
] as const;
const across = ([x, y, z]: readonly number[]) => [-x, y, z];

for (const way of ['mouse', 'keyboard'] as const satisfies Way[])
  test(`from the lock’s file, by ${way}: a face split out and hinged, wired, linked, blurred, mirrored, given a late level, tried and packaged`, async ({
    page,
  }) => {
    const hands = new JobHands(page, way);
    const wirer = new Wirer(page, hands);
    await page.goto(base());
    await hands.bring('tide-lock.glb', await buildTideLockGlb(), page.getByRole('button', { name: 'New kit from a file' }));
    await page.waitForURL('**/intake');
    await hands.press('for Brinework', page.getByRole('dialog').getByRole('button', { name: /^Brinework/ }));
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await checked(page);
    await hands.press('mend all safe', page.getByRole('button', { name: /Mend all safe/ }));
    await checked(page);

    // The face that is to be a shutter, on its own hinge.
    await hands.toStage('Shape');
    await hands.part('drv_gate_left');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('look from the front');
    await page.keyboard.press('Enter');
    await hands.button('Faces');
    await hands.bench('the panel', ON_PANEL);
    await expect(card(page)).toContainText(/[12] of \d+ of drv_gate_left/);
    await hands.button('Grow');
    await hands.type('call it', page.getByRole('textbox', { name: 'Name of the new part' }), 'drv_shutter');
    await hands.choose('Its pivot', 'where the old one is');
    await hands.press('split off', page.getByRole('button', { name: /^Split off \d+ faces/ }));
    await expect(treeRow(page, 'drv_shutter')).toBeVisible();
    await hands.button('Points');
    for (const corner of EDGE) await hands.bench('a corner', corner);
    await hands.button('Hinge along 1 to 2');
    const shutter = partNamed(await kitOf(page), 'drv_shutter');
    expect(Math.abs(rotateVector(shutter.rotation, [0, 1, 0])[1])).toBeCloseTo(1, 5);
    await hands.button('Points');
    await expect(button(page, 'Points')).toHaveAttribute('aria-pressed', 'false');

    for (const [part, place] of [
      ['drv_gate_left', LOCK.gateHinge],
      ['drv_strut_left', LOCK.strutHinge],
      ['drv_arm_left', LOCK.armHinge],
      ['drv_wheel_left', LOCK.wheel],
      ['drv_wheel_right', across(LOCK.wheel)],
      ['drv_gate_right', across(LOCK.gateHinge)],
      ['drv_strut_right', across(LOCK.strutHinge)],
      ['drv_arm_right', across(LOCK.armHinge)],
      ['drv_pump_wheel', LOCK.pump],
      ['drv_hook', LOCK.hook],
    ] as const) {
      await hands.part(part);
      await wirer.place('Pivot in the world', place);
    }

    // The left side: gate, what holds it, and the wheel that rolls.
    await hands.toStage('Wiring');
    await wirer.bind('drv_gate_left', 'lock_gate_swing');
    await hands.button('Table');
    await hands.number('turn y at 78', -78);
    await hands.button('Stations');
    await expect(verdict(page)).toHaveAttribute('data-verdict', 'right');
    await hands.parts(['drv_strut_left', 'drv_arm_left']);
    await hands.unfold('Links');
    await wirer.place(
      'Meet at',
      LOCK.joint.map((metres) => 1000 * metres),
    );
    await hands.button('Work it out');
    await expect(card(page).getByText(/^lock_gate_swing\[0\]: \d+ rows/)).toBeVisible();
    await wirer.bind('drv_gantry', 'trolley_way');
    await hands.part('drv_wheel_left');
    await hands.unfold('Links');
    await hands.button('Work it out');
    await expect(card(page).getByText(/^trolley_way\[0\]: \d+ rows/)).toBeVisible();

    // The right side is made of the left one.
    await wirer.giveToOtherSide(['drv_gate_left', 'drv_arm_left'], '1');
    await wirer.giveToOtherSide(['drv_wheel_left'], '0, as here');
    await expect.poll(async () => (await kitOf(page)).links?.length).toBe(4);
    let kit = await kitOf(page);
    expect(['gate', 'strut', 'arm', 'wheel'].map((word) => bindingOf(kit, `drv_${word}_right`).index)).toEqual([1, 1, 1, 0]);

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

    // The wheel, still and blurred; and the hook, which gets a level below which it goes on as before.
    await wirer.bind('drv_pump_wheel', 'pump_wheel_phase');
    await hands.button('Table');
    await hands.number('turn x at 360', 360);
    await hands.choose('Beyond the table', /begin again/);
    await hands.unfold('Shown and hidden');
    await hands.button('Make a blurred stand-in');
    await expect(treeRow(page, 'pump_wheel_blurred')).toBeVisible();
    await wirer.bind('drv_hook', 'crane_hoist_drop');
    const hoist = bindingOf(await kitOf(page), 'drv_hook').rows;
    await hands.part('drv_hook');
    await hands.unfold('Chain');
    await hands.button('Put a carrier above');
    await wirer.bind('drv_hook_carrier', 'crane_slew_angle');
    kit = await kitOf(page);
    expect(bindingOf(kit, 'drv_hook').rows).toEqual(hoist);
    await expect(find(page, '[data-finding][data-grade=stop]')).toHaveText([]);

    await hands.toStage('Trial');
    await expect(find(page, '[data-trial=running]')).toBeVisible();
    await hands.button('Duties');
    await hands.choose('Duty', 'A gate test');
    await hands.button('Play the duty');
    await expect(page.getByRole('status', { name: 'Time in the duty' })).not.toHaveText('0.0 s');
    await hands.button('Stop the duty');
    await hands.toStage('Ship');
    await hands.button('Build package');
    await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
  });
