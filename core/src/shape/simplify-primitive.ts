import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import { KitError, putArray, readArray, type Blobs, type Primitive } from '../document';
import { dropUnused, weldedPlaces } from '../geometry';

/** `loadSimplifier` has not been waited for. */
export class SimplifierNotReadyError extends KitError {
  constructor() {
    super('not-ready', 'The simplifier is still being loaded. Try again in a moment.', null);
  }
}

let ready = false;

/** Loads the simplifier; to be awaited once before anything is simplified. */
export async function loadSimplifier(): Promise<void> {
  await MeshoptSimplifier.ready;
  ready = true;
}

export interface Simplified {
  primitive: Primitive;
  /** How far the surface lies from the old one, metres in the mesh's own axes: the root mean square over the quadrics of the worst edge. */
  error: number;
}

/** What stays as it is. */
export interface Keep {
  /** Open edges. */
  borders: boolean;
  /** Whether UVs show a picture, so that their seams have to hold. */
  uvs: boolean;
  /** One for each vertex that stays. */
  locked: Uint8Array | null;
}

/** Weights of what else shall stay as it was: normals, and UVs. A unit of position is the mesh's extent. */
const NORMAL_WEIGHT = 0.35;
const UV_WEIGHT = 0.6;

/** Flags of a vertex for meshoptimizer. */
const LOCK = 1;
const PROTECT = 2;

/** A mesh's greatest extent, metres: what errors are shares of. @throws {SimplifierNotReadyError} */
export function extentOf(primitive: Primitive, blobs: Blobs): number {
  if (!ready) throw new SimplifierNotReadyError();
  return MeshoptSimplifier.getScale(readArray<Float32Array>(blobs, primitive.attributes.POSITION), 3);
}

/**
 * Fewer triangles by edge collapse with quadric errors (Garland & Heckbert 1997), through meshoptimizer: vertices are taken away, never
 * moved, so weights, UVs and morph targets of those that stay are as they were. Edges where only normals part may go; seams of UVs hold.
 *
 * @param triangles As few as this. @param most Error that is not exceeded, metres in the mesh's own axes.
 */
export function simplifyPrimitive(primitive: Primitive, triangles: number, most: number, keep: Keep, blobs: Blobs): Simplified {
  if (primitive.indices.count / 3 <= triangles) return { primitive, error: 0 };
  const scale = extentOf(primitive, blobs) || 1;
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const { values, stride, weights } = attributesOf(primitive, keep.uvs, blobs);
  const flags = vertexFlags(primitive, positions, keep, blobs);
  const target = 3 * Math.max(0, Math.floor(triangles));
  const [made, relative] = MeshoptSimplifier.simplifyWithAttributes(
    indices,
    positions,
    3,
    values,
    stride,
    weights,
    flags,
    target,
    Math.min(1, most / scale),
    keep.borders ? ['LockBorder', 'Permissive'] : ['Permissive'],
  );
  return { primitive: dropUnused({ ...primitive, indices: putArray(blobs, made, 1) }, blobs), error: relative * scale };
}

function attributesOf({ attributes }: Primitive, uvs: boolean, blobs: Blobs): { values: Float32Array; stride: number; weights: number[] } {
  const { NORMAL } = attributes;
  const TEXCOORD_0 = uvs ? attributes.TEXCOORD_0 : undefined;
  const weights = [...(NORMAL ? [NORMAL_WEIGHT, NORMAL_WEIGHT, NORMAL_WEIGHT] : []), ...(TEXCOORD_0 ? [UV_WEIGHT, UV_WEIGHT] : [])];
  if (NORMAL && !TEXCOORD_0) return { values: readArray<Float32Array>(blobs, NORMAL), stride: 3, weights };
  if (weights.length === 0) return { values: new Float32Array(0), stride: 0, weights };
  const stride = weights.length;
  const values = new Float32Array(stride * attributes.POSITION.count);
  let first = 0;
  for (const accessor of [NORMAL, TEXCOORD_0]) {
    if (!accessor) continue;
    const source = readArray<Float32Array>(blobs, accessor);
    for (let v = 0; v < accessor.count; v++)
      for (let k = 0; k < accessor.size; k++) values[stride * v + first + k] = source[accessor.size * v + k];
    first += accessor.size;
  }
  return { values, stride, weights };
}

/** What may not be taken away, and where a seam of UVs has to hold; null where there is nothing of the kind. */
function vertexFlags({ attributes }: Primitive, positions: Float32Array, { uvs, locked }: Keep, blobs: Blobs): Uint8Array | null {
  const accessor = uvs ? attributes.TEXCOORD_0 : undefined;
  if (!accessor) return locked && locked.map((one) => (one ? LOCK : 0));
  const uv = readArray<Float32Array>(blobs, accessor);
  const places = weldedPlaces(positions);
  const seam = new Uint8Array(places.length);
  for (let v = 0; v < places.length; v++)
    if (uv[2 * v] !== uv[2 * places[v]] || uv[2 * v + 1] !== uv[2 * places[v] + 1]) seam[places[v]] = 1;
  return Uint8Array.from(places, (place, v) => (seam[place] ? PROTECT : 0) | (locked?.[v] ? LOCK : 0));
}
