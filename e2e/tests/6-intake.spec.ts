import { expect, test, type Page } from '@playwright/test';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildNextSluiceCraneGlb } from '@itchkit/demo';
import { sailFrame, tailGlb, WALKER_BVH } from '../../core/src/tests/fixtures';
import { useApplication } from '../application';
import { base, checked, find, goToStage, openDemo, saved, setNumber, takenIn, treeRow } from '../steps';

useApplication({ seed: true });

const OBJ = 'mtllib yard.mtl\nv 0 0 0\nv 2 0 0\nv 0 1 0\no Lid\nusemtl planks\nf 1 2 3\n';

/** Drops a folder on the page. The browser makes no directory entries by script, so the drop carries ones of the page's own. */
async function dropFolder(page: Page, name: string, files: Record<string, string>): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([folder, contents]) => {
      const file = (path: string, text: string) => {
        const made = new File([text], path.slice(path.lastIndexOf('/') + 1));
        return {
          isFile: true,
          isDirectory: false,
          name: made.name,
          fullPath: `/${folder}/${path}`,
          file: (done: (one: File) => void) => done(made),
        };
      };
      const directory = (path: string, inside: [string, string][]): object => {
        const prefix = path === '' ? '' : `${path}/`;
        const own = inside.filter(([one]) => one.startsWith(prefix));
        const below = [
          ...new Set(
            own
              .map(([one]) => one.slice(prefix.length).split('/'))
              .filter((steps) => steps.length > 1)
              .map(([step]) => step),
          ),
        ];
        const entries = [
          ...own.filter(([one]) => !one.slice(prefix.length).includes('/')).map(([one, text]) => file(one, text)),
          ...below.map((step) => directory(`${prefix}${step}`, inside)),
        ];
        let read = false;
        const readEntries = (done: (list: object[]) => void) => {
          const batch = read ? [] : entries;
          read = true;
          done(batch);
        };
        return {
          isFile: false,
          isDirectory: true,
          name: path.slice(path.lastIndexOf('/') + 1) || folder,
          fullPath: `/${folder}/${path}`.replace(/\/$/, ''),
          createReader: () => ({ readEntries }),
        };
      };
      const made = new DataTransfer();
      made.items.add(new File(['x'], folder));
      DataTransferItem.prototype.webkitGetAsEntry = () => directory('', Object.entries(contents)) as FileSystemEntry;
      return made;
    },
    [name, files] as const,
  );
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent('main', type, { dataTransfer: transfer });
}

async function takeIn(page: Page, files: { name: string; buffer: Buffer }[]): Promise<void> {
  await page.goto(base());
  await page.getByLabel('Files for new kits').setInputFiles(files.map((file) => ({ mimeType: 'application/octet-stream', ...file })));
}

const text = (name: string, content: string) => ({ name, buffer: Buffer.from(content) });

