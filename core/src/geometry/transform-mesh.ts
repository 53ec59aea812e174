import {
  newId,
  putArray,
  readArray,
  type Accessor,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type Primitive,
  type Skin,
  type Stroke,
  type Vec3,
} from '../document';
import { applyMat3, determinantMat3, greatestStretch, invertMat3, transposeMat3, type Mat3, type Mat4 } from './linear';

/**
 * A primitive with every position p made `linear · p + translation`. Normals go by the inverse transpose; where the
 * transformation mirrors, winding and tangent handedness turn (Lengyel, "Foundations of Game Engine Development 2", 2019).
 */
export function transformPrimitive(primitive: Primitive, linear: Mat3, translation: Vec3, blobs: Blobs): Primitive {
  const mirrored = determinantMat3(linear) < 0;
  const attributes: Record<string, Accessor> = { ...primitive.attributes };
  const pureMove = linear.every((value, index) => value === (index % 4 === 0 ? 1 : 0));

  if (attributes.POSITION) attributes.POSITION = mapRows(blobs, attributes.POSITION, (row) => add(applyMat3(linear, row), translation));
  if (!pureMove) {
    const inverse = invertMat3(linear);
    if (attributes.NORMAL && inverse) {
      const normalMatrix = transposeMat3(inverse).map((value) => (mirrored ? -value : value));
      const flip = mirrored ? -1 : 1;
      attributes.NORMAL = mapRows(blobs, attributes.NORMAL, (row) =>
        unit(applyMat3(normalMatrix, row).map((value) => value * flip) as Vec3, row),
      );
    }
    if (attributes.TANGENT) {
      attributes.TANGENT = mapRows(blobs, attributes.TANGENT, (row) => [...unit(applyMat3(linear, row), row), mirrored ? -row[3] : row[3]]);
    }
  }
  const made: Primitive = { ...primitive, attributes, indices: mirrored ? flipWinding(blobs, primitive.indices) : primitive.indices };
  if (primitive.targets && !pureMove) made.targets = primitive.targets.map((target) => transformTarget(target, linear, blobs));
  return made;
}

/**
 * Differences go by the linear part alone; those of normals by the inverse transpose at its own length, near enough for a turn and one
 * unit.
 */
function transformTarget(target: Record<string, Accessor>, linear: Mat3, blobs: Blobs): Record<string, Accessor> {
  const scale = Math.cbrt(Math.abs(determinantMat3(linear))) || 1;
  const turn = linear.map((value) => value / scale) as Mat3;
  return Object.fromEntries(
    Object.entries(target).map(([semantic, accessor]) => [
      semantic,
      mapRows(blobs, accessor, (row) => applyMat3(semantic === 'POSITION' ? linear : turn, row)),
    ]),
  );
}

/** A mesh with all its primitives transformed. */
export function transformMesh(mesh: Mesh, linear: Mat3, translation: Vec3, blobs: Blobs): Mesh {
  const made: Mesh = { ...mesh, primitives: mesh.primitives.map((primitive) => transformPrimitive(primitive, linear, translation, blobs)) };
  if (mesh.levels)
    made.levels = mesh.levels.map((level) => ({
      ...level,
      errorMm: level.errorMm * greatestStretch(linear),
      primitives: level.primitives.map((primitive) => transformPrimitive(primitive, linear, translation, blobs)),
    }));
  if (mesh.strokes) made.strokes = mesh.strokes.map((stroke) => transformStroke(stroke, linear, translation, blobs));
  return made;
}

function transformStroke(stroke: Stroke, linear: Mat3, translation: Vec3, blobs: Blobs): Stroke {
  return {
    ...stroke,
    attributes: {
      ...stroke.attributes,
      POSITION: mapRows(blobs, stroke.attributes.POSITION, (row) => add(applyMat3(linear, row), translation)),
    },
  };
}

/**
 * Transforms the mesh of one part alone: where other parts show the same mesh, the part gets its own.
 * Writes to the draft.
 */
