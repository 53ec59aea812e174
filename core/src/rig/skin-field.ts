import {
  newId,
  partOf,
  putArray,
  readArray,
  type Accessor,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type Primitive,
  type Skin,
} from '../document';
import {
  areaNormals,
  editPartMesh,
  invertMatrix,
  jointMatrices,
  type Mat4,
  multiplyMatrices,
  posedVertices,
  readBindMatrices,
  restWorlds,
  transformMesh,
  transformPoint,
  writeBindMatrices,
} from '../geometry';
import { NoJointError, NoSkinMeshError } from './rig-errors';
import { keepStrongest, places } from './solve-weights';

/** Which vertices of a field belong to which primitive of which part. */
export interface Span {
  part: Id;
  primitive: number;
  /** First vertex in the field. */
  start: number;
  count: number;
}

/** The surfaces of some parts at rest, in one: what weights are worked out on. */
export interface Surface {
  /** World, metres, 3 numbers a vertex. */
  positions: Float32Array;
  /** 3 a triangle. */
  indices: Uint32Array;
  spans: Span[];
}

/** @throws {NoSkinMeshError} where none of the parts has a mesh */
export function surfaceOf(kit: Kit, parts: readonly Id[], blobs: Blobs): Surface {
  const worlds = restWorlds(kit);
  const spans: Span[] = [];
  const positions: Float64Array[] = [];
  const indices: number[] = [];
  let start = 0;
  for (const id of parts) {
    const part = partOf(kit, id);
    if (part.mesh === null) continue;
    const mesh = kit.meshes[part.mesh];
    const triangles = mesh.primitives.reduce((sum, primitive) => sum + (primitive.attributes.POSITION?.count ?? 0), 0);
    const posed = posedVertices(kit, blobs, part, (other) => worlds.get(other)!).subarray(0, 3 * triangles);
    if (part.skin !== null) standUnheld(kit, id, posed, worlds, blobs);
    positions.push(posed);
    mesh.primitives.forEach((primitive, p) => {
      const count = primitive.attributes.POSITION?.count ?? 0;
      for (const index of readArray<Uint32Array>(blobs, primitive.indices)) indices.push(start + index);
      spans.push({ part: id, primitive: p, start, count });
      start += count;
    });
  }
  if (start === 0) throw new NoSkinMeshError(parts.map((id) => kit.parts[id].name));
  const all = new Float32Array(3 * start);
  let at = 0;
  for (const one of positions) {
    all.set(one, at);
    at += one.length;
  }
  return { positions: all, indices: Uint32Array.from(indices), spans };
}

/** Vertices that nothing holds are drawn at the origin; what they belong to stands where it was bound. Writes to `posed`. */
function standUnheld(kit: Kit, id: Id, posed: Float64Array, worlds: ReadonlyMap<Id, Float64Array>, blobs: Blobs): void {
  const part = kit.parts[id];
  const [place] = jointMatrices(kit, blobs, part.skin!, (joint) => worlds.get(joint)!);
  let at = 0;
  for (const { attributes } of kit.meshes[part.mesh!].primitives) {
    if (!attributes.POSITION) continue;
    const sets = weightSets(attributes, blobs);
    const own = readArray<Float32Array>(blobs, attributes.POSITION);
    for (let v = 0; v < own.length / 3; v++, at += 3) {
      if (!place || sets.some(({ weights }) => weights[4 * v] + weights[4 * v + 1] + weights[4 * v + 2] + weights[4 * v + 3] > 0)) continue;
      posed.set(transformPoint(place, [own[3 * v], own[3 * v + 1], own[3 * v + 2]]), at);
    }
  }
}

/** Weights of all joints at every place of some parts' surfaces: rows that tools write to. Vertices of a part at one place share a row. */
export interface SkinField extends Surface {
  joints: Id[];
  /** `joints.length` numbers a place. */
  rows: Float32Array;
  placeOf: Uint32Array;
  /** 3 numbers a place. */
  points: Float32Array;
  /** Places of the triangles' corners. */
  corners: Uint32Array;
}

