import { readArray, type Blobs, type Id, type Kit, type Part, type Primitive } from '../document';
import { multiplyMatrices, type Mat4 } from './linear';
import { flattenParts, Poser } from './pose';

export interface Bounds {
  min: [number, number, number];
  max: [number, number, number];
}

export function emptyBounds(): Bounds {
  return { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
}

export function isEmptyBounds(bounds: Bounds): boolean {
  return !(bounds.min[0] <= bounds.max[0]);
}

export function sizeOf(bounds: Bounds): [number, number, number] {
  return isEmptyBounds(bounds) ? [0, 0, 0] : [bounds.max[0] - bounds.min[0], bounds.max[1] - bounds.min[1], bounds.max[2] - bounds.min[2]];
}

export function growBounds(bounds: Bounds, points: ArrayLike<number>): void {
  for (let i = 0; i < points.length; i += 3) {
    for (let axis = 0; axis < 3; axis++) {
      const value = points[i + axis];
      if (value < bounds.min[axis]) bounds.min[axis] = value;
      if (value > bounds.max[axis]) bounds.max[axis] = value;
    }
  }
}

export function joinBounds(all: Iterable<Bounds>): Bounds {
  const result = emptyBounds();
  for (const one of all) if (!isEmptyBounds(one)) growBounds(result, [...one.min, ...one.max]);
  return result;
}

/** Joint matrices (world · inverse bind) of a skin, 16 numbers each. */
export function jointMatrices(kit: Kit, blobs: Blobs, skinId: Id, worldOf: (id: Id) => Float64Array): Mat4[] {
  const skin = kit.skins[skinId];
  const inverse = readArray<Float32Array>(blobs, skin.inverseBindMatrices);
  return skin.joints.map((joint, index) => multiplyMatrices(worldOf(joint), Float64Array.from(inverse.subarray(16 * index, 16 * index + 16))));
}

/**
 * World positions of all vertices of a part, primitive after primitive, then its strokes, 3 numbers each. Skinned parts follow their joints
 * alone (glTF 2.0, 3.7.3.3): linear blend of joint matrices by the weights of JOINTS_0/WEIGHTS_0 and up.
 *
 * Morph targets are added before that, by their weights.
 *
 * @param worldOf World matrix of a part in the pose wanted.
 * @param weights Morph weights in the pose wanted; those at rest where left out.
 */
export function posedVertices(kit: Kit, blobs: Blobs, part: Part, worldOf: (id: Id) => Float64Array, weights?: ArrayLike<number>): Float64Array {
  if (part.mesh === null) return new Float64Array(0);
  const { primitives, strokes = [] } = kit.meshes[part.mesh];
  const total = meshCounts(kit, part.mesh).vertices;
  const out = new Float64Array(3 * total);
  const joints = part.skin === null ? null : jointMatrices(kit, blobs, part.skin, worldOf);
  const world = worldOf(part.id);
  const rest = (kit.meshes[part.mesh].targets ?? []).map((target) => target.weight);
  let at = 0;
  for (const primitive of primitives) {
    const accessor = primitive.attributes.POSITION;
    if (!accessor) continue;
    const positions = morphed(primitive, weights ?? rest, blobs);
    const blended = joints && primitive.attributes.JOINTS_0 ? blendMatrices(blobs, primitive.attributes, joints) : null;
    at = place(positions, blended ?? (() => world), out, at);
  }
  for (const stroke of strokes) at = place(readArray(blobs, stroke.attributes.POSITION), () => world, out, at);
  return out;
}

/** Writes transformed positions from `at` on; gives where they end. */
function place(positions: ArrayLike<number>, matrixOf: (vertex: number) => Mat4, out: Float64Array, at: number): number {
  for (let v = 0; 3 * v < positions.length; v++, at += 3) {
    const m = matrixOf(v);
    const x = positions[3 * v];
    const y = positions[3 * v + 1];
    const z = positions[3 * v + 2];
    out[at] = m[0] * x + m[4] * y + m[8] * z + m[12];
    out[at + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
    out[at + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
  }
  return at;
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

function blendMatrices(blobs: Blobs, attributes: Kit['meshes'][string]['primitives'][number]['attributes'], joints: Mat4[]): (vertex: number) => Float64Array {
  const sets: { joints: ArrayLike<number>; weights: ArrayLike<number> }[] = [];
  for (let n = 0; attributes[`JOINTS_${n}`] && attributes[`WEIGHTS_${n}`]; n++) {
    sets.push({ joints: readArray(blobs, attributes[`JOINTS_${n}`]), weights: readArray(blobs, attributes[`WEIGHTS_${n}`]) });
  }
  const m = new Float64Array(16);
  return (vertex) => {
    m.fill(0);
    for (const set of sets) {
      for (let k = 4 * vertex; k < 4 * vertex + 4; k++) {
        const weight = set.weights[k];
        if (weight === 0) continue;
        const joint = joints[set.joints[k]];
        for (let e = 0; e < 16; e++) m[e] += weight * joint[e];
      }
    }
    return m;
  };
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
