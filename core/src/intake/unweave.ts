import type { JSONDocument } from '@gltf-transform/core';

const FLOAT = 5126;
const SIZES: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
const PACKED = 'itch-kit-unwoven.bin';

/**
 * Lays interleaved float attributes end to end in a buffer of their own, so that the library reads each as one piece: it
 * takes woven ones apart number by number, which is most of the time that a large file takes. Changes the document.
 */
export function unweave({ json, resources }: JSONDocument): void {
  const views = json.bufferViews ?? [];
  const woven = (json.accessors ?? []).flatMap((accessor) => {
    const view = views[accessor.bufferView ?? -1];
    const size = SIZES[accessor.type];
    if (!view?.byteStride || view.extensions || accessor.sparse || accessor.componentType !== FLOAT || view.byteStride === 4 * size)
      return [];
    const uri = json.buffers?.[view.buffer]?.uri ?? '@glb.bin';
    const bytes = resources[uri];
    const start = (bytes?.byteOffset ?? 0) + (view.byteOffset ?? 0) + (accessor.byteOffset ?? 0);
    if (!bytes || start % 4 !== 0 || view.byteStride % 4 !== 0) return [];
    return [{ accessor, size, stride: view.byteStride / 4, start: start / 4, source: bytes.buffer }];
  });
  if (woven.length === 0) return;
  const packed = new Float32Array(woven.reduce((sum, { accessor, size }) => sum + size * accessor.count, 0));
  const buffer = json.buffers!.length;
  let at = 0;
  for (const { accessor, size, stride, start, source } of woven) {
    copyRows(new Float32Array(source, 0, Math.floor(source.byteLength / 4)), start, stride, packed, at, size, accessor.count);
    views.push({ buffer, byteOffset: 4 * at, byteLength: 4 * size * accessor.count });
    accessor.bufferView = views.length - 1;
    accessor.byteOffset = 0;
    at += size * accessor.count;
  }
  json.buffers!.push({ uri: PACKED, byteLength: packed.byteLength });
  resources[PACKED] = new Uint8Array(packed.buffer);
}

function copyRows(from: Float32Array, start: number, stride: number, to: Float32Array, at: number, size: number, count: number): void {
  for (let row = 0; row < count; row++) {
    const source = start + row * stride;
    const target = at + row * size;
    for (let c = 0; c < size; c++) to[target + c] = from[source + c];
  }
}