/** Places of a surface, part by part: vertices of two parts at one place may be held by different joints, as the boxes of a figure are. */
function placesByPart({ positions, indices, spans }: Surface): { placeOf: Uint32Array; points: Float32Array; corners: Uint32Array } {
  const placeOf = new Uint32Array(positions.length / 3);
  const points: number[] = [];
  for (const part of new Set(spans.map((span) => span.part))) {
    const own = spans.filter((span) => span.part === part);
    const start = own[0].start;
    const count = own.reduce((sum, span) => sum + span.count, 0);
    const found = places(positions.slice(3 * start, 3 * (start + count)), []);
    const first = points.length / 3;
    found.placeOf.forEach((place, v) => (placeOf[start + v] = first + place));
    for (const value of found.points) points.push(value);
  }
  return { placeOf, points: Float32Array.from(points), corners: indices.map((vertex) => placeOf[vertex]) };
}

/**
 * @param more Joints that are to have a column though no skin of the parts has them yet.
 * @throws {NoSkinMeshError}
 */
export function skinField(kit: Kit, parts: readonly Id[], blobs: Blobs, more: readonly Id[] = []): SkinField {
  const surface = surfaceOf(kit, parts, blobs);
  const joints = [
    ...new Set([...parts.flatMap((id) => (kit.parts[id].skin === null ? [] : kit.skins[kit.parts[id].skin!].joints)), ...more]),
  ];
  const column = new Map(joints.map((joint, j) => [joint, j]));
  const { placeOf, points, corners } = placesByPart(surface);
  const width = joints.length;
  const rows = new Float32Array((points.length / 3) * width);
  const seen = new Uint8Array(points.length / 3);
  for (const { part, primitive, start, count } of surface.spans) {
    const { skin, mesh } = kit.parts[part];
    if (skin === null) continue;
    const { attributes } = kit.meshes[mesh!].primitives[primitive];
    const columns = kit.skins[skin].joints.map((joint) => column.get(joint)!);
    const sets = weightSets(attributes, blobs);
    for (let v = 0; v < count; v++) {
      const place = placeOf[start + v];
      if (seen[place]) continue;
      seen[place] = 1;
      for (const set of sets)
        for (let k = 4 * v; k < 4 * v + 4; k++) if (set.weights[k] > 0) rows[place * width + columns[set.joints[k]]] += set.weights[k];
    }
  }
  return { ...surface, joints, rows, placeOf, points, corners };
}

/** The joints and weights of a primitive, four a set, as arrays. */
export function weightSets(
  attributes: Record<string, Accessor>,
  blobs: Blobs,
): { joints: ArrayLike<number>; weights: ArrayLike<number> }[] {
  const sets: { joints: ArrayLike<number>; weights: ArrayLike<number> }[] = [];
  for (let n = 0; attributes[`JOINTS_${n}`] && attributes[`WEIGHTS_${n}`]; n++)
    sets.push({ joints: readArray(blobs, attributes[`JOINTS_${n}`]), weights: readArray(blobs, attributes[`WEIGHTS_${n}`]) });
  return sets;
}

/** Writes the strongest weights of a field to its parts. @param most Joints a vertex, 1 to 4. */
export function writeField(kit: Kit, field: SkinField, blobs: Blobs, most = 4): void {
  const { joints, weights } = keepStrongest(field.rows, field.joints.length, field.placeOf, field.positions.length / 3, most);
  writeWeights(kit, field.spans, field.joints, { joints, weights }, blobs);
}

/**
 * Gives parts weights, four a vertex, by numbers in a list of joints. Nothing moves at rest: parts that had no skin are bound as they
 * stand.
 *
 * @throws {NoJointError} where there is none to be held by
 */