test('a folder, dropped or chosen, is one model with what lies in it', async ({ page }) => {
  await page.goto(base());
  await dropFolder(page, 'crate', { 'crate.obj': OBJ, 'yard.mtl': 'newmtl planks\nKd 1 0.5 0\n', 'notes/readme.txt': 'For the yard' });
  await takenIn(page);
  await expect(page.getByText('Read from “crate/crate.obj” (OBJ).')).toBeVisible();
  await expect(page.getByText('the picture')).toHaveCount(0);

  const folder = await mkdtemp(join(tmpdir(), 'itch-kit-folder-'));
  try {
    await mkdir(join(folder, 'lid'));
    await writeFile(join(folder, 'lid', 'lid.obj'), OBJ.replace('yard.mtl', '../yard.mtl'));
    await writeFile(join(folder, 'yard.mtl'), 'newmtl planks\nKd 1 0.5 0\n');
    await page.goto(base());
    await page.getByLabel('Folder for a new kit').setInputFiles(folder);
    await takenIn(page);
    await expect(page.getByText('lid/lid.obj” (OBJ).')).toBeVisible();
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('a glTF whose .bin is not with it is refused in a sentence, and taken in with it', async ({ page }) => {
  const gltf = JSON.stringify({
    asset: { version: '2.0' },
    buffers: [{ byteLength: 36, uri: 'hull.bin' }],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
    nodes: [{ mesh: 0, name: 'hull' }],
    scenes: [{ nodes: [0] }],
  });
  await takeIn(page, [text('hull.gltf', gltf)]);
  await expect(page.getByRole('alert').filter({ hasText: '“hull.gltf” needs the file “hull.bin”, which is not with it.' })).toBeVisible();
  await takeIn(page, [
    text('hull.gltf', gltf),
    { name: 'hull.bin', buffer: Buffer.from(Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer) },
  ]);
  await takenIn(page);
  await expect(treeRow(page, 'hull')).toBeVisible();
});

test('BVH: joints and the motion; taken onto another kit by name', async ({ page }) => {
  await takeIn(page, [text('walker.bvh', WALKER_BVH)]);
  await takenIn(page);
  for (const name of ['Hip', 'Left Knee', 'Chest']) await expect(treeRow(page, name)).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'Keep walker' })).toBeChecked();
  await expect(page.getByText('BVH does not say its unit')).toBeVisible();

  await page.getByRole('button', { name: 'Clips from a file' }).click();
  await find(page, '[role=dialog] input[type=file]').setInputFiles({
    name: 'march.bvh',
    mimeType: 'text/plain',
    buffer: Buffer.from(WALKER_BVH.replace('ROOT Hip', 'ROOT rig:hip')),
  });
  await expect(page.getByText('Each of the 3 moving parts has found one here.')).toBeVisible();
  await page.getByRole('button', { name: 'Take the clip' }).click();
  await expect(page.getByRole('checkbox', { name: 'Keep march' })).toBeChecked();
});

test('a set of numbered frames becomes morph targets with a clip for each name; clips are split, kept, trimmed', async ({ page }) => {
  await takeIn(
    page,
    [1, 2, 3, 4, 5].flatMap((n) => [text(`furl${n}.obj`, sailFrame(n)), text(`wave_${n}.obj`, sailFrame(n / 3))]),
  );
  await takenIn(page);
  await expect(page.getByText('numbered mesh frames')).toBeVisible();
  const clip = (name: string) => page.getByRole('checkbox', { name: `Keep ${name}`, exact: true });
  await expect(clip('furl')).toBeChecked();
  await clip('wave').click();
  await page.getByRole('button', { name: 'Keep 1 of 2' }).click();
  await expect(clip('wave')).toHaveCount(0);

  await page.getByRole('button', { name: 'Split furl' }).click();
  await page.getByRole('textbox', { name: 'Ranges' }).fill('up, 0, 9');
  await expect(page.getByText('Line 1: “up” runs from 0 to 9')).toBeVisible();
  await page.getByRole('textbox', { name: 'Ranges' }).fill('up01…up03, down01…');
  await page.getByRole('button', { name: 'Split into 2' }).click();
  await expect(clip('up')).toBeChecked();
  await expect(clip('down')).toBeChecked();
  await page.getByRole('button', { name: 'Trim up' }).click();
  await setNumber(page, 'Last frame', 1);
  await page.getByRole('button', { name: 'Trim to 1 frame' }).click();
  await expect(page.getByText('0.03 s').first()).toBeVisible();
  await saved(page);
});

