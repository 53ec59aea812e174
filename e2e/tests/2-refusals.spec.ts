import { expect, test } from '@playwright/test';
import { mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { buildSluiceCraneGlb } from '@itchkit/demo';
import { HOSTILE_CORPUS } from '../../core/src/tests/hostile-corpus';
import { useApplication } from '../application';
import { base, dropFile, takenIn } from '../steps';

useApplication({ seed: false });

/** One pixel. */
const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGP4z8DwHwAFAAH/iZk9HQAAAABJRU5ErkJggg==', 'base64');

test('a text file in disguise and a cut file are refused in a sentence, and the next one is taken in', async ({ page }) => {
  await page.goto(base());
  await dropFile(page, 'letter.glb', new TextEncoder().encode('Dear harbour master, the crane squeaks.'));
  await expect(page.getByRole('alert').filter({ hasText: '“letter.glb” is no GLB' })).toBeVisible();
  const whole = await buildSluiceCraneGlb(8);
  await dropFile(page, 'half.glb', whole.subarray(0, whole.length / 2));
  await expect(page.getByRole('alert').filter({ hasText: '“half.glb” is cut short' })).toBeVisible();
  await dropFile(page, 'small crane.glb', whole);
  await takenIn(page, null);
  await expect(page.getByText('small crane.glb')).toBeVisible();
});

test('a ZIP with OBJ, MTL and a texture becomes a kit with its material, and one that leaves its folder is refused', async ({ page }) => {
  const obj = 'mtllib yard.mtl\nv 0 0 0\nv 2 0 0\nv 0 1 0\no Lid\nusemtl planks\nf 1 2 3\n';
  await page.goto(base());
  await dropFile(page, 'out.zip', zipSync({ '../crate.obj': strToU8(obj) }));
  await expect(page.getByRole('alert').filter({ hasText: 'would leave the archive' })).toBeVisible();
  await dropFile(
    page,
    'crate.zip',
    zipSync({
      'crate/crate.obj': strToU8(obj),
      'crate/yard.mtl': strToU8('newmtl planks\nKd 1 0.5 0\nmap_Kd tex/planks.png\n'),
      'crate/tex/planks.png': PNG,
    }),
  );
  await takenIn(page);
  await expect(page.getByText('Read from “crate/crate.obj” (OBJ).')).toBeVisible();
  await expect(page.getByText('1, 1 texture')).toBeVisible();
  await expect(page.getByText('OBJ does not say its unit or its axes.')).toBeVisible();
});

test('every refusal of the hostile files is a sentence on the shelf', async ({ page, request }) => {
  const refused = HOSTILE_CORPUS.filter(([, fate]) => typeof fate === 'string' && !fate.startsWith('read'));
  expect(refused.length).toBeGreaterThan(40);
  const onShelf = async () => ((await (await request.get(`${base()}/api/kits`)).json()) as unknown[]).length;
  const before = await onShelf();
  await page.goto(base());
  const refusal = page.getByRole('alert').filter({ hasText: /\S/ });
  for (const [wrong, , fileName, make] of refused) {
    await page
      .getByLabel('Files for new kits')
      .setInputFiles({ name: fileName, mimeType: 'application/octet-stream', buffer: Buffer.from(await make()) });
    const sentence = (await refusal.textContent()) ?? '';
    expect(sentence, wrong).toMatch(/^(.*[“‘].*|Nothing .*|.* ZIP .*)\.$/s);
    expect(sentence, wrong).not.toMatch(/undefined|\[object|\.ts:|Error:/);
    expect(sentence.length, wrong).toBeGreaterThan(40);
    await refusal.getByRole('button', { name: 'Close' }).click();
    await expect(refusal).toHaveCount(0);
  }
  expect(await onShelf()).toBe(before);
});

test('a 300 MB file is refused in a sentence by the page, and by the server as problem details', async ({ page, request }) => {
  const folder = await mkdtemp(join(tmpdir(), 'itch-kit-large-'));
  const path = join(folder, 'dock.glb');
  const file = await open(path, 'w');
  await file.truncate(300_000_000);
  await file.close();
  try {
    await page.goto(base());
    await page.getByLabel('Files for new kits').setInputFiles(path);
    await expect(page.getByRole('alert').filter({ hasText: '“dock.glb” is 286.1 MiB; up to 256.0 MiB are taken in.' })).toBeVisible();
  } finally {
    await rm(folder, { recursive: true });
  }
  const response = await fetch(`${base()}/api/kits`, {
    method: 'POST',
    headers: { 'x-file-name': 'dock.glb' },
    body: new Uint8Array(300_000_000),
  });
  expect(response.status).toBe(413);
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  expect(((await response.json()) as { detail: string }).detail).toContain('“dock.glb” is larger than 256 MiB');
  expect((await request.get(`${base()}/api/health`)).status()).toBe(200);
});

test('a kit that is not there is a sentence with a way back', async ({ page }) => {
  await page.goto(`${base()}/kits/nowhere/shape`);
  await expect(page.getByRole('alert').filter({ hasText: 'That kit is not on the shelf any more.' })).toBeVisible();
  await page.getByRole('link', { name: 'Go to the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible();
});
