import Joi from 'joi';
import { count, defineOperation, idSchema, idsSchema, nameList, partOf, type Id, type Kit } from '../document';
import { markRuns, restWorlds, SurfaceTree, type Runs } from '../geometry';
import { mirrorPlaces } from './mirror-places';
import { NoSkinMeshError, NotAJointError, NothingHeldError } from './rig-errors';
import { headOf, jointsInOrder } from './rig-tree';
import { skinField, unbindPart, writeField, type SkinField } from './skin-field';
import { solveSkin } from './solve-skin';
import { smoothRows } from './solve-weights';
import { surfaceRings } from './surface-rings';

const named = (kit: Kit, parts: readonly Id[]) => nameList(parts.map((id) => kit.parts[id]?.name ?? ''));
const runsSchema = Joi.array().items(Joi.array().items(Joi.number().integer().min(0)).length(2));

/** Parts that have a mesh, as they can be held. @throws {NoSkinMeshError} */
function holdable(kit: Kit, parts: readonly Id[]): Id[] {
  const found = parts.filter((id) => partOf(kit, id).mesh !== null);
  if (found.length === 0) throw new NoSkinMeshError(parts.map((id) => kit.parts[id].name));
  return found;
}

function jointOf(kit: Kit, id: Id): Id {
  const part = partOf(kit, id);
  if (part.role !== 'joint' && !Object.values(kit.skins).some((skin) => skin.joints.includes(id))) throw new NotAJointError(part.name);
  return id;
}

/** Rows in which a locked joint's share stays: what the others have is scaled to the rest. */
export function settleRow(rows: Float32Array, at: number, width: number, locked: Uint8Array | null, keep = -1): void {
  let fixed = 0;
  let free = 0;
  for (let j = 0; j < width; j++) {
    if (j === keep || locked?.[j]) fixed += rows[at + j];
    else free += rows[at + j];
  }
  const left = Math.max(0, 1 - fixed);
  if (free > 1e-9) for (let j = 0; j < width; j++) if (j !== keep && !locked?.[j]) rows[at + j] *= left / free;
}

/** All vertices of some parts, or chosen faces of one, held by one joint alone: rigid. */
export const holdRigid = defineOperation<{ parts: Id[]; joint: Id; faces?: Runs }>({
  id: 'rig.hold-rigid',
  title: (kit, { parts, joint, faces }) => `Let “${kit.parts[joint]?.name}” alone hold ${faces ? 'faces of ' : ''}${named(kit, parts)}`,
  args: Joi.object({ parts: idsSchema.required(), joint: idSchema.required(), faces: runsSchema }),
  change(kit, { parts, joint, faces }, blobs) {
    const field = skinField(kit, holdable(kit, parts), blobs, [jointOf(kit, joint)]);
    const width = field.joints.length;
    const column = field.joints.indexOf(joint);
    const marks = faces && markRuns(faces, field.indices.length / 3);
    const chosen = new Uint8Array(field.points.length / 3).fill(marks ? 0 : 1);
    if (marks) marks.forEach((mark, face) => mark && [0, 1, 2].forEach((corner) => (chosen[field.corners[3 * face + corner]] = 1)));
    for (let p = 0; p < chosen.length; p++) {
      if (!chosen[p]) continue;
      field.rows.fill(0, p * width, (p + 1) * width);
      field.rows[p * width + column] = 1;
    }
    writeField(kit, field, blobs);
  },
});