export function writeWeights(
  kit: Kit,
  spans: readonly Span[],
  joints: readonly Id[],
  held: { joints: Uint16Array; weights: Float32Array },
  blobs: Blobs,
): void {
  if (joints.length === 0) throw new NoJointError();
  for (const part of new Set(spans.map((span) => span.part))) {
    const skin = bindPart(kit, part, joints, blobs);
    const columns = joints.map((joint) => skin.joints.indexOf(joint));
    editPartMesh(kit, part, (mesh): Mesh => {
      const primitives = mesh.primitives.map((primitive, p): Primitive => {
        const span = spans.find((one) => one.part === part && one.primitive === p);
        if (!span) return primitive;
        const own = held.joints.slice(4 * span.start, 4 * (span.start + span.count)).map((j) => columns[j]);
        const weights = held.weights.slice(4 * span.start, 4 * (span.start + span.count));
        for (let k = 0; k < own.length; k++) if (weights[k] === 0) own[k] = 0;
        const attributes: Record<string, Accessor> = Object.fromEntries(
          Object.entries(primitive.attributes).filter(([semantic]) => !/^(JOINTS|WEIGHTS)_/.test(semantic)),
        );
        attributes.JOINTS_0 = putArray(blobs, own, 4);
        attributes.WEIGHTS_0 = putArray(blobs, weights, 4);
        return { ...primitive, attributes };
      });
      return { ...mesh, primitives };
    });
  }
  dropUnusedSkins(kit);
}

/** Sees to it that a part has a skin with all those joints, and stands at rest as it stood. */
export function bindPart(kit: Kit, id: Id, joints: readonly Id[], blobs: Blobs): Skin {
  const part = partOf(kit, id);
  const worlds = restWorlds(kit);
  const old = part.skin === null ? null : kit.skins[part.skin];
  const stands = old ? commonPlace(kit, old, blobs, worlds) : worlds.get(id)!;
  if (old && stands && joints.every((joint) => old.joints.includes(joint))) return old;
  if (old && !stands) bakeRest(kit, id, blobs, worlds);
  const place = stands ?? identity();
  const all = [...(old?.joints ?? []), ...joints.filter((joint) => !old?.joints.includes(joint))];
  // A joint of no size can't be undone; it holds as if it had one.
  const binds = all.map((joint) => multiplyMatrices(invertMatrix(worlds.get(joint)!) ?? identity(), place));
  const accessor = writeBindMatrices(binds, blobs);
  const same = Object.values(kit.skins).find(
    (skin) =>
      skin.inverseBindMatrices.blob === accessor.blob &&
      skin.joints.length === all.length &&
      skin.joints.every((joint, j) => joint === all[j]),
  );
  const skin = same ?? { id: newId(), name: part.name, joints: all, inverseBindMatrices: accessor };
  kit.skins[skin.id] = skin;
  part.skin = skin.id;
  return skin;
}

const identity = (): Mat4 => Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);

/** World · inverse bind at rest, where it is the same for all joints: the mesh stands as it was bound. */
function commonPlace(kit: Kit, skin: Skin, blobs: Blobs, worlds: ReadonlyMap<Id, Float64Array>): Mat4 | null {
  const matrices = jointMatrices(kit, blobs, skin.id, (id) => worlds.get(id)!);
  const [first] = matrices;
  return first && matrices.every((matrix) => matrix.every((value, i) => Math.abs(value - first[i]) < 1e-5)) ? first : null;
}

/** Writes the vertices as they stand at rest into the mesh: where rest is another pose than the one that was bound. */
function bakeRest(kit: Kit, id: Id, blobs: Blobs, worlds: ReadonlyMap<Id, Float64Array>): void {
  const part = kit.parts[id];
  const posed = posedVertices(kit, blobs, part, (other) => worlds.get(other)!);
  const matrices = jointMatrices(kit, blobs, part.skin!, (other) => worlds.get(other)!);
  editPartMesh(kit, id, (mesh): Mesh => {
    let start = 0;
    const primitives = mesh.primitives.map((primitive): Primitive => {
      const count = primitive.attributes.POSITION.count;
      const attributes: Record<string, Accessor> = {
        ...primitive.attributes,
        POSITION: putArray(blobs, Float32Array.from(posed.subarray(3 * start, 3 * (start + count))), 3),
      };
      start += count;
      for (const semantic of ['NORMAL', 'TANGENT'] as const)
        if (attributes[semantic]) attributes[semantic] = turnRows(primitive, attributes[semantic], matrices, blobs);
      const targets = primitive.targets?.map((target) =>
        Object.fromEntries(
          Object.entries(target).map(([semantic, accessor]) => [
            semantic,
            turnRows(primitive, accessor, matrices, blobs, semantic === 'POSITION'),
          ]),
        ),
      );
      return { ...primitive, attributes, ...(targets ? { targets } : {}) };
    });
    return { ...mesh, primitives };
  });
}

