import { expect, test, type Page } from '@playwright/test';
import type { Kit, Vec3 } from '@itchkit/core/document';
import { restWorlds, rotateVector } from '@itchkit/core/geometry';
import { planksPng } from '@itchkit/demo';
import { useApplication } from '../application';
import { look } from '../look';
import {
  base,
  card,
  checked,
  choose,
  choosePart,
  clickBench,
  find,
  goToStage,
  kitOf,
  onBench,
  openDemo,
  saved,
  setNumber,
  takenIn,
  treeRow,
  unfold,
} from '../steps';

useApplication({ seed: true });

const partNamed = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!;

/** A hull of one piece, open to the front, with a flat vane inside whose leading edge is slanted. */
const LEADING: [Vec3, Vec3] = [
  [0, -0.6, 0.5],
  [0, 0.6, 0.2],
];
const HULL = `o hull
${[...LEADING, [0, 0.6, -0.5], [0, -0.6, -0.5], [-1, -1, -1], [1, -1, -1], [1, -1, 1], [-1, -1, 1], [1, 1, -1], [-1, 1, -1], [1, 1, 1]].map((v) => `v ${v.join(' ')}`).join('\n')}
f 1 2 3 4
f 5 8 7 6
f 5 6 9 10
f 6 7 11 9
`;

async function openHull(page: Page): Promise<void> {
  await page.goto(base());
  await page.getByLabel('Files for new kits').setInputFiles([{ name: 'hull.obj', mimeType: 'text/plain', buffer: Buffer.from(HULL) }]);
  await takenIn(page);
  await checked(page);
  await goToStage(page, 'Shape');
  await expect(page.getByRole('img', { name: /^Bench/ })).toHaveAttribute('data-view', /\d/);
}

test('a vane is cut from a hull by picking faces, hinged along its slanted edge, and swung to try it', async ({ page }) => {
  await openHull(page);
  await page.getByRole('button', { name: 'Faces', exact: true }).click();
  await clickBench(page, [0, 0, -0.1]);
  await expect(card(page)).toContainText('2 of 8 of hull');
  await page.getByRole('button', { name: 'Grow', exact: true }).click();
  await expect(card(page)).toContainText('2 of 8 of hull');
  await page.getByRole('textbox', { name: 'Name of the new part' }).fill('vane');
  await choose(page, 'Its pivot', 'where the old one is');
  await page.getByRole('button', { name: 'Split off 2 faces' }).click();
  await expect(treeRow(page, 'vane')).toBeVisible();

  await page.getByRole('button', { name: 'Points', exact: true }).click();
  for (const corner of LEADING) await clickBench(page, corner);
  await expect(card(page)).toContainText('corner of vane');
  await page.getByRole('button', { name: /^Keep distance/ }).click();
  await page.getByRole('button', { name: 'Hinge along 1 to 2' }).click();
  const kit = await kitOf(page);
  const vane = partNamed(kit, 'vane');
  const along = rotateVector(vane.rotation, [0, 1, 0]);
  const edge = LEADING[1].map((value, axis) => value - LEADING[0][axis]);
  const length = Math.hypot(...edge);
  along.forEach((value, axis) => expect(value).toBeCloseTo(edge[axis] / length, 5));
  vane.translation.forEach((value, axis) => expect(value).toBeCloseTo(LEADING[0][axis], 5));

  await unfold(page, 'Try the hinge');
  const swing = page.getByRole('slider', { name: 'Swing' });
  await swing.focus();
  for (let i = 0; i < 28; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('status').filter({ hasText: 'swings by 28° to try its hinge' })).toBeVisible();
  await look(page, null);
  await swing.blur();
  await expect(page.getByRole('status').filter({ hasText: 'swings' })).toHaveCount(0);
  // Dragged on the bench it swings too; let go, it stands at rest.
  const held = await onBench(page, [0, 0, -0.1]);
  await page.mouse.move(held.x, held.y);
  await page.mouse.down();
  await page.mouse.move(held.x + 30, held.y + 6, { steps: 4 });
  await expect(page.getByRole('status').filter({ hasText: /“vane” swings by \d+°/ })).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole('status').filter({ hasText: 'swings by' })).toHaveCount(0);
  const after = await kitOf(page);
  expect(after.parts).toEqual(kit.parts);
  expect(after.callouts).toHaveLength(1);
});