test('a new version of the crane, one part renamed, one gone, one with another pivot: the bindings still drive it in the trial', async ({
  page,
}) => {
  await openDemo(page, 'Sluice crane, finished');
  await goToStage(page, 'Intake');
  const version = await buildNextSluiceCraneGlb({
    detail: 36,
    rename: { Boom: 'Jib' },
    remove: ['Ladder'],
    repivot: { 'Gate Leaf': [0, -60, 0] },
  });
  await page.getByRole('button', { name: 'New version' }).click();
  await find(page, '[role=dialog] input[type=file]').setInputFiles({
    name: 'crane-2.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(version),
  });
  const table = page.getByRole('table', { name: 'Parts of the new version' });
  await expect(table.getByRole('row').filter({ hasText: 'Jib' })).toContainText('renamed, found by its shape');
  await expect(table.getByRole('row').filter({ hasText: 'ladder' })).toContainText('gone');
  await expect(table.getByRole('row').filter({ hasText: 'Gate Leaf' })).toContainText('pivot 0.6 m elsewhere in the file');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(treeRow(page, 'ladder')).toHaveCount(0);
  await expect(page.getByText('crane-2.glb')).toBeVisible();
  await checked(page);
  // What was mended on meshes that are the same as before stays mended.
  await expect(page.getByText('Nothing is owed.')).toBeVisible();

  await goToStage(page, 'Trial');
  await expect(find(page, '[data-trial=running]')).toBeVisible();
  await setNumber(page, 'Value of crane_luff_angle[0]', 55);
  await expect(find(page, '[data-readout=drv_boom]')).toHaveAttribute('data-turn', /^-?55\.000 |-?0\.000 -?55\.000|.*55\.000/);
  await setNumber(page, 'Value of crane_slew_angle[0]', 35);
  await expect(find(page, '[data-readout=drv_turntable]')).toHaveAttribute('data-turn', '0.000 0.000 35.000');
  await expect(page.getByText('follows gate_lift[0]')).toBeVisible();

  // One undo brings the old version back.
  await goToStage(page, 'Intake');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(treeRow(page, 'ladder')).toBeVisible();
  await expect(page.getByText('sluice-crane.glb')).toBeVisible();
  await saved(page);
});

test('history: steps back and on, an old revision looked at, compared, restored as a new one and undone', async ({ page }) => {
  await takeIn(page, [{ name: 'tail.glb', buffer: Buffer.from(await tailGlb()) }]);
  await takenIn(page, null);
  await checked(page);
  await page.getByRole('checkbox', { name: 'Keep hop' }).click();
  await page.getByRole('button', { name: 'Keep 1 of 2' }).click();
  await saved(page);
  await page.getByRole('radio', { name: /^millimetres/ }).click();
  await expect(page.getByRole('radio', { name: /^millimetres/ })).toBeChecked();
  await saved(page);

  await page.keyboard.press('Shift+H');
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps.getByRole('listitem')).toHaveCount(3);
  await steps.getByRole('button', { name: 'As it was opened' }).click();
  await expect(page.getByText('0 s', { exact: true })).toHaveCount(0);
  await steps.getByRole('button', { name: 'Keep only clip “wag”' }).click();
  await expect(steps.getByRole('button', { name: 'Keep only clip “wag”' })).toHaveAttribute('aria-current', 'step');
  await saved(page);

  await page.getByRole('tab', { name: 'Revisions' }).click();
  const revisions = page.getByRole('list', { name: 'Revisions' });
  const first = revisions.getByRole('listitem').filter({ hasText: 'taken in from “tail.glb”' });
  await first.getByRole('button', { name: 'Compare' }).click();
  const row = page.getByRole('table', { name: 'Figures' }).getByRole('row').filter({ hasText: 'Clips' });
  await expect(row).toContainText('−1');
  await page.getByRole('button', { name: 'Done' }).click();
  await first.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'It is only looked at' })).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'Keep hop' })).toBeVisible();
  await page.getByRole('radio', { name: /^feet/ }).click();
  await expect(page.getByText('is only looked at. Go back to the kit')).toBeVisible();
  await page.getByRole('button', { name: 'Restore this revision' }).click();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('checkbox', { name: 'Keep hop' })).toBeVisible();
  await page.keyboard.press('Shift+H');
  await page.getByRole('tab', { name: 'Revisions' }).click();
  await expect(page.getByText('Restore revision 1')).toBeVisible();
});
