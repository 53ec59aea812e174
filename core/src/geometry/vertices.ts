import { readArray, type Blobs, type Id, type Kit, type Part, type Primitive } from '../document';
import { multiplyMatrices, type Mat4 } from './linear';
import { flattenParts, Poser } from './pose';

export interface Bounds {
  min: [number, number, number];
  max: [number, number, number];
}

/** Bounds that hold nothing, ready to grow. */
export function emptyBounds(): Bounds {
  return { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
}

export type BoundsSide = 'low' | 'middle' | 'high';

/** Where the low side, the middle or the high side of a box lies along an axis, in the box's own unit. */
export function sideOfBounds({ min, max }: Bounds, axis: number, side: BoundsSide): number {
  return { low: min[axis], middle: (min[axis] + max[axis]) / 2, high: max[axis] }[side];
}

/** Whether bounds hold no point. */
export function isEmptyBounds(bounds: Bounds): boolean {
  return !(bounds.min[0] <= bounds.max[0]);
}

/** How long bounds are along the axes; 0 where they are empty. */
export function sizeOf(bounds: Bounds): [number, number, number] {
  return isEmptyBounds(bounds) ? [0, 0, 0] : [bounds.max[0] - bounds.min[0], bounds.max[1] - bounds.min[1], bounds.max[2] - bounds.min[2]];
}

/** Makes bounds hold points too, three numbers each. */
export function growBounds(bounds: Bounds, points: ArrayLike<number>): void {
  for (let i = 0; i < points.length; i += 3) {
    for (let axis = 0; axis < 3; axis++) {
      const value = points[i + axis];
      if (value < bounds.min[axis]) bounds.min[axis] = value;
      if (value > bounds.max[axis]) bounds.max[axis] = value;
    }
  }
}

/** Bounds that hold all of these. */
export function joinBounds(all: Iterable<Bounds>): Bounds {
  const result = emptyBounds();
  for (const one of all) if (!isEmptyBounds(one)) growBounds(result, [...one.min, ...one.max]);
  return result;
}

/** Joint matrices (world · inverse bind) of a skin, 16 numbers each. */
export function jointMatrices(kit: Kit, blobs: Blobs, skinId: Id, worldOf: (id: Id) => Float64Array): Mat4[] {
  const skin = kit.skins[skinId];
  const inverse = readArray<Float32Array>(blobs, skin.inverseBindMatrices);
  return skin.joints.map((joint, index) =>
    multiplyMatrices(worldOf(joint), Float64Array.from(inverse.subarray(16 * index, 16 * index + 16))),
  );
}

/**
 * World positions of all vertices of a part, primitive after primitive, then its strokes, 3 numbers each. Skinned parts follow their joints
 * alone (glTF 2.0, 3.7.3.3): linear blend of joint matrices by the weights of JOINTS_0/WEIGHTS_0 and up.
 *
 * Morph targets are added before that, by their weights.
 *
 * @param worldOf World matrix of a part in the pose wanted.
 * @param weights Morph weights in the pose wanted; those at rest where left out.
 * @param into What the same part gave before, to be written over: for many frames one after the other.
 */
export function posedVertices(
  kit: Kit,
  blobs: Blobs,
  part: Part,
  worldOf: (id: Id) => Float64Array,
  weights?: ArrayLike<number>,
  into?: Float64Array,
): Float64Array {
  if (part.mesh === null) return new Float64Array(0);
  const { primitives, strokes = [] } = kit.meshes[part.mesh];
  const total = meshCounts(kit, part.mesh).vertices;
  const out = into?.length === 3 * total ? into : new Float64Array(3 * total);
  const joints = part.skin === null ? null : jointMatrices(kit, blobs, part.skin, worldOf);
  const world = worldOf(part.id);
  const rest = (kit.meshes[part.mesh].targets ?? []).map((target) => target.weight);
  let at = 0;
  for (const primitive of primitives) {
    const accessor = primitive.attributes.POSITION;
    if (!accessor) continue;
    const positions = morphed(primitive, weights ?? rest, blobs);
    if (joints && primitive.attributes.JOINTS_0) placeSkinned(positions, weightSetsOf(primitive, blobs), joints, out, at);
    else place(positions, world, out, at);
    at += positions.length;
  }
  for (const stroke of strokes) {
    const positions = readArray<Float32Array>(blobs, stroke.attributes.POSITION);
    place(positions, world, out, at);
    at += positions.length;
  }
  return out;
}

/** Writes transformed positions from `at` on. */
function place(positions: ArrayLike<number>, m: Mat4, out: Float64Array, at: number): void {
  for (let i = 0; i < positions.length; i += 3, at += 3) {
    const x = positions[i];
    const y = positions[i + 1];
    const z = positions[i + 2];
    out[at] = m[0] * x + m[4] * y + m[8] * z + m[12];
    out[at + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
    out[at + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
  }
}

interface WeightSet {
  joints: ArrayLike<number>;
  weights: ArrayLike<number>;
}

function weightSetsOf({ attributes }: Primitive, blobs: Blobs): WeightSet[] {
  const sets: WeightSet[] = [];
  for (let n = 0; attributes[`JOINTS_${n}`] && attributes[`WEIGHTS_${n}`]; n++) {
    sets.push({ joints: readArray(blobs, attributes[`JOINTS_${n}`]), weights: readArray(blobs, attributes[`WEIGHTS_${n}`]) });
  }
  return sets;
}

/**
 * Writes positions moved by each vertex's blend of joint matrices: the blend of the moved points, which is the same. Allocates nothing in
 * the loop.
 */
function placeSkinned(
  positions: ArrayLike<number>,
  sets: readonly WeightSet[],
  matrices: readonly Mat4[],
  out: Float64Array,
  at: number,
): void {
  const m = new Float64Array(16 * matrices.length);
  matrices.forEach((matrix, j) => m.set(matrix, 16 * j));
  const vertices = positions.length / 3;
  out.fill(0, at, at + positions.length);
  for (const { joints, weights } of sets) {
    for (let v = 0, o = at; v < vertices; v++, o += 3) {
      const x = positions[3 * v];
      const y = positions[3 * v + 1];
      const z = positions[3 * v + 2];
      let px = 0;
      let py = 0;
      let pz = 0;
      for (let k = 4 * v; k < 4 * v + 4; k++) {
        const w = weights[k];
        if (w === 0) continue;
        const j = 16 * joints[k];
        px += w * (m[j] * x + m[j + 4] * y + m[j + 8] * z + m[j + 12]);
        py += w * (m[j + 1] * x + m[j + 5] * y + m[j + 9] * z + m[j + 13]);
        pz += w * (m[j + 2] * x + m[j + 6] * y + m[j + 10] * z + m[j + 14]);
      }
      out[o] += px;
      out[o + 1] += py;
      out[o + 2] += pz;
    }
  }
}

/** Positions of a primitive with its morph targets added by weight; the array itself where no weight counts. */
export function morphed(primitive: Primitive, weights: ArrayLike<number>, blobs: Blobs): Float32Array {
  const plain = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  let out = plain;
  primitive.targets?.forEach((target, i) => {
    if (!weights[i] || !target.POSITION) return;
    if (out === plain) out = plain.slice();
    const delta = readArray<Float32Array>(blobs, target.POSITION);
    for (let k = 0; k < out.length; k++) out[k] += weights[i] * delta[k];
  });
  return out;
}

/** World bounds at rest of the given parts (all where none are named), exact over their vertices. */
export function restBounds(kit: Kit, blobs: Blobs, ids: Iterable<Id> = Object.keys(kit.parts)): Bounds {
  const poser = new Poser(flattenParts(kit));
  const bounds = emptyBounds();
  for (const id of ids)
    growBounds(
      bounds,
      posedVertices(kit, blobs, kit.parts[id], (other) => poser.worldOf(other)),
    );
  return bounds;
}

/** World bounds at rest of every part that shows a mesh, by id. */
export function boundsByPart(kit: Kit, blobs: Blobs): Map<Id, Bounds> {
  const poser = new Poser(flattenParts(kit));
  const result = new Map<Id, Bounds>();
  for (const part of Object.values(kit.parts)) {
    if (part.mesh === null) continue;
    const bounds = emptyBounds();
    growBounds(
      bounds,
      posedVertices(kit, blobs, part, (other) => poser.worldOf(other)),
    );
    if (!isEmptyBounds(bounds)) result.set(part.id, bounds);
  }
  return result;
}

/** World bounds at rest of all that a kit shows; of its parts' origins where it has no mesh, as a skeleton alone. */
export function kitBounds(kit: Kit, blobs: Blobs): Bounds {
  const bounds = restBounds(kit, blobs);
  if (isEmptyBounds(bounds)) {
    const { world, flat } = new Poser(flattenParts(kit));
    for (let i = 0; i < flat.ids.length; i++) growBounds(bounds, world.subarray(16 * i + 12, 16 * i + 15));
  }
  return bounds;
}

/** Bounds of a part's mesh in the part's own axes. */
export function ownBounds(kit: Kit, blobs: Blobs, part: Part): Bounds {
  const bounds = emptyBounds();
  if (part.mesh === null) return bounds;
  for (const primitive of kit.meshes[part.mesh].primitives) {
    if (primitive.attributes.POSITION) growBounds(bounds, readArray(blobs, primitive.attributes.POSITION));
  }
  for (const stroke of kit.meshes[part.mesh].strokes ?? []) growBounds(bounds, readArray(blobs, stroke.attributes.POSITION));
  return bounds;
}

export interface Counts {
  triangles: number;
  vertices: number;
}

/** Triangles and vertices of a mesh; 0 for none. */
export function meshCounts(kit: Kit, mesh: Id | null): Counts {
  const counts = { triangles: 0, vertices: 0 };
  if (mesh === null) return counts;
  const { primitives, strokes = [] } = kit.meshes[mesh];
  for (const { indices, attributes } of primitives) {
    counts.triangles += Math.floor(indices.count / 3);
    counts.vertices += attributes.POSITION?.count ?? 0;
  }
  for (const stroke of strokes) counts.vertices += stroke.attributes.POSITION.count;
  return counts;
}

/** Triangles and vertices drawn: each mesh once for every part that shows it. */
export function kitCounts(kit: Kit): Counts {
  const total = { triangles: 0, vertices: 0 };
  for (const part of Object.values(kit.parts)) {
    const one = meshCounts(kit, part.mesh);
    total.triangles += one.triangles;
    total.vertices += one.vertices;
  }
  return total;
}