export function transformPartMesh(kit: Kit, partId: Id, linear: Mat3, translation: Vec3, blobs: Blobs): void {
  editPartMesh(kit, partId, (mesh) => transformMesh(mesh, linear, translation, blobs));
}

/** Replaces the mesh of one part alone by what `edit` makes of it; shared meshes are parted first. Writes to the draft. */
export function editPartMesh(kit: Kit, partId: Id, edit: (mesh: Mesh) => Mesh): void {
  const part = kit.parts[partId];
  if (part.mesh === null) return;
  const shared = Object.values(kit.parts).some((other) => other.id !== partId && other.mesh === part.mesh);
  const edited = withoutStaleLevels(kit.meshes[part.mesh], edit(kit.meshes[part.mesh]));
  const id = shared ? newId() : part.mesh;
  kit.meshes[id] = { ...edited, id };
  part.mesh = id;
}

/**
 * Replaces the meshes of some parts by what `edit` makes of them, each once; parts that are not among them keep theirs. Writes to the
 * draft.
 */
export function editMeshesOf(kit: Kit, parts: readonly Id[], edit: (mesh: Mesh) => Mesh): void {
  const chosen = new Set(parts);
  for (const mesh of new Set(parts.map((id) => kit.parts[id].mesh))) {
    if (mesh === null) continue;
    const users = Object.values(kit.parts).filter((part) => part.mesh === mesh);
    const own = users.filter((part) => chosen.has(part.id));
    const id = own.length === users.length ? mesh : newId();
    kit.meshes[id] = { ...withoutStaleLevels(kit.meshes[mesh], edit(kit.meshes[mesh])), id };
    for (const part of own) part.mesh = id;
  }
}

function mapRows(blobs: Blobs, accessor: Accessor, map: (row: ArrayLike<number>) => number[]): Accessor {
  const source = readArray<Float32Array>(blobs, accessor);
  const out = new Float32Array(source.length);
  for (let i = 0; i < source.length; i += accessor.size) out.set(map(source.subarray(i, i + accessor.size)), i);
  return putArray(blobs, out, accessor.size);
}

/** Indices with every triangle the other way round. */
export function flipWinding(blobs: Blobs, indices: Accessor): Accessor {
  const out = readArray<Uint32Array>(blobs, indices).slice();
  for (let i = 0; i + 2 < out.length; i += 3) {
    const second = out[i + 1];
    out[i + 1] = out[i + 2];
    out[i + 2] = second;
  }
  return putArray(blobs, out, 1);
}

function add(a: Vec3, b: Vec3): Vec3 {
  return [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
}

function unit(v: Vec3, otherwise: ArrayLike<number>): Vec3 {
  const length = Math.hypot(v[0], v[1], v[2]);
  return length > 0 ? [v[0] / length, v[1] / length, v[2] / length] : [otherwise[0], otherwise[1], otherwise[2]];
}

/** Inverse bind matrices of a skin, one a joint. */
export function readBindMatrices(skin: Skin, blobs: Blobs): Mat4[] {
  const numbers = readArray<Float32Array>(blobs, skin.inverseBindMatrices);
  return skin.joints.map((_, i) => Float64Array.from(numbers.subarray(16 * i, 16 * i + 16)));
}

/** Inverse bind matrices as one accessor of sixteen floats each. */
export function writeBindMatrices(matrices: Mat4[], blobs: Blobs): Accessor {
  const out = new Float32Array(16 * matrices.length);
  matrices.forEach((matrix, i) => out.set(matrix, 16 * i));
  return putArray(blobs, out, 16);
}

/** Levels that were not changed along with their mesh are those of another shape. */
function withoutStaleLevels(before: Mesh, after: Mesh): Mesh {
  if (!after.levels || after.levels !== before.levels || after.primitives === before.primitives) return after;
  const { levels: _, ...rest } = after;
  return rest;
}
