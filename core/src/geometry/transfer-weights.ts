import { putArray, readArray, type Accessor, type Blobs, type Mesh } from '../document';
import { SurfaceTree } from './nearest-surface';

const KEPT = 4;

/**
 * Gives a mesh the weights of another one in the same space: each vertex those of the nearest point of the other's surface,
 * blended over its triangle, the four largest kept and normalised.
 */
export function transferWeights(from: Mesh, to: Mesh, blobs: Blobs): Mesh {
  const source = gather(from, blobs);
  if (source.indices.length < 3) return to;
  const tree = new SurfaceTree(source.positions, source.indices);
  const primitives = to.primitives.map((primitive) => {
    const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
    const count = positions.length / 3;
    const joints = new Uint16Array(KEPT * count);
    const weights = new Float32Array(KEPT * count);
    for (let v = 0; v < count; v++) {
      const { triangle, barycentric } = tree.nearest(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
      const sum = new Map<number, number>();
      for (let corner = 0; corner < 3; corner++) {
        const vertex = source.indices[3 * triangle + corner];
        for (const [joint, weight] of source.influences[vertex]) sum.set(joint, (sum.get(joint) ?? 0) + weight * barycentric[corner]);
      }
      const best = [...sum].sort((a, b) => b[1] - a[1]).slice(0, KEPT);
      const total = best.reduce((all, [, weight]) => all + weight, 0) || 1;
      best.forEach(([joint, weight], k) => {
        joints[KEPT * v + k] = joint;
        weights[KEPT * v + k] = weight / total;
      });
    }
    const attributes: Record<string, Accessor> = {
      ...primitive.attributes,
      JOINTS_0: putArray(blobs, joints, KEPT),
      WEIGHTS_0: putArray(blobs, weights, KEPT),
    };
    for (const semantic of Object.keys(attributes)) if (/^(JOINTS|WEIGHTS)_[1-9]/.test(semantic)) delete attributes[semantic];
    return { ...primitive, attributes };
  });
  return { ...to, primitives };
}

function gather(mesh: Mesh, blobs: Blobs): { positions: number[]; indices: number[]; influences: [number, number][][] } {
  const positions: number[] = [];
  const indices: number[] = [];
  const influences: [number, number][][] = [];
  for (const { attributes, indices: list } of mesh.primitives) {
    const first = positions.length / 3;
    const own = readArray<Float32Array>(blobs, attributes.POSITION);
    for (const value of own) positions.push(value);
    for (const index of readArray<Uint32Array>(blobs, list)) indices.push(first + index);
    for (let v = 0; v < own.length / 3; v++) {
      const all: [number, number][] = [];
      for (let n = 0; attributes[`JOINTS_${n}`] && attributes[`WEIGHTS_${n}`]; n++) {
        const joints = readArray(blobs, attributes[`JOINTS_${n}`]);
        const weights = readArray(blobs, attributes[`WEIGHTS_${n}`]);
        for (let k = 4 * v; k < 4 * v + 4; k++) if (weights[k] > 0) all.push([joints[k], weights[k]]);
      }
      influences.push(all);
    }
  }
  return { positions, indices, influences };
}
