import { WebIO } from '@gltf-transform/core';
import { MemoryBlobs, readFile } from '@itchkit/core';
import { equipNode } from '@itchkit/core/node';
import { milliseconds, paired, rowOf, type Benchmark } from './row';
import { seaGlb } from './sea-glb';

export const intakeTime: Benchmark = {
  row: 'intake-time',
  title: '1,000,000 triangles: bytes to a kit with its blobs hashed, against @gltf-transform reading alone',
  async run() {
    equipNode();
    const bytes = await seaGlb(1000, 500);
    const [ours, peer] = await paired(
      7,
      () => milliseconds(() => readFile(bytes, 'sea.glb', new MemoryBlobs())),
      () => milliseconds(() => new WebIO().readBinary(bytes)),
    );
    return rowOf('intake-time', 'ms', ours, peer, 3);
  },
};
