import type { Accessor as GltfAccessor, Primitive as GltfPrimitive } from '@gltf-transform/core';
import { putArray, putArrayBeside, type Accessor, type Blobs, type Id, type Primitive } from '../document';
import { IntakeError, invalid } from './intake-error';
import type { Repairs } from './repairs';

const TARGET_SEMANTICS = ['POSITION', 'NORMAL', 'TANGENT'];

export interface PrimitiveContext {
  fileName: string;
  /** Mesh and number, for sentences. */
  where: string;
  meshName: string;
  blobs: Blobs;
  repairs: Repairs;
  /** Kept when the names of all arrays are in their accessors. */
  pending: Promise<void>[];
}

/** A primitive of a glTF file as a kit keeps it: a triangle list of floats. Null where it draws no triangles. */
export function readPrimitive(source: GltfPrimitive, material: Id | null, context: PrimitiveContext): Primitive | null {
  const { fileName, where, blobs, repairs, meshName } = context;
  const position = source.getAttribute('POSITION');
  if (!position) {
    repairs.leftOut('no-positions', `${where} has no positions`);
    return null;
  }
  const count = position.getCount();
  const attributes: Primitive['attributes'] = {};
  const put = (array: Float32Array | Uint32Array, size: number): Accessor => putArrayBeside(blobs, array, size, context.pending);
  const positions = floats(position, 3, fileName, where);
  const bad = badVertices(positions);
  const weightSets: Float32Array[] = [];
  for (const semantic of source.listSemantics()) {
    const accessor = source.getAttribute(semantic)!;
    if (accessor.getCount() !== count)
      throw invalid(fileName, where, `${semantic} has ${accessor.getCount()} entries for ${count} vertices`);
    if (!/^[A-Z]+(_\d+)?$/.test(semantic)) {
      repairs.leftOut('attribute', `the attribute ${semantic.slice(0, 60)} of ${where}`, 'note');
      continue;
    }
    const size = accessor.getElementSize();
    if (semantic.startsWith('JOINTS')) {
      const numbers = accessor.getArray()!;
      if (!isWholeNumbers(numbers)) throw invalid(fileName, where, `${semantic} holds values that are no joint numbers`);
      attributes[semantic] = putArray(blobs, new Uint16Array(numbers), size);
    } else if (semantic.startsWith('WEIGHTS')) weightSets.push(floats(accessor, 4, fileName, where));
    else if (semantic !== 'POSITION') attributes[semantic] = put(finite(floats(accessor, size, fileName, where)), size);
  }
  attributes.POSITION = put(positions, 3);
  if (weightSets.length > 0) repairs.count('weights-normalised', meshName, normaliseWeights(weightSets));
  weightSets.forEach((set, n) => (attributes[`WEIGHTS_${n}`] = put(set, 4)));

  let indices = triangleList(source, count);
  if (indices.length > 0 && highestOf(indices) >= count)
    throw new IntakeError('index-range', `“${fileName}” points at a vertex that is not there (${where}). Export it again.`, where);
  if (bad) {
    const before = indices.length;
    indices = withoutVertices(indices, bad);
    repairs.count('not-finite', meshName, (before - indices.length) / 3);
  }
  const made: Primitive = { material, attributes, indices: put(indices, 1) };
  const targets = source.listTargets();
  if (targets.length > 0) {
    made.targets = targets.map((target) => {
      const kept: Record<string, Accessor> = {};
      for (const semantic of TARGET_SEMANTICS) {
        const accessor = target.getAttribute(semantic);
        if (!accessor) continue;
        if (accessor.getCount() !== count)
          throw invalid(fileName, where, `a morph target has ${accessor.getCount()} entries for ${count} vertices`);
        kept[semantic] = put(finite(floats(accessor, 3, fileName, where)), 3);
      }
      return kept;
    });
  }
  return made;
}

/** Values as floats of their own; normalised integers become the numbers that they stand for. */
export function floats(accessor: GltfAccessor, size: number, fileName: string, where: string): Float32Array {
  const array = accessor.getArray();
  if (!array || accessor.getElementSize() !== size)
    throw invalid(fileName, where, `an attribute has ${accessor.getElementSize()} numbers a vertex where ${size} belong`);
  // The library's own copy, where it is one: it is not used by anything else.
  if (array instanceof Float32Array) return array.byteLength === array.buffer.byteLength ? array : array.slice();
  if (!accessor.getNormalized()) return Float32Array.from(array);
  const out = new Float32Array(accessor.getCount() * size);
  const row: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) out.set(accessor.getElement(i, row), i * size);
  return out;
}

