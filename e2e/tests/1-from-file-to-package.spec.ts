import { expect, test } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { getBounds, WebIO } from '@gltf-transform/core';
import { unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { buildSluiceCraneGlb } from '@itchkit/demo';
import { useApplication } from '../application';
import { base, checked, choosePart, dropFile, find, finding, goToStage, saved, setNumber, takenIn } from '../steps';

useApplication({ seed: false });

test('from an empty shelf: the raw crane dropped, settled, mended, pivoted, keyed, bound, tried, built, and read back', async ({
  page,
}) => {
  await page.goto(base());
  await expect(page.getByText('The shelf is empty')).toBeVisible();
  await dropFile(page, 'sluice-crane.glb', await buildSluiceCraneGlb());
  await takenIn(page);
  await checked(page);

  // Intake: a kilometre long cannot be; centimetres it is.
  await expect(page.getByText('It was probably drawn in centimetres.')).toBeVisible();
  await page.getByRole('radio', { name: 'centimetres' }).click();
  await expect(page.getByText('Taken in centimetres.')).toBeVisible();
  await expect(page.getByRole('radio', { name: 'centimetres' })).toContainText('11.8 m');

  // Every stop in the Ledger that a machine can mend, from the Ledger.
  await checked(page);
  await page.getByRole('button', { name: /Mend all safe/ }).click();
  await expect(finding(page, 'More than one root')).toHaveCount(0);
  for (const title of ['Normals missing', 'Texture of an odd size']) {
    await finding(page, title).press('Enter');
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Compute|Resize/ })
      .click();
    await expect(finding(page, title)).toHaveCount(0);
  }
  await checked(page);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveText([/Driven part with no binding/]);

  // The turntable's pivot: in the middle of its foot.
  await goToStage(page, 'Shape');
  await choosePart(page, 'drv_turntable');
  await page.getByRole('button', { name: 'Pivot to bottom, centre, centre' }).click();
  await expect(page.getByRole('textbox', { name: 'Pivot in the world x' })).toHaveValue('2.4');
  await expect(page.getByRole('textbox', { name: 'Pivot in the world y' })).toHaveValue('0.8');
  await expect(page.getByRole('textbox', { name: 'Pivot in the world z' })).toHaveValue('-1');

  // A clip that slews.
  await goToStage(page, 'Motion');
  await page.getByRole('button', { name: 'Add clip' }).click();
  await setNumber(page, 'Turn y', 0);
  await page.getByRole('slider', { name: 'Time' }).click({ position: { x: 240, y: 10 } });
  await setNumber(page, 'Turn y', 60);
  await expect(find(page, '[data-bead*="turn y"]')).not.toHaveCount(0);

  // Bound to the slew angle of the third crane: positive is counter-clockwise from above, a turn about +y here.
  await goToStage(page, 'Wiring');
  await page.getByRole('searchbox', { name: 'Search' }).fill('slew angle');
  await page.getByRole('button', { name: /^crane_slew_angle/ }).click();
  await page.getByRole('combobox', { name: 'Index' }).first().click();
  await page.getByRole('option', { name: '2', exact: true }).click();
  await page.getByRole('button', { name: 'Bind drv_turntable' }).click();
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  for (const value of [-170, 170]) {
    const cell = page.getByRole('textbox', { name: `turn y at ${value}`, exact: true });
    await cell.fill(String(value));
    await cell.press('Enter');
  }
  await checked(page);
  await expect(find(page, '[data-finding][data-grade=stop]')).toHaveCount(0);
  await saved(page);

  // The lever in the trial turns the part by what it says, about the platform's up axis.
  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  await expect(page.getByText('“drv_turntable” follows crane_slew_angle[2], -170 to 170 deg')).toBeVisible();
  const readout = find(page, '[data-readout=drv_turntable]');
  await expect(readout).toHaveAttribute('data-turn', '0.000 0.000 0.000');
  await setNumber(page, 'Value of crane_slew_angle[2]', 35);
  await expect(readout).toHaveAttribute('data-turn', '0.000 0.000 35.000');
  await setNumber(page, 'Value of crane_slew_angle[2]', -120.5);
  await expect(readout).toHaveAttribute('data-turn', '0.000 0.000 -120.500');
  const trialSha = await page.getByTestId('trial-sha').textContent();

  // Built, downloaded, and the same bytes that the trial ran.
  await goToStage(page, 'Ship');
  await expect(page.getByText('nothing stops it')).toBeVisible();
  await expect(page.getByTestId('played-in-files')).toHaveText(/as it was made|mm is allowed/);
  await page.getByRole('button', { name: 'Build package' }).click();
  await expect(page.getByTestId('package-sha')).toHaveAttribute('title', trialSha!);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('sluice_crane-brinework.zip');
  const files = unzipSync(await readFile(await file.path()));
  const manifest = JSON.parse(Buffer.from(files['manifest.json']).toString()) as {
    parts: { name: string; triangles: number }[];
    bindings: object[];
  };
  expect(manifest.bindings).toEqual([expect.objectContaining({ variable: 'crane_slew_angle', index: 2 })]);

  // The model passes the standard's validator, and another reader finds the same parts, triangles and bounds.
  const glb = files['sluice_crane/sluice_crane.glb'];
  const { issues } = await validator.validateBytes(glb);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const root = (await new WebIO().readBinary(glb)).getRoot();
  expect(root.listNodes().map((node) => node.getName())).toEqual(manifest.parts.map((part) => part.name));
  const original = (await new WebIO().readBinary(await buildSluiceCraneGlb())).getRoot();
  const triangles = (one: typeof root) =>
    one
      .listNodes()
      .flatMap((node) => node.getMesh()?.listPrimitives() ?? [])
      .reduce((sum, primitive) => sum + primitive.getIndices()!.getCount() / 3, 0);
  // Six of the original's have no area; they were dropped.
  expect(triangles(root)).toBe(triangles(original) - 6);
  const was = getBounds(original.listScenes()[0]);
  const is = getBounds(root.listScenes()[0]);
  // Centimetres to metres; up y → z, forward z → y, and with them x → −x.
  const expected = { min: [-was.max[0], was.min[2], was.min[1]], max: [-was.min[0], was.max[2], was.max[1]] };
  for (const end of ['min', 'max'] as const)
    expected[end].forEach((value, axis) => expect(Math.abs(is[end][axis] - value / 100)).toBeLessThan(1e-5));
});
