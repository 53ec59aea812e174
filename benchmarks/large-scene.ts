import { build } from 'esbuild';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { withApplication } from './application';
import { openBrowser } from './browser';
import { paired, rowOf, type Benchmark, type Row } from './row';
import { quayGlb } from './sea-glb';

const PARTS = 2000;
const PAIRS = 5;

/** Puts the quay on the shelf; gives the address of its workspace. */
async function takeIn(url: string): Promise<string> {
  const response = await fetch(`${url}/api/kits`, {
    method: 'POST',
    headers: { 'x-file-name': 'quay.glb' },
    body: (await quayGlb(PARTS)) as Uint8Array<ArrayBuffer>,
  });
  const { id } = (await response.json()) as { id: string };
  return `${url}/kits/${id}/shape`;
}

async function withPage<T>(address: string, use: (page: Page) => Promise<T>): Promise<T> {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(address);
    return await use(page);
  } finally {
    await browser.close();
  }
}

/** From the document being there to the first frame of it, by the application's own marks. */
function openOurs(address: string): Promise<number> {
  return withPage(address, async (page) => {
    await page.waitForFunction(() => performance.getEntriesByName('itchkit:first-frame').length > 0, undefined, { timeout: 60_000 });
    return page.evaluate(
      () =>
        performance.getEntriesByName('itchkit:first-frame')[0].startTime - performance.getEntriesByName('itchkit:document')[0].startTime,
    );
  });
}

/** The same GLB through three.js's own loader on an empty page, from its bytes to the first frame. */
async function peerScript(): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [join(import.meta.dirname, 'peer-page.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
    minify: true,
  });
  return outputFiles[0].text;
}

async function openPeer(script: string, glb: string): Promise<number> {
  return withPage('about:blank', async (page) => {
    await page.addScriptTag({ content: script });
    return page.evaluate((bytes) => (globalThis as unknown as { showGlb: (text: string) => Promise<number> }).showGlb(bytes), glb);
  });
}

export const sceneOpen: Benchmark = {
  row: 'scene-open',
  title: '2,000 parts: from the document to the first frame on the bench, against three.js’s loader from bytes to the first frame',
  run: () =>
    withApplication(async (url): Promise<Row> => {
      const address = await takeIn(url);
      const script = await peerScript();
      const glb = Buffer.from(await quayGlb(PARTS)).toString('base64');
      const [ours, peer] = await paired(
        PAIRS,
        () => openOurs(address),
        () => openPeer(script, glb),
      );
      return rowOf('scene-open', 'ms', ours, peer, 5);
    }),
};

export const treeRows: Benchmark = {
  row: 'tree-rows',
  title: '2,000 parts: most rows of Parts in the page while it is scrolled from end to end, against a row a part',
  run: () =>
    withApplication(async (url): Promise<Row> => {
      const address = await takeIn(url);
      const scroll = () =>
        withPage(address, async (page) => {
          await page.waitForSelector('[data-part]', { timeout: 60_000 });
          return page.evaluate(async () => {
            const tree = document.querySelector('[role="tree"]')!;
            const scroller = [tree, ...tree.querySelectorAll('*')].find((one) => one.scrollHeight > one.clientHeight + 100)!;
            let rows = 0;
            for (let i = 0; i <= 40; i++) {
              scroller.scrollTop = (scroller.scrollHeight * i) / 40;
              await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
              rows = Math.max(rows, document.querySelectorAll('[data-part]').length);
            }
            return rows;
          });
        });
      const most: number[] = [];
      for (let i = 0; i < PAIRS; i++) most.push(await scroll());
      return rowOf(
        'tree-rows',
        'rows',
        most,
        most.map(() => PARTS),
        0.1,
      );
    }),
};
