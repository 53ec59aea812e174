import { putArray, readArray, type Accessor, type Blobs, type Mesh, type NumberArray, type Primitive, type Vec3 } from '../document';

/** Nearer than this to the plane, as a share of the mesh's size, a vertex lies on it. */
const ON = 1e-7;

/**
 * A mesh whose triangles lie on one side of a plane or the other: those across it are divided where they meet it (Sutherland & Hodgman
 * 1974).
 * Attributes are interpolated along the edges; of the joints of both ends the four with the most weight are kept.
 *
 * @returns the mesh, and for each of its triangles 1 where it lies on the side that the normal points to.
 */
export function cutMesh(mesh: Mesh, at: Vec3, normal: Vec3, blobs: Blobs): { mesh: Mesh; above: Uint8Array } {
  const sides: number[] = [];
  const primitives = mesh.primitives.map((primitive) => cutPrimitive(primitive, at, normal, blobs, sides));
  const { levels: _, ...rest } = mesh;
  return { mesh: { ...rest, primitives }, above: Uint8Array.from(sides) };
}

function cutPrimitive(primitive: Primitive, at: Vec3, normal: Vec3, blobs: Blobs, sides: number[]): Primitive {
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const length = Math.hypot(...normal);
  const height = new Float64Array(positions.length / 3);
  let size = 0;
  for (let v = 0; v < height.length; v++) {
    for (let axis = 0; axis < 3; axis++) {
      height[v] += ((positions[3 * v + axis] - at[axis]) * normal[axis]) / length;
      size = Math.max(size, Math.abs(positions[3 * v + axis]));
    }
  }
  for (let v = 0; v < height.length; v++) if (Math.abs(height[v]) <= ON * size) height[v] = 0;

  const cuts: Cut[] = [];
  const cutAt = new Map<string, number>();
  const crossing = (a: number, b: number): number => {
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = `${low}/${high}`;
    let vertex = cutAt.get(key);
    if (vertex === undefined) {
      vertex = height.length + cuts.length;
      cutAt.set(key, vertex);
      cuts.push({ low, high, share: height[low] / (height[low] - height[high]) });
    }
    return vertex;
  };
  const next: number[] = [];
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const corners = [indices[t], indices[t + 1], indices[t + 2]];
    for (const side of [-1, 1]) {
      const polygon: number[] = [];
      corners.forEach((corner, k) => {
        const other = corners[(k + 1) % 3];
        if (side * height[corner] >= 0) polygon.push(corner);
        if (height[corner] * height[other] < 0) polygon.push(crossing(corner, other));
      });
      // What lies in the plane with all its corners belongs to the lower side.
      const inPlane = polygon.every((vertex) => vertex >= height.length || height[vertex] === 0);
      if (polygon.length < 3 || (inPlane && side > 0)) continue;
      for (let k = 1; k + 1 < polygon.length; k++) {
        next.push(polygon[0], polygon[k], polygon[k + 1]);
        sides.push(side > 0 ? 1 : 0);
      }
    }
  }
  if (cuts.length === 0) return { ...primitive, indices: putArray(blobs, Uint32Array.from(next), 1) };
  const extend = (all: Record<string, Accessor>) => extendAttributes(all, cuts, blobs);
  const made: Primitive = { ...primitive, attributes: extend(primitive.attributes), indices: putArray(blobs, Uint32Array.from(next), 1) };
  if (primitive.targets) made.targets = primitive.targets.map(extend);
  return made;
}

interface Cut {
  low: number;
  high: number;
  /** Way from `low` to `high`, 0 to 1. */
  share: number;
}

function extendAttributes(all: Record<string, Accessor>, cuts: Cut[], blobs: Blobs): Record<string, Accessor> {
  const out: Record<string, Accessor> = {};
  for (const [semantic, accessor] of Object.entries(all)) {
    if (/^(JOINTS|WEIGHTS)_/.test(semantic)) continue;
    const rows = extended(blobs, accessor, cuts.length);
    const old = accessor.count * accessor.size;
    cuts.forEach(({ low, high, share }, n) => {
      const at = old + n * accessor.size;
      for (let k = 0; k < accessor.size; k++)
        rows[at + k] = rows[low * accessor.size + k] * (1 - share) + rows[high * accessor.size + k] * share;
      if (semantic === 'NORMAL' || semantic === 'TANGENT') {
        const length = Math.hypot(rows[at], rows[at + 1], rows[at + 2]);
        if (length > 0) for (let k = 0; k < 3; k++) rows[at + k] /= length;
        if (semantic === 'TANGENT') rows[at + 3] = rows[low * 4 + 3];
      }
    });
    out[semantic] = putArray(blobs, rows, accessor.size);
  }
  if (all.JOINTS_0 && all.WEIGHTS_0) Object.assign(out, blendedWeights(all, cuts, blobs));
  return out;
}

function extended(blobs: Blobs, accessor: Accessor, more: number): NumberArray {
  const source = readArray(blobs, accessor);
  const rows = new (source.constructor as Float32ArrayConstructor)(source.length + more * accessor.size);
  rows.set(source as Float32Array);
  return rows;
}

function blendedWeights(all: Record<string, Accessor>, cuts: Cut[], blobs: Blobs): Record<string, Accessor> {
  const sets = Object.keys(all).filter((semantic) => semantic.startsWith('JOINTS_')).length;
  const joints = Array.from({ length: sets }, (_, n) => extended(blobs, all[`JOINTS_${n}`], cuts.length));
  const weights = Array.from({ length: sets }, (_, n) => extended(blobs, all[`WEIGHTS_${n}`], cuts.length));
  cuts.forEach(({ low, high, share }, n) => {
    const sum = new Map<number, number>();
    for (const [vertex, factor] of [
      [low, 1 - share],
      [high, share],
    ])
      for (let s = 0; s < sets; s++)
        for (let k = 4 * vertex; k < 4 * vertex + 4; k++)
          if (weights[s][k] > 0) sum.set(joints[s][k], (sum.get(joints[s][k]) ?? 0) + factor * weights[s][k]);
    const best = [...sum].sort((a, b) => b[1] - a[1]).slice(0, 4 * sets);
    const total = best.reduce((all, [, weight]) => all + weight, 0) || 1;
    best.forEach(([joint, weight], i) => {
      const at = 4 * (all.JOINTS_0.count + n) + (i % 4);
      joints[Math.floor(i / 4)][at] = joint;
      weights[Math.floor(i / 4)][at] = weight / total;
    });
  });
  const out: Record<string, Accessor> = {};
  for (let n = 0; n < sets; n++) {
    out[`JOINTS_${n}`] = putArray(blobs, joints[n], 4);
    out[`WEIGHTS_${n}`] = putArray(blobs, weights[n], 4);
  }
  return out;
}
