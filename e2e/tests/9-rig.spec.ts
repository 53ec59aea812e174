import { expect, test, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { MemoryBlobs, type Kit, type Vec3 } from '@itchkit/core/document';
import { couplingInWorld, flattenParts, Poser, posedVertices, restWorlds } from '@itchkit/core/geometry';
import { headOf, jointsInOrder, strikePose, wholePoses } from '@itchkit/core/rig';
import { checkRulebook } from '@itchkit/core/rulebook';
import { writeGlb } from '@itchkit/core/ship';
import { nightWatchKeeper } from '@itchkit/demo';
import { useApplication } from '../application';
import { look } from '../look';
import {
  card,
  checked,
  choose,
  choosePart,
  finding,
  goToStage,
  kitOf,
  onBench,
  openDemo,
  saved,
  setNumber,
  treeRow,
  unfold,
} from '../steps';
import { threeReader } from '../three-reader';

useApplication({ seed: true });

const idOf = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!.id;
const headIn = (kit: Kit, name: string): Vec3 => headOf(restWorlds(kit), idOf(kit, name));
const weightsIn = (kit: Kit) =>
  kit.meshes[kit.parts[idOf(kit, 'body')].mesh!].primitives.map(({ attributes }) => attributes.WEIGHTS_0?.blob);
const mode = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();

async function drag(page: Page, from: Vec3, by: [number, number]): Promise<void> {
  const { x, y } = await onBench(page, from);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + by[0] / 2, y + by[1] / 2, { steps: 3 });
  await page.mouse.move(x + by[0], y + by[1], { steps: 3 });
  await page.mouse.up();
}