test('the cabinet: loose pieces, a pivot typed in another part’s axes, joined again', async ({ page }) => {
  await openDemo(page, 'Foghorn cabinet');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Cabinet');
  await unfold(page, 'Split');
  await page.getByRole('button', { name: /loose pieces$/ }).click();
  await expect(treeRow(page, 'Cabinet_2')).toBeVisible();
  await choosePart(page, 'Cabinet_2');
  await choose(page, 'Typed in the axes of', 'Horn');
  await setNumber(page, 'Pivot in the axes of Horn x', 0.25);
  await setNumber(page, 'Pivot in the axes of Horn y', -0.35);
  await setNumber(page, 'Pivot in the axes of Horn z', 0.9);
  const kit = await kitOf(page);
  const [horn, piece] = ['Horn', 'Cabinet_2'].map((name) => restWorlds(kit).get(partNamed(kit, name).id)!);
  [0.25, -0.35, 0.9].forEach((value, axis) => expect(piece[12 + axis] - horn[12 + axis]).toBeCloseTo(value, 5));
  await page.getByRole('button', { name: 'Middle of its mass' }).click();

  const pieces = Object.values(kit.parts).filter((part) => part.parent === partNamed(kit, 'Cabinet').id).length;
  await choosePart(page, 'Cabinet');
  await treeRow(page, 'Cabinet_2').click({ modifiers: ['ControlOrMeta'] });
  await unfold(page, 'Join');
  await choose(page, 'Name and pivot of', 'Cabinet');
  // Seen before it is done.
  await page.getByRole('button', { name: 'Join 2 parts into “Cabinet”' }).hover();
  await expect(page.getByRole('status').filter({ hasText: /^Tried, not done: parts \d+ → \d+/ })).toBeVisible();
  await expect(treeRow(page, 'Cabinet_2')).toBeVisible();
  await page.getByRole('button', { name: 'Join 2 parts into “Cabinet”' }).click();
  await expect(treeRow(page, 'Cabinet_2')).toHaveCount(0);
  expect(Object.values((await kitOf(page)).parts).filter((part) => part.name.startsWith('Cabinet_'))).toHaveLength(pieces - 1);
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('the halt: seats along a line and across the middle, the lamp simplified beside itself, set on the ground', async ({ page }) => {
  await openDemo(page, 'Hill tram halt');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Seat');
  await unfold(page, 'Repeat');
  await setNumber(page, 'Step x', -0.6);
  await page.getByRole('button', { name: 'Make 3 copies' }).click();
  await unfold(page, 'Mirror');
  await choose(page, 'Across', 'the length (z)');
  await setNumber(page, 'Plane at', 0.2);
  await page.getByRole('button', { name: 'Make “Seat_5”' }).click();
  expect(Object.values((await kitOf(page)).parts).filter((part) => part.name.startsWith('Seat'))).toHaveLength(5);

  await choosePart(page, 'Lamp');
  // A section of the Card is found by name too.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('simplify');
  await page.keyboard.press('Enter');
  await choose(page, 'Down to', 'an error at most');
  await setNumber(page, 'Error', 4);
  await expect(card(page)).toContainText(/1,200 → \d{2,3} triangles, off by [0-3]\.\d+ mm/);
  await expect(page.getByRole('status').filter({ hasText: 'Left: as it is. Right: as it would be' })).toBeVisible();
  await card(page).getByRole('button', { name: 'Simplify', exact: true }).last().scrollIntoViewIfNeeded();
  await look(page, null);
  await card(page).getByRole('button', { name: 'Simplify', exact: true }).last().click();
  await saved(page);
  await unfold(page, 'Align');
  await page.getByRole('button', { name: 'Onto the ground' }).click();
  const kit = await kitOf(page);
  expect(partNamed(kit, 'Lamp').translation[1]).toBeCloseTo(-0.6, 3);
  await unfold(page, 'Surface');
  await page.getByRole('button', { name: 'Compute normals' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
});

test('paint: a material made, coloured and given a picture; the picture resized; UVs looked at', async ({ page }) => {
  await openDemo(page, 'Hill tram halt');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Tram Car');
  await unfold(page, 'Materials');
  await page.getByLabel('Colour', { exact: true }).fill('#336699');
  await page.getByLabel('Colour', { exact: true }).blur();
  await setNumber(page, 'Roughness', 0.25);
  const [file] = await Promise.all([page.waitForEvent('filechooser'), choose(page, 'Colour picture', 'from a file …')]);
  await file.setFiles({ name: 'ticket.png', mimeType: 'image/png', buffer: Buffer.from(planksPng(100)) });
  await expect(page.getByRole('combobox', { name: 'Colour picture' })).toHaveText('ticket');
  await page.getByRole('button', { name: 'Tint to white' }).click();
  await unfold(page, 'UVs');
  await page.getByRole('button', { name: 'Look at its UVs' }).click();
  await expect(page.getByRole('img', { name: 'UV islands of Tram Car' })).toBeVisible();
  await expect(page.getByRole('dialog')).toContainText('Fingerprint');
  await look(page, null);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('toolbar').click({ position: { x: 2, y: 2 } });
  await page.keyboard.press('Escape');
  await unfold(page, 'Pictures');
  await card(page).getByRole('button', { name: 'To 128 × 128' }).click();
  const kit = await kitOf(page);
  const material = Object.values(kit.materials).find(({ roughness }) => roughness === 0.25)!;
  expect(material.baseColor).toEqual([1, 1, 1, 1]);
  expect(kit.images[material.baseColorTexture!.image]).toMatchObject({ name: 'ticket', width: 128, height: 128, mediaType: 'image/png' });
  await unfold(page, 'Size');
  await page.getByLabel('Show the tiles underneath').check();
  await choose(page, 'Size class as a box', /^Square/);
  await expect(card(page)).toContainText('3 × 2 of 2 m');
  await look(page, null);
});

test('numbers in the world’s axes, onto the step; kept measures; roles by name; a ring’s middle', async ({ page }) => {
  await openDemo(page, 'Hill tram halt');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Platform');
  await choose(page, 'In the axes of', 'the world');
  await setNumber(page, 'Position x', 0.123);
  await page.getByRole('button', { name: 'Onto the step' }).click();
  expect(partNamed(await kitOf(page), 'Platform').translation[0]).toBeCloseTo(0.12, 6);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();

  await page.keyboard.press('Escape');
  await page.keyboard.press('o');
  const corners: Vec3[] = [
    [-3, 0.6, -2],
    [-3, 0.6, 1],
  ];
  for (const corner of corners) await clickBench(page, corner);
  await page.getByRole('button', { name: 'Keep distance 3.0000 m' }).click();
  await page.keyboard.press('Escape');
  await unfold(page, 'Measures');
  await expect(card(page)).toContainText('3.0000 m');
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(card(page).getByRole('button', { name: /^Measures/ })).toHaveCount(0);

  await treeRow(page, 'Seat').dblclick();
  await page.getByRole('textbox', { name: 'New name' }).fill('seat-01');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Parents' }).click();
  await page.getByRole('menuitem', { name: /^Write the roles/ }).click();
  await expect.poll(async () => partNamed(await kitOf(page), 'seat-01').role).toBe('seat');
  expect((await onBench(page, [0, 0, 0])).x).toBeGreaterThan(0);
  await expect(find(page, '[data-part="seat-01"]')).toContainText('seat');
});