/** Gives every vertex the weights of the nearest point of other parts' surfaces, blended over its triangle. */
export const copyWeights = defineOperation<{ from: Id[]; to: Id[] }>({
  id: 'rig.copy-weights',
  title: (kit, { from, to }) => `Copy the weights of ${named(kit, from)} to ${named(kit, to)}`,
  args: Joi.object({ from: idsSchema.required(), to: idsSchema.required() }),
  change(kit, { from, to }, blobs) {
    const sources = holdable(kit, from).filter((id) => kit.parts[id].skin !== null);
    if (sources.length === 0) throw new NoSkinMeshError(from.map((id) => kit.parts[id].name));
    const source = skinField(kit, sources, blobs);
    const field = skinField(kit, holdable(kit, to), blobs, source.joints);
    const columns = source.joints.map((joint) => field.joints.indexOf(joint));
    const width = field.joints.length;
    const tree = new SurfaceTree(source.points, source.corners);
    field.rows.fill(0);
    for (let p = 0; p < field.points.length / 3; p++) {
      const { triangle, barycentric } = tree.nearest(field.points[3 * p], field.points[3 * p + 1], field.points[3 * p + 2]);
      for (let corner = 0; corner < 3; corner++) {
        const row = source.corners[3 * triangle + corner] * source.joints.length;
        columns.forEach((column, j) => (field.rows[p * width + column] += barycentric[corner] * source.rows[row + j]));
      }
    }
    writeField(kit, field, blobs);
  },
});

/** For each joint its twin's number in the list across x = 0, itself where it has none: for the brush. */
export function mirrorColumns(kit: Kit, joints: readonly Id[]): Int32Array {
  const worlds = restWorlds(kit);
  let extent = 1e-3;
  for (const id of joints) extent = Math.max(extent, ...headOf(worlds, id).map(Math.abs));
  return twinColumns(kit, joints, 0, 0.02 * extent).map((twin, j) => (twin < 0 ? j : twin));
}

/** The joint that stands where a joint's mirror image is, across x = 0: itself in the middle; null where there is none. */
export function twinHead(kit: Kit, joint: Id): Id | null {
  const joints = jointsInOrder(kit);
  const worlds = restWorlds(kit);
  let extent = 1e-3;
  for (const id of joints) extent = Math.max(extent, ...headOf(worlds, id).map(Math.abs));
  const twin = twinColumns(kit, joints, 0, 0.02 * extent)[joints.indexOf(joint)];
  return twin === undefined || twin < 0 ? null : joints[twin];
}

/** Which joint is whose mirror image across x = `at`: by where their heads stand at rest. −1 where there is none. */
function twinColumns(kit: Kit, joints: readonly Id[], at: number, tolerance: number): Int32Array {
  const worlds = restWorlds(kit);
  return mirrorPlaces(
    joints.flatMap((id) => headOf(worlds, id)),
    0,
    at,
    tolerance,
  );
}

const extentOf = ({ points }: SkinField) => {
  let most = 1e-6;
  for (const value of points) most = Math.max(most, Math.abs(value));
  return most;
};

/** Copies the weights of one side to the other, joints exchanged with their twins; on the middle both sides count alike. */
export const mirrorWeights = defineOperation<{ parts: Id[]; from: 'left' | 'right'; at?: number }>({
  id: 'rig.mirror-weights',
  title: (kit, { parts, from }) => `Mirror the weights of ${named(kit, parts)} from the ${from}`,
  args: Joi.object({ parts: idsSchema.required(), from: Joi.valid('left', 'right').required(), at: Joi.number() }),
  change(kit, { parts, from, at = 0 }, blobs) {
    const held = skinField(kit, holdable(kit, parts), blobs);
    if (!held.rows.some((weight) => weight > 0)) throw new NothingHeldError(kit.parts[parts[0]].name);
    const tolerance = 5e-3 * extentOf(held);
    // A twin that holds nothing yet has no column: all joints that stand beside one get theirs.
    const all = [...new Set([...held.joints, ...Object.values(kit.parts).flatMap((part) => (part.role === 'joint' ? part.id : []))])];
    const field = skinField(kit, holdable(kit, parts), blobs, all);
    const width = field.joints.length;
    const twins = twinColumns(kit, field.joints, at, tolerance).map((twin, j) => (twin < 0 ? j : twin));
    const mirror = mirrorPlaces(field.points, 0, at, tolerance);
    const tree = new SurfaceTree(field.points, field.corners);
    // The left is +X.
    const sign = from === 'left' ? 1 : -1;
    const before = field.rows.slice();
    const edge = 1e-6 * extentOf(field);
    for (let p = 0; p < mirror.length; p++) {
      const side = sign * (field.points[3 * p] - at);
      if (side > edge) continue;
      const own = p * width;
      if (side >= -edge) {
        for (let j = 0; j < width; j++) field.rows[own + j] = (before[own + j] + before[own + twins[j]]) / 2;
        continue;
      }
      field.rows.fill(0, own, own + width);
      if (mirror[p] >= 0) for (let j = 0; j < width; j++) field.rows[own + twins[j]] += before[mirror[p] * width + j];
      else {
        const { triangle, barycentric } = tree.nearest(2 * at - field.points[3 * p], field.points[3 * p + 1], field.points[3 * p + 2]);
        for (let corner = 0; corner < 3; corner++)
          for (let j = 0; j < width; j++)
            field.rows[own + twins[j]] += barycentric[corner] * before[field.corners[3 * triangle + corner] * width + j];
      }
    }
    writeField(kit, field, blobs);
  },
});

