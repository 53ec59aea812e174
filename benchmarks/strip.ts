import { randomUUID } from 'node:crypto';
import type { emptyKit, Clip, KeyTrack } from '@itchkit/core/document';
import { withApplication } from './application';
import { openBrowser } from './browser';
import { paired, rowOf, type Benchmark, type Row } from './row';
import { quayGlb } from './sea-glb';

const PARTS = 50;
const KEYS = 5000;
const PAIRS = 3;
/** What the bundler leaves in functions that are run in a page. */
const NAMES = 'globalThis.__name = (made) => made';

/** A kit of fifty parts with a clip of five thousand keys; gives the address of Motion. */
async function takeIn(url: string): Promise<string> {
  const response = await fetch(`${url}/api/kits`, {
    method: 'POST',
    headers: { 'x-file-name': 'quay.glb' },
    body: (await quayGlb(PARTS)) as Uint8Array<ArrayBuffer>,
  });
  const { id } = (await response.json()) as { id: string };
  const { document, revision } = (await (await fetch(`${url}/api/kits/${id}`)).json()) as {
    document: ReturnType<typeof emptyKit>;
    revision: number;
  };
  const parts = Object.keys(document.parts).slice(0, PARTS);
  const each = KEYS / PARTS;
  const tracks = parts.map((part, p): KeyTrack => ({
    kind: 'keys',
    id: `track${p}`,
    part,
    property: 'turn',
    axis: 1,
    keys: Array.from({ length: each }, (_, k) => ({ time: (60 * k) / (each - 1), value: 20 * Math.sin(k + p), easing: 'curve' })),
  }));
  const clip: Clip = { id: 'long', name: 'long', order: 0, lengthSeconds: 60, rate: 30, loop: 'loop', tracks };
  const saved = await fetch(`${url}/api/kits/${id}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ base: revision, key: randomUUID(), changes: [{ path: ['clips', 'long'], now: clip }], cause: 'A long clip' }),
  });
  if (!saved.ok) throw new Error(`The long clip was not taken: ${await saved.text()}`);
  return `${url}/kits/${id}/motion`;
}

/** Milliseconds a step while the strip is scrolled from top to bottom, and the most keys that were in the page. */
async function scrolled(address: string, larger: number): Promise<{ step: number; beads: number }> {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(address);
    await page.waitForSelector('[data-row]', { timeout: 60_000 });
    await page.evaluate(NAMES);
    for (let i = 0; i < larger; i++) await page.getByRole('button', { name: 'Show less time, larger' }).click();
    return await page.evaluate(async () => {
      const strip = document.querySelector('[data-testid="strip-rows"]')!;
      const frame = () => new Promise((done) => requestAnimationFrame(done));
      let beads = 0;
      const start = performance.now();
      const steps = 60;
      for (let i = 0; i <= steps; i++) {
        strip.scrollTop = ((strip.scrollHeight - strip.clientHeight) * i) / steps;
        await frame();
        beads = Math.max(beads, document.querySelectorAll('[data-bead]').length);
      }
      return { step: (performance.now() - start) / steps, beads };
    });
  } finally {
    await browser.close();
  }
}

/** The same scroll by the browser alone, over a plain page in which a button stands for every key: nothing is drawn anew by a program. */
async function plain(): Promise<number> {
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.evaluate(NAMES);
    return await page.evaluate(
      async ([parts, each]) => {
        const strip = document.createElement('div');
        strip.style.cssText = 'height:240px;overflow:auto;position:relative';
        for (let p = 0; p < parts; p++) {
          const row = document.createElement('div');
          row.style.cssText = 'height:52px;position:relative';
          for (let k = 0; k < each; k++) {
            const bead = document.createElement('button');
            bead.style.cssText = `position:absolute;left:${(k * 800) / each}px;top:6px;width:12px;height:12px;border-radius:50%`;
            row.append(bead);
          }
          strip.append(row);
        }
        document.body.append(strip);
        const frame = () => new Promise((done) => requestAnimationFrame(done));
        await frame();
        const start = performance.now();
        for (let i = 0; i <= 60; i++) {
          strip.scrollTop = ((strip.scrollHeight - strip.clientHeight) * i) / 60;
          await frame();
        }
        return (performance.now() - start) / 60;
      },
      [PARTS, KEYS / PARTS] as const,
    );
  } finally {
    await browser.close();
  }
}

export const stripRedraw: Benchmark = {
  row: 'strip-redraw',
  title:
    '5,000 keys in 50 tracks: a step of scrolling the strip, against a plain page of as many buttons that the browser scrolls by itself',
  run: () =>
    withApplication(async (url): Promise<Row> => {
      const address = await takeIn(url);
      const [ours, peer] = await paired(PAIRS, async () => (await scrolled(address, 0)).step, plain);
      return rowOf('strip-redraw', 'ms', ours, peer, 1);
    }),
};

export const stripBeads: Benchmark = {
  row: 'strip-beads',
  title: '5,000 keys: most of them in the page while the strip is scrolled at three times the scale, against all',
  run: () =>
    withApplication(async (url): Promise<Row> => {
      const address = await takeIn(url);
      const most = [(await scrolled(address, 3)).beads];
      return rowOf(
        'strip-beads',
        'keys',
        most,
        most.map(() => KEYS),
        0.35,
      );
    }),
};