function isWholeNumbers(numbers: ArrayLike<number>): boolean {
  for (let i = 0; i < numbers.length; i++) if (!Number.isInteger(numbers[i]) || numbers[i] < 0 || numbers[i] > 0xffff) return false;
  return true;
}

/** Marks vertices with a coordinate that is no number, and puts those at the origin; null where all are good. */
export function badVertices(positions: Float32Array): Uint8Array | null {
  if (allFinite(positions)) return null;
  let bad: Uint8Array | null = null;
  for (let i = 0; i < positions.length; i++) {
    if (Number.isFinite(positions[i])) continue;
    bad ??= new Uint8Array(positions.length / 3);
    bad[Math.floor(i / 3)] = 1;
    positions[i] = 0;
  }
  return bad;
}

/** Bits of a 32-bit float's exponent; all of them set mean infinite or no number (IEEE 754). */
const EXPONENT = 0x7f800000;

function allFinite(values: Float32Array): boolean {
  const bits = new Int32Array(values.buffer, values.byteOffset, values.length);
  // A full exponent and one more runs over into the sign: no branch, so that large meshes pass quickly.
  let over = 0;
  for (let i = 0; i < bits.length; i++) over |= (bits[i] & EXPONENT) + 0x00800000;
  return over >= 0;
}

/** The highest index; 0 where there are none. */
export function highestOf(indices: Uint32Array): number {
  let highest = 0;
  for (let i = 0; i < indices.length; i++) if (indices[i] > highest) highest = indices[i];
  return highest;
}

/** The same numbers with 0 in place of what is no number, in place. */
export function finite(values: Float32Array): Float32Array {
  if (allFinite(values)) return values;
  for (let i = 0; i < values.length; i++) if (!Number.isFinite(values[i])) values[i] = 0;
  return values;
}

function withoutVertices(indices: Uint32Array, bad: Uint8Array): Uint32Array {
  const kept = new Uint32Array(indices.length);
  let at = 0;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    if (bad[indices[i]] || bad[indices[i + 1]] || bad[indices[i + 2]]) continue;
    kept.set(indices.subarray(i, i + 3), at);
    at += 3;
  }
  return kept.slice(0, at);
}

/** Makes the weights of every vertex sum up to 1, all sets together; returns how many did not. Vertices with none stay so. */
export function normaliseWeights(sets: Float32Array[]): number {
  let mended = 0;
  for (let v = 0; v < sets[0].length; v += 4) {
    let sum = 0;
    let odd = false;
    for (const set of sets) {
      for (let k = v; k < v + 4; k++) {
        if (!(set[k] >= 0) || set[k] === Infinity) {
          set[k] = 0;
          odd = true;
        }
        sum += set[k];
      }
    }
    if (sum > 0 && Math.abs(sum - 1) > 1e-6) {
      if (Math.abs(sum - 1) > 1e-3) odd = true;
      for (const set of sets) for (let k = v; k < v + 4; k++) set[k] /= sum;
    }
    if (odd) mended++;
  }
  return mended;
}

/** Strips and fans become lists (glTF 2.0, 3.7.2.1). */
function triangleList(primitive: GltfPrimitive, vertices: number): Uint32Array {
  const given = primitive.getIndices()?.getArray();
  const whole = given instanceof Uint32Array && given.byteLength === given.buffer.byteLength ? given : null;
  const source = whole ?? (given ? new Uint32Array(given) : Uint32Array.from({ length: vertices }, (_, i) => i));
  const mode = primitive.getMode();
  if (mode === 4) return source.length % 3 === 0 ? source : source.slice(0, source.length - (source.length % 3));
  const out = new Uint32Array(Math.max(0, source.length - 2) * 3);
  for (let i = 0; i + 2 < source.length; i++) {
    const odd = i % 2;
    out.set(mode === 5 ? [source[i], source[i + 1 + odd], source[i + 2 - odd]] : [source[i + 1], source[i + 2], source[0]], 3 * i);
  }
  return out;
}