/** Lets neighbouring vertices hold more alike. Locked joints keep their share. */
export const smoothWeights = defineOperation<{ parts: Id[]; rounds: number; strength?: number; locked?: Id[]; faces?: Runs }>({
  id: 'rig.smooth-weights',
  title: (kit, { parts, rounds }) => `Smooth the weights of ${named(kit, parts)}${rounds > 1 ? ` ${rounds} times` : ''}`,
  args: Joi.object({
    parts: idsSchema.required(),
    rounds: Joi.number().integer().min(1).max(100).required(),
    strength: Joi.number().min(0).max(1),
    locked: Joi.array().items(idSchema),
    faces: runsSchema,
  }),
  change(kit, { parts, rounds, strength = 0.5, locked = [], faces }, blobs) {
    const field = skinField(kit, holdable(kit, parts), blobs);
    const size = field.points.length / 3;
    const width = field.joints.length;
    const marks = faces && markRuns(faces, field.indices.length / 3);
    const only = marks && new Uint8Array(size);
    if (marks) marks.forEach((mark, face) => mark && [0, 1, 2].forEach((corner) => (only![field.corners[3 * face + corner]] = 1)));
    const before = locked.length > 0 ? field.rows.slice() : null;
    smoothRows(field.rows, width, surfaceRings(field.corners, size), rounds, strength, only);
    if (before) {
      const fixed = Uint8Array.from(field.joints, (joint) => (locked.includes(joint) ? 1 : 0));
      for (let p = 0; p < size; p++) {
        for (let j = 0; j < width; j++) if (fixed[j]) field.rows[p * width + j] = before[p * width + j];
        settleRow(field.rows, p * width, width, fixed);
      }
    }
    writeField(kit, field, blobs);
  },
});

/** Takes away holds weaker than a share; the others grow to add up to 1. The strongest of a vertex always stays. */
export const pruneWeights = defineOperation<{ parts: Id[]; below: number }>({
  id: 'rig.prune-weights',
  title: (kit, { parts, below }) => `Prune the weights of ${named(kit, parts)} below ${below}`,
  args: Joi.object({ parts: idsSchema.required(), below: Joi.number().min(0).max(1).required() }),
  change(kit, { parts, below }, blobs) {
    const field = skinField(kit, holdable(kit, parts), blobs);
    const width = field.joints.length;
    for (let at = 0; at < field.rows.length; at += width) {
      let most = 0;
      for (let j = 0; j < width; j++) most = Math.max(most, field.rows[at + j]);
      for (let j = 0; j < width; j++) if (field.rows[at + j] < below && field.rows[at + j] < most) field.rows[at + j] = 0;
    }
    writeField(kit, field, blobs);
  },
});

