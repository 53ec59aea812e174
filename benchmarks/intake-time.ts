import { WebIO } from '@gltf-transform/core';
import { MemoryBlobs } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { equipNode } from '@itchkit/core/node';
import { milliseconds, paired, rowOf, type Benchmark } from './row';
import { seaGlb } from './sea-glb';

export const intakeTime: Benchmark = {
  row: 'intake-time',
  title: '1,000,000 triangles: bytes to a kit, the file and its arrays hashed as blobs, against @gltf-transform reading alone',
  async run() {
    equipNode();
    const bytes = await seaGlb(1000, 500);
    const [ours, peer] = await paired(
      11,
      () => {
        const blobs = new MemoryBlobs();
        return milliseconds(() => readFile(bytes, 'sea.glb', blobs));
      },
      () => milliseconds(() => new WebIO().readBinary(bytes)),
    );
    return rowOf('intake-time', 'ms', ours, peer, 3);
  },
};