/** Directions turned by each vertex's blend of joint matrices; of unit length unless `lengths` are kept. */
function turnRows(primitive: Primitive, accessor: Accessor, matrices: readonly Mat4[], blobs: Blobs, lengths = false): Accessor {
  const out = readArray<Float32Array>(blobs, accessor).slice();
  const sets = weightSets(primitive.attributes, blobs);
  for (let v = 0; v < accessor.count; v++) {
    const at = v * accessor.size;
    const own = [out[at], out[at + 1], out[at + 2]];
    const turned = [0, 0, 0];
    for (const set of sets)
      for (let k = 4 * v; k < 4 * v + 4; k++)
        for (let row = 0; set.weights[k] > 0 && row < 3; row++) {
          const m = matrices[set.joints[k]];
          turned[row] += set.weights[k] * (m[row] * own[0] + m[4 + row] * own[1] + m[8 + row] * own[2]);
        }
    const length = lengths ? 1 : Math.hypot(...turned) || 1;
    out.set(
      turned.map((value) => value / length),
      at,
    );
  }
  return putArray(blobs, out, accessor.size);
}

/** Takes a part off its skin; it stays where it stands at rest. */
export function unbindPart(kit: Kit, id: Id, blobs: Blobs): void {
  const part = partOf(kit, id);
  if (part.skin === null) return;
  const worlds = restWorlds(kit);
  const stands = commonPlace(kit, kit.skins[part.skin], blobs, worlds);
  if (!stands) bakeRest(kit, id, blobs, worlds);
  part.skin = null;
  const inverse = invertMatrix(worlds.get(id)!) ?? identity();
  const m = multiplyMatrices(inverse, stands ?? identity());
  editPartMesh(kit, id, (mesh): Mesh => {
    const primitives = mesh.primitives.map((primitive) => ({
      ...primitive,
      attributes: Object.fromEntries(Object.entries(primitive.attributes).filter(([semantic]) => !/^(JOINTS|WEIGHTS)_/.test(semantic))),
    }));
    return transformMesh({ ...mesh, primitives }, [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]], [m[12], m[13], m[14]], blobs);
  });
  dropUnusedSkins(kit);
}

/** Deletes skins that no part has. */
export function dropUnusedSkins(kit: Kit): void {
  const used = new Set(Object.values(kit.parts).map((part) => part.skin));
  for (const id of Object.keys(kit.skins)) if (!used.has(id)) delete kit.skins[id];
}

/** Keeps what skins draw at rest where it was, after joints were placed anew: B' = W'⁻¹ · W · B. */
export function keepBound(kit: Kit, before: ReadonlyMap<Id, Float64Array>, blobs: Blobs): void {
  const after = restWorlds(kit);
  for (const skin of Object.values(kit.skins)) {
    const moved = skin.joints.some(
      (joint) => before.has(joint) && before.get(joint)!.some((value, i) => Math.abs(value - after.get(joint)![i]) > 1e-12),
    );
    if (!moved) continue;
    const binds = readBindMatrices(skin, blobs).map((bind, j) => {
      const joint = skin.joints[j];
      const inverse = invertMatrix(after.get(joint)!);
      return inverse && before.has(joint) ? multiplyMatrices(inverse, multiplyMatrices(before.get(joint)!, bind)) : bind;
    });
    skin.inverseBindMatrices = writeBindMatrices(binds, blobs);
  }
}

/** Unit normals at the places of a field: of the triangles around, by their area. 3 numbers each. */
export function placeNormals({ points, corners }: Pick<SkinField, 'points' | 'corners'>): Float32Array {
  return areaNormals(points, corners);
}
