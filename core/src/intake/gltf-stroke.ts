import type { Primitive as GltfPrimitive } from '@gltf-transform/core';
import { putArrayBeside, type Id, type Stroke } from '../document';
import { badVertices, finite, floats, highestOf, type PrimitiveContext } from './gltf-primitive';
import { IntakeError, invalid } from './intake-error';

/**
 * Points or lines of a glTF file as a kit keeps them; strips and loops become single lines (glTF 2.0, 3.7.2.1). Null where nothing is
 * drawn.
 */
export function readStroke(
  source: GltfPrimitive,
  material: Id | null,
  { fileName, where, meshName, blobs, repairs, pending }: PrimitiveContext,
): Stroke | null {
  const position = source.getAttribute('POSITION');
  if (!position) {
    repairs.leftOut('no-positions', `${where} has no positions`);
    return null;
  }
  const count = position.getCount();
  const positions = floats(position, 3, fileName, where);
  const bad = badVertices(positions);
  const attributes: Stroke['attributes'] = { POSITION: putArrayBeside(blobs, positions, 3, pending) };
  for (const semantic of source.listSemantics()) {
    if (semantic === 'POSITION') continue;
    const accessor = source.getAttribute(semantic)!;
    if (accessor.getCount() !== count)
      throw invalid(fileName, where, `${semantic} has ${accessor.getCount()} entries for ${count} vertices`);
    if (!/^(NORMAL|TEXCOORD_\d+|COLOR_\d+)$/.test(semantic)) {
      repairs.leftOut('attribute', `the attribute ${semantic.slice(0, 60)} of ${where}`, 'note');
      continue;
    }
    const size = accessor.getElementSize();
    attributes[semantic] = putArrayBeside(blobs, finite(floats(accessor, size, fileName, where)), size, pending);
  }
  if (source.listTargets().length > 0) repairs.leftOut('stroke-targets', `the morph targets of ${where}, which is made of points or lines`);

  const given = source.getIndices()?.getArray();
  const order = given ? Uint32Array.from(given) : Uint32Array.from({ length: count }, (_, i) => i);
  if (order.length > 0 && highestOf(order) >= count)
    throw new IntakeError('index-range', `“${fileName}” points at a vertex that is not there (${where}). Export it again.`, where);
  const mode = source.getMode() === 0 ? 'points' : 'lines';
  const each = mode === 'points' ? 1 : 2;
  const all = mode === 'points' ? order : singleLines(order, source.getMode());
  const kept = bad ? wholeOnes(all, each, bad) : all;
  repairs.count('not-finite', meshName, (all.length - kept.length) / each);
  return kept.length === 0 ? null : { mode, material, attributes, indices: putArrayBeside(blobs, kept, 1, pending) };
}

/** @param mode 1 lines, 2 a loop, 3 a strip. */
function singleLines(order: Uint32Array, mode: number): Uint32Array {
  if (mode === 1) return order.slice(0, order.length - (order.length % 2));
  if (order.length < 2) return new Uint32Array();
  const lines = mode === 2 ? order.length : order.length - 1;
  return Uint32Array.from({ length: 2 * lines }, (_, i) => order[((i >> 1) + (i % 2)) % order.length]);
}

function wholeOnes(indices: Uint32Array, each: number, bad: Uint8Array): Uint32Array {
  const kept: number[] = [];
  for (let i = 0; i < indices.length; i += each) {
    const one = [...indices.subarray(i, i + each)];
    if (!one.some((vertex) => bad[vertex])) kept.push(...one);
  }
  return Uint32Array.from(kept);
}
