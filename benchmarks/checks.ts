import validator from 'gltf-validator';
import clashmere from '@itchkit/rulebooks/clashmere';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { CheckRunner, checkRulebook, forgetFigures, runChecks } from '@itchkit/core/rulebook';
import { runCall } from '@itchkit/core/operations';
import { equipNode } from '@itchkit/core/node';
import { milliseconds, paired, rowOf, type Benchmark } from './row';
import { quayGlb, seaGlb } from './sea-glb';

/** The rulebook with the most rules. */
const rulebook = checkRulebook(clashmere);
const PARTS = 2000;
const RENAMES = 10;

export const checksAll: Benchmark = {
  row: 'checks-all',
  title: `1,000,000 triangles: all ${rulebook.rules.length} rules of ${rulebook.title}, from nothing, against gltf-validator over the same bytes`,
  async run() {
    equipNode();
    const bytes = await seaGlb(1000, 500);
    const blobs = new MemoryBlobs();
    const kit = await readFile(bytes, 'sea.glb', blobs);
    const [ours, peer] = await paired(
      5,
      () => {
        forgetFigures();
        return milliseconds(() => Promise.resolve(runChecks({ kit, rulebook, blobs })));
      },
      () => milliseconds(() => validator.validateBytes(bytes)),
    );
    return rowOf('checks-all', 'ms', ours, peer, 0.75);
  },
};

export const checksRename: Benchmark = {
  row: 'checks-rename',
  title: '2,000 parts: checking on after one part was renamed, against checking the same kit from nothing',
  async run() {
    equipNode();
    const blobs = new MemoryBlobs();
    let kit: Kit = await readFile(await quayGlb(PARTS, 12), 'quay.glb', blobs);
    const [, part] = Object.keys(kit.parts).reverse();
    const runner = new CheckRunner(rulebook, blobs);
    runner.run(kit);
    let n = 0;
    const [ours, peer] = await paired(
      15,
      () => {
        // Ten names typed one after the other, as someone at work would; the renaming itself is not counted.
        let sum = 0;
        for (let i = 0; i < RENAMES; i++) {
          kit = runCall(kit, { operation: 'shape.rename', args: { names: { [part]: `plank_again_${n++}` } } }, blobs).kit;
          const start = performance.now();
          runner.run(kit);
          sum += performance.now() - start;
        }
        return Promise.resolve(sum / RENAMES);
      },
      () => {
        forgetFigures();
        return milliseconds(() => Promise.resolve(runChecks({ kit, rulebook, blobs })));
      },
    );
    return rowOf('checks-rename', 'ms', ours, peer, 0.02);
  },
};
