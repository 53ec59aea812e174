import { newId, newPart, putArray, type Blobs, type Id, type Kit, type Part, type Primitive, type ReadingNote } from '../document';
import { recomputeNormals } from '../geometry';

/** Corners up to this angle are shaded smooth where a file has no normals, degrees. */
const SMOOTH_DEGREES = 40;

/** Triangles as a format without nodes gives them: rows of one vertex each, and triples of rows. */
export interface LooseMesh {
  material: Id | null;
  positions: number[];
  /** As long as `positions`, or empty where the file has none. */
  normals: number[];
  /** Two a vertex, from the top left as in glTF; or empty. */
  uvs: number[];
  /** The same of a second set; absent where there is none. */
  uvs1?: number[];
  indices: number[];
  /** A smoothing group for each triangle, 0 for flat; absent where the file says nothing of them. */
  groups?: number[];
  /** What each morph target adds to the positions, as long as these. */
  targets?: number[][];
  /** Joint numbers and weights, 4 for each of `sets` a vertex, set after set. */
  influences?: { joints: Uint16Array; weights: Float32Array }[];
}

/**
 * Puts a part with a mesh into a kit. Missing normals are computed, and triangles with a position that is no number are
 * dropped; both are noted. A mesh with nothing left makes no part: null.
 */
export function addLoosePart(
  kit: Kit,
  name: string,
  meshes: LooseMesh[],
  blobs: Blobs,
  notes: ReadingNote[],
  fields: Partial<Part> = {},
): Part | null {
  let dropped = 0;
  let without = 0;
  const primitives = meshes.flatMap((mesh): Primitive[] => {
    const finite = (index: number) =>
      Number.isFinite(mesh.positions[3 * index] + mesh.positions[3 * index + 1] + mesh.positions[3 * index + 2]);
    const kept: number[] = [];
    const groups: number[] = [];
    for (let i = 0; i + 2 < mesh.indices.length; i += 3) {
      if (finite(mesh.indices[i]) && finite(mesh.indices[i + 1]) && finite(mesh.indices[i + 2])) {
        kept.push(mesh.indices[i], mesh.indices[i + 1], mesh.indices[i + 2]);
        if (mesh.groups) groups.push(mesh.groups[i / 3]);
      } else dropped++;
    }
    if (kept.length === 0) return [];
    const safe = mesh.positions.map((value) => (Number.isFinite(value) ? value : 0));
    const attributes: Primitive['attributes'] = { POSITION: putArray(blobs, Float32Array.from(safe), 3) };
    if (mesh.uvs.length > 0) attributes.TEXCOORD_0 = putArray(blobs, Float32Array.from(mesh.uvs), 2);
    if (mesh.uvs1) attributes.TEXCOORD_1 = putArray(blobs, Float32Array.from(mesh.uvs1), 2);
    mesh.influences?.forEach(({ joints, weights }, n) => {
      attributes[`JOINTS_${n}`] = putArray(blobs, joints, 4);
      attributes[`WEIGHTS_${n}`] = putArray(blobs, weights, 4);
    });
    const primitive: Primitive = { material: mesh.material, attributes, indices: putArray(blobs, Uint32Array.from(kept), 1) };
    if (mesh.targets) primitive.targets = mesh.targets.map((target) => ({ POSITION: putArray(blobs, Float32Array.from(target), 3) }));
    if (mesh.normals.length === 0) {
      without++;
      return [recomputeNormals(primitive, SMOOTH_DEGREES, blobs, mesh.groups && groups)];
    }
    attributes.NORMAL = putArray(blobs, Float32Array.from(mesh.normals), 3);
    return [primitive];
  });
  if (dropped > 0)
    notes.push({
      grade: 'warn',
      code: 'not-finite',
      message: `Dropped: ${dropped} triangles of “${name}” with a position that is no number.`,
      part: name,
    });
  if (without > 0)
    notes.push({
      grade: 'note',
      code: 'normals-computed',
      message: `Computed: the normals of “${name}”, ${meshes.some((mesh) => mesh.groups) ? 'smooth within its smoothing groups' : `smooth up to ${SMOOTH_DEGREES}°`}.`,
      part: name,
    });
  if (primitives.length === 0) return null;
  const mesh = { id: newId(), name, primitives };
  kit.meshes[mesh.id] = mesh;
  const part = newPart({ name, from: name, order: Object.keys(kit.parts).length, mesh: mesh.id, ...fields });
  kit.parts[part.id] = part;
  return part;
}