test('the keeper: a skeleton fitted and a pin dragged, weights solved, brushed, mirrored, posed and compared', async ({ page }) => {
  await openDemo(page, 'Night-watch keeper, unrigged');
  await goToStage(page, 'Rig');
  await expect(page.getByRole('img', { name: /^Bench/ })).toHaveAttribute('data-view', /\d/);
  await unfold(page, 'Fit a skeleton');
  await page.getByRole('button', { name: 'Fit to the body' }).click();
  await expect(page.getByRole('button', { name: 'Make 20 joints' })).toBeVisible({ timeout: 30_000 });
  // The elbow is put a little lower; its twin and its neighbours go along.
  await drag(page, [0.408, 1.139, -0.018], [6, 14]);
  await look(page, 'rig-fit');
  await page.getByRole('button', { name: 'Make 20 joints' }).click();
  let kit = await kitOf(page);
  expect(jointsInOrder(kit)).toHaveLength(20);
  const elbow = headIn(kit, 'forearm_l');
  expect(elbow[1]).toBeLessThan(1.13);
  headIn(kit, 'forearm_r').forEach((value, axis) => expect(value).toBeCloseTo(axis === 0 ? -elbow[0] : elbow[axis], 6));

  await mode(page, 'Weights');
  await unfold(page, 'Solve');
  await page.getByRole('button', { name: 'Solve the weights of “body”' }).click();
  await expect(page.getByText('Shares by joint')).toBeVisible({ timeout: 30_000 });
  await card(page)
    .getByRole('button', { name: /^forearm_l/ })
    .click();
  await look(page, 'rig-weights');
  const solved = weightsIn(await kitOf(page));

  await page.keyboard.press('b');
  await expect(page.getByRole('status').filter({ hasText: 'Brushing weights' })).toBeVisible();
  await drag(page, [0.3, 1.28, 0.05], [12, 8]);
  await expect.poll(async () => weightsIn(await kitOf(page))).not.toEqual(solved);
  const brushed = weightsIn(await kitOf(page));
  await page.keyboard.press('b');
  await unfold(page, 'Tools for weights');
  await page.getByRole('button', { name: 'Left to right' }).click();
  await expect.poll(async () => weightsIn(await kitOf(page))).not.toEqual(brushed);

  await mode(page, 'Poses');
  await page.getByRole('button', { name: /^Crouch/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Test pose: Crouch' })).toBeVisible();
  await page.getByRole('button', { name: /^Measure all/ }).click();
  await expect(page.getByRole('button', { name: /^Crouch.*%/ })).toBeVisible({ timeout: 40_000 });
  const cancel = page.getByRole('button', { name: 'Cancel' });
  if (await cancel.isVisible()) await cancel.click();
  await look(page, null);
  const posed = await kitOf(page);
  await page.keyboard.press('r');
  await expect(page.getByRole('status').filter({ hasText: 'Test pose' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Contact sheet' }).click();
  await expect(page.getByRole('dialog').getByRole('img', { name: 'Reach' })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  kit = await kitOf(page);
  expect(kit.parts).toEqual(posed.parts);

  await mode(page, 'Joints');
  await unfold(page, 'Beside Emberfold');
  await expect(card(page)).toContainText('20/20');
  await saved(page);
  await checked(page);
  await expect(finding(page, 'No skin')).toHaveCount(0);
});

/** The part whose pivot stands nearest to a place: pieces are split with theirs in their middle. */
function pieceAt(kit: Kit, at: Vec3): string {
  const worlds = restWorlds(kit);
  const off = (id: string) => Math.hypot(...headOf(worlds, id).map((value, axis) => value - at[axis]));
  return Object.values(kit.parts)
    .filter((part) => part.mesh !== null)
    .sort((a, b) => off(a.id) - off(b.id))[0].name;
}

test('the cabinet: bodies made, the lid and the latch hinged, pulled open on the bench', async ({ page }) => {
  await openDemo(page, 'Foghorn cabinet');
  await goToStage(page, 'Shape');
  await choosePart(page, 'Cabinet');
  await unfold(page, 'Split');
  await page.getByRole('button', { name: /loose pieces$/ }).click();
  await expect(treeRow(page, 'Cabinet_2')).toBeVisible();
  let kit = await kitOf(page);
  const [lid, door, latch] = (
    [
      [0, 0.9, 0],
      [0, 0.45, 0.335],
      [0.14, 0.5, 0.37],
    ] as Vec3[]
  ).map((at) => pieceAt(kit, at));
  await goToStage(page, 'Rig');
  await expect(page.getByRole('img', { name: /^Bench/ })).toHaveAttribute('data-view', /\d/);
  await mode(page, 'Bodies');
  await expect(finding(page, 'No bodies')).toBeVisible();
  // What is left of the cabinet is the frame; it comes first, so it is the one that stands still.
  const frame = Object.values(kit.parts).filter((part) => part.mesh !== null && ![lid, door, latch].includes(part.name));
  await choosePart(page, frame[0].name);
  for (const part of frame.slice(1)) await treeRow(page, part.name).click({ modifiers: ['ControlOrMeta'] });
  await page.getByRole('button', { name: `Hold ${frame.length} chosen parts together` }).click();
  // Nothing stands still yet, so it is asked.
  await page.getByRole('dialog').getByRole('button', { name: 'It stands still' }).click();
  for (const piece of [lid, door, latch]) {
    await choosePart(page, piece);
    await page.getByRole('button', { name: 'Hold 1 chosen part together' }).click();
  }
  kit = await kitOf(page);
  expect(kit.bodies!.map(({ anchored, parts }) => [anchored, parts.length])).toEqual([
    [true, frame.length],
    [false, 1],
    [false, 1],
    [false, 1],
  ]);

  await page.getByRole('button', { name: 'Couple two bodies …' }).click();
  await choose(page, 'Typed in the axes of', 'the world');
  await setNumber(page, 'Place x', 0);
  await setNumber(page, 'Place y', 0.88);
  await setNumber(page, 'Place z', -0.34);
  await choose(page, 'Axis', 'x');
  await page.getByRole('button', { name: 'Turn round' }).click();
  await setNumber(page, 'To', 110);
  await look(page, null);
  await page.getByRole('button', { name: /^Couple “/ }).click();
  await page.getByRole('button', { name: 'Couple two bodies …' }).click();
  await choose(page, 'holds', door);
  await choose(page, 'Typed in the axes of', 'the world');
  await setNumber(page, 'Place x', -0.2);
  await setNumber(page, 'Place y', 0.44);
  await setNumber(page, 'Place z', 0.34);
  await choose(page, 'Axis', 'y');
  await page.getByRole('button', { name: /^Couple “/ }).click();
  await page.getByRole('button', { name: 'Couple two bodies …' }).click();
  await choose(page, 'holds', latch);
  await choose(page, 'This body', door);
  // The latch turns about the screw that holds it on the door.
  await choose(page, 'Kind', /^hinge/);
  await choose(page, 'Typed in the axes of', 'the world');
  await setNumber(page, 'Place x', 0.14);
  await setNumber(page, 'Place y', 0.5);
  await setNumber(page, 'Place z', 0.36);
  await choose(page, 'Axis', 'z');
  await setNumber(page, 'From', -90);
  await setNumber(page, 'To', 0);
  await page.getByRole('button', { name: /^Couple “/ }).click();
  kit = await kitOf(page);
  // They stand on whole steps in the axes of the body that holds them, which is at most half a diagonal of a step away.
  const step = 0.02;
  for (const { at } of kit.couplings!) for (const value of at) expect(Math.abs(value / step - Math.round(value / step))).toBeLessThan(1e-5);
  const isNear = (at: Vec3, typed: Vec3) =>
    expect(Math.hypot(...at.map((value, axis) => value - typed[axis]))).toBeLessThanOrEqual((Math.sqrt(3) * step) / 2 + 1e-5);
  isNear(couplingInWorld(kit, kit.couplings![0]).at, [0, 0.88, -0.34]);
  expect([kit.couplings!.map(({ kind }) => kind), kit.couplings![0].max]).toEqual([['hinge', 'hinge', 'hinge'], 110]);
  const screw = couplingInWorld(kit, kit.couplings![2]);
  isNear(screw.at, [0.14, 0.5, 0.36]);
  expect([screw.axis.map((value) => Math.abs(Math.round(value * 1e6))), kit.couplings![2].min, kit.couplings![2].max]).toEqual([
    [0, 0, 1e6],
    -90,
    0,
  ]);

  // Pulled on the bench the lid opens; nothing of it is kept.
  await drag(page, [0.1, 0.92, 0.3], [0, -90]);
  await expect(page.getByRole('status').filter({ hasText: 'Moved to try it' })).toBeVisible();
  await look(page, null);
  await page.keyboard.press('r');
  await expect(page.getByRole('status').filter({ hasText: 'Moved to try it' })).toHaveCount(0);
  expect((await kitOf(page)).parts).toEqual(kit.parts);
  await saved(page);
  await checked(page);
  for (const title of ['No bodies', 'Parts of no body', 'Bodies that nothing holds']) await expect(finding(page, title)).toHaveCount(0);
});

test('the keeper’s package: three.js’s own loader poses its skin as core does, to 1e-4', async ({ page }) => {
  const blobs = new MemoryBlobs();
  const rulebook = checkRulebook(JSON.parse(await readFile(join(import.meta.dirname, '../../rulebooks/emberfold.rulebook.json'), 'utf8')));
  const kit = await nightWatchKeeper(rulebook, blobs);
  const { bytes } = await writeGlb(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  const { flat } = poser;
  const body = Object.values(kit.parts).find((part) => part.mesh !== null)!;
  const ours: number[][] = [];
  const bones = wholePoses(kit).map((pose) => {
    strikePose(kit, poser, pose);
    ours.push([...posedVertices(kit, blobs, body, (id) => poser.worldOf(id))]);
    return flat.ids.flatMap((id, i) =>
      id === body.id
        ? []
        : [
            {
              name: kit.parts[id].name,
              position: [...poser.translation.slice(3 * i, 3 * i + 3)],
              quaternion: [...poser.rotation.slice(4 * i, 4 * i + 4)],
            },
          ],
    );
  });
  await page.goto('about:blank');
  await page.addScriptTag({ content: await threeReader() });
  const theirs = await page.evaluate(
    ([glb, poses]) =>
      (window as unknown as { posedByThree: (glb: string, poses: unknown) => Promise<number[][]> }).posedByThree(glb, poses),
    [Buffer.from(bytes).toString('base64'), bones] as const,
  );
  expect(theirs).toHaveLength(3);
  theirs.forEach((vertices, p) => {
    expect(vertices).toHaveLength(ours[p].length);
    expect(vertices.reduce((most, value, i) => Math.max(most, Math.abs(value - ours[p][i])), 0)).toBeLessThan(1e-4);
  });
});