/** Lets vertices that no joint holds go with the nearest point of the surface that is held. */
export const fillWeights = defineOperation<{ parts: Id[] }>({
  id: 'rig.fill-weights',
  title: (kit, { parts }) => `Let the loose vertices of ${named(kit, parts)} go with their neighbours`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    const field = skinField(kit, holdable(kit, parts), blobs);
    const width = field.joints.length;
    const held = (place: number) => {
      for (let j = 0; j < width; j++) if (field.rows[place * width + j] > 0) return true;
      return false;
    };
    const sound: number[] = [];
    for (let t = 0; t + 2 < field.corners.length; t += 3)
      if (held(field.corners[t]) && held(field.corners[t + 1]) && held(field.corners[t + 2]))
        sound.push(...field.corners.subarray(t, t + 3));
    if (sound.length === 0) {
      // Nothing to go by: the joints of their skins hold them as they would from the start.
      if (width === 0) throw new NothingHeldError(kit.parts[parts[0]].name);
      solveSkin.change(kit, { parts: holdable(kit, parts), joints: field.joints }, blobs);
      return;
    }
    const tree = new SurfaceTree(field.points, sound);
    const before = field.rows.slice();
    for (let p = 0; p < field.points.length / 3; p++) {
      if (held(p)) continue;
      const { triangle, barycentric } = tree.nearest(field.points[3 * p], field.points[3 * p + 1], field.points[3 * p + 2]);
      for (let corner = 0; corner < 3; corner++)
        for (let j = 0; j < width; j++) field.rows[p * width + j] += barycentric[corner] * before[sound[3 * triangle + corner] * width + j];
    }
    writeField(kit, field, blobs);
  },
});

/** Takes parts off their skin: they stay where they stand at rest, and bend no more. */
export const letGoOfSkin = defineOperation<{ parts: Id[] }>({
  id: 'rig.unbind',
  title: (kit, { parts }) => `Take ${named(kit, parts)} off the joints`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    for (const id of holdable(kit, parts)) unbindPart(kit, id, blobs);
  },
});

/** Sets what some vertices are held by; joints that are not named share what is left as they did. */
export const setVertexWeights = defineOperation<{ part: Id; vertices: number[]; weights: Record<Id, number>; locked?: Id[] }>({
  id: 'rig.set-vertex-weights',
  title: (kit, { part, vertices }) => `Set the weights of ${count(vertices.length, 'vertex', 'vertices')} of “${kit.parts[part]?.name}”`,
  args: Joi.object({
    part: idSchema.required(),
    vertices: Joi.array().items(Joi.number().integer().min(0)).min(1).max(100_000).required(),
    weights: Joi.object().pattern(idSchema, Joi.number().min(0).max(1)).min(1).required(),
    locked: Joi.array().items(idSchema),
  }),
  change(kit, { part, vertices, weights, locked = [] }, blobs) {
    const field = skinField(
      kit,
      holdable(kit, [part]),
      blobs,
      Object.keys(weights).map((id) => jointOf(kit, id)),
    );
    // What is held by nothing yet would be held by nothing but for these.
    if (!field.rows.some((weight) => weight > 0)) throw new NothingHeldError(kit.parts[part].name);
    const width = field.joints.length;
    const fixed = Uint8Array.from(field.joints, (joint) => (joint in weights || locked.includes(joint) ? 1 : 0));
    const wanted = Object.values(weights).reduce((sum, weight) => sum + weight, 0);
    for (const place of new Set(vertices.map((vertex) => field.placeOf[vertex]))) {
      if (place === undefined) continue;
      const at = place * width;
      for (const [joint, weight] of Object.entries(weights))
        field.rows[at + field.joints.indexOf(joint)] = wanted > 1 ? weight / wanted : weight;
      settleRow(field.rows, at, width, fixed);
    }
    writeField(kit, field, blobs);
  },
});
