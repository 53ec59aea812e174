import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  idSchema,
  idsSchema,
  KitError,
  nameList,
  newPart,
  nextOrder,
  partOf,
  putNewPart,
  vec3Schema,
  type Axis,
  type Blobs,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import {
  conjugateQuat,
  decomposeMatrix,
  invertMatrix,
  keepPlaceBelow,
  quatBetween,
  readBindMatrices,
  restWorlds,
  rotateVector,
  transformPoint,
  writeBindMatrices,
} from '../geometry';
import { removeParts, turnOwnAxes } from '../shape';
import { headOf, jointsInOrder, placeHead, tailOf, tidy } from './rig-tree';
import { bindPart, keepBound, skinField, writeField } from './skin-field';

const AXES = [0, 1, 2] as const;

/** The place of a point of the world in the axes of a part's parent. */
function inParent(kit: Kit, parent: Id | null, at: Vec3): Vec3 {
  const inverse = parent === null ? null : invertMatrix(restWorlds(kit).get(parent)!);
  return tidy(inverse ? transformPoint(inverse, at) : at);
}

function addOne(kit: Kit, { id, name, parent, at, tail }: { id: Id; name: string; parent: Id | null; at: Vec3; tail?: Vec3 | null }): void {
  if (parent !== null) partOf(kit, parent);
  putNewPart(kit, newPart({ id, name, role: 'joint', parent, order: nextOrder(kit, parent), translation: inParent(kit, parent, at) }));
  // Joints of one skeleton have their axes as the world has them, whatever carries it.
  if (parent !== null) {
    const { rotation } = decomposeMatrix(restWorlds(kit).get(parent)!);
    kit.parts[id].rotation = conjugateQuat(rotation).map((value) => value + 0) as typeof rotation;
  }
  if (tail) setTailAt(kit, id, tail);
}

function setTailAt(kit: Kit, id: Id, at: Vec3): void {
  const inverse = invertMatrix(restWorlds(kit).get(id)!);
  if (inverse) kit.parts[id].tail = tidy(transformPoint(inverse, at));
}

export interface NewJoint {
  id: Id;
  name: string;
  /** A part that is there, or a joint before it in the list. */
  parent: Id | null;
  /** World, metres. */
  at: Vec3;
  tail?: Vec3;
}

const newJointSchema = Joi.object({
  id: idSchema.required(),
  name: Joi.string().min(1).max(200).required(),
  parent: idSchema.allow(null).required(),
  at: vec3Schema.required(),
  tail: vec3Schema,
});

/** Adds joints: one, or a whole skeleton, parents first. */
export const addJoints = defineOperation<{ joints: NewJoint[] }>({
  id: 'rig.add-joints',
  title: (_, { joints }) => (joints.length === 1 ? `Add the joint “${joints[0].name}”` : `Add ${joints.length} joints`),
  args: Joi.object({ joints: Joi.array().items(newJointSchema).min(1).max(1000).required() }),
  change(kit, { joints }) {
    for (const joint of joints) addOne(kit, joint);
    return { parts: [joints[0].id] };
  },
});

/** Puts a joint between a joint and its parent. What hangs below stays where it is. @param share Of the way from the parent, 0 to 1. */
export const insertJoint = defineOperation<{ id: Id; name: string; above: Id; share?: number }>({
  id: 'rig.insert-joint',
  title: (kit, { above, name }) => `Insert “${name}” above “${kit.parts[above]?.name}”`,
  args: Joi.object({
    id: idSchema.required(),
    name: Joi.string().min(1).max(200).required(),
    above: idSchema.required(),
    share: Joi.number().min(0).max(1),
  }),
  change(kit, { id, name, above, share = 0.5 }, blobs) {
    const before = restWorlds(kit);
    const part = partOf(kit, above);
    const head = headOf(before, above);
    const from = part.parent === null ? head : headOf(before, part.parent);
    const at = AXES.map((axis) => from[axis] + share * (head[axis] - from[axis])) as Vec3;
    const { order, parent } = part;
    addOne(kit, { id, name, parent, at });
    kit.parts[id].order = order;
    hangBelow(kit, above, id);
    keepBound(kit, before, blobs);
    return { parts: [id] };
  },
});

/** Hangs a part below another one; it stays where it stands. */
function hangBelow(kit: Kit, id: Id, parent: Id | null): void {
  keepPlaceBelow(kit, id, parent);
  kit.parts[id].order = nextOrder(kit, parent);
}

/** The last joint of a skin can't be taken from it. */
export class LastJointError extends KitError {
  constructor(name: string) {
    super(
      'last-joint',
      `“${name}” has no joint above it and several below, or none: nothing could take over what it holds. Take the skin off first, or dissolve others.`,
      name,
    );
  }
}

/** Takes joints out; what hangs below goes to the one above, and so do the weights. */
export const dissolveJoints = defineOperation<{ joints: Id[] }>({
  id: 'rig.dissolve-joints',
  title: (kit, { joints }) => `Dissolve ${nameList(joints.map((id) => kit.parts[id]?.name ?? ''))}`,
  args: Joi.object({ joints: idsSchema.required() }),
  change(kit, { joints }, blobs) {
    for (const id of joints) {
      const part = partOf(kit, id);
      const all = new Set(jointsInOrder(kit));
      const heirs =
        part.parent !== null && all.has(part.parent)
          ? [part.parent]
          : childrenOf(kit, id)
              .filter((child) => all.has(child.id))
              .map((child) => child.id);
      const held = Object.values(kit.skins).some((skin) => skin.joints.includes(id));
      if (held && heirs.length !== 1) throw new LastJointError(part.name);
      if (held) giveWeights(kit, id, heirs[0], blobs);
      for (const child of childrenOf(kit, id)) hangBelow(kit, child.id, part.parent);
      removeParts.change(kit, { parts: [id] }, blobs);
    }
  },
});

/** Lets one joint hold all that another one held, and takes that one out of the skins. */
function giveWeights(kit: Kit, from: Id, to: Id, blobs: Blobs): void {
  const held = Object.values(kit.parts).filter(
    (part) => part.skin !== null && part.mesh !== null && kit.skins[part.skin].joints.includes(from),
  );
  // While vertices still name joints by their places: what takes over comes into every skin first.
  for (const { id } of held) bindPart(kit, id, [to], blobs);
  const fields = held.map((part) => {
    const field = skinField(kit, [part.id], blobs, [to]);
    const width = field.joints.length;
    const [a, b] = [field.joints.indexOf(from), field.joints.indexOf(to)];
    const rows = new Float32Array((field.rows.length / width) * (width - 1));
    for (let p = 0; p < field.rows.length / width; p++) {
      field.rows[p * width + b] += field.rows[p * width + a];
      for (let j = 0, k = 0; j < width; j++) if (j !== a) rows[p * (width - 1) + k++] = field.rows[p * width + j];
    }
    return { ...field, rows, joints: field.joints.filter((joint) => joint !== from) };
  });
  // Vertices name joints by their place in the skin: all are written anew once it has left.
  for (const skin of Object.values(kit.skins)) {
    const at = skin.joints.indexOf(from);
    if (at < 0) continue;
    skin.inverseBindMatrices = writeBindMatrices(
      readBindMatrices(skin, blobs).filter((_, j) => j !== at),
      blobs,
    );
    skin.joints = skin.joints.filter((joint) => joint !== from);
  }
  for (const field of fields) writeField(kit, field, blobs);
}

/**
 * Moves the head of a joint; the mesh stays as it stands at rest. Its twin moves along where one is named.
 *
 * @param at World, metres. @param below Whether joints below go along or stay.
 */
export const moveJoint = defineOperation<{ joint: Id; at: Vec3; below?: 'follow' | 'stay'; twin?: Id }>({
  id: 'rig.move-joint',
  title: (kit, { joint, twin }) => `Move the head of “${kit.parts[joint]?.name}”${twin ? ' and its twin' : ''}`,
  args: Joi.object({ joint: idSchema.required(), at: vec3Schema.required(), below: Joi.valid('follow', 'stay'), twin: idSchema }),
  change(kit, { joint, at, below = 'stay', twin }, blobs) {
    const before = restWorlds(kit);
    partOf(kit, joint);
    placeHead(kit, joint, at, below);
    if (twin !== undefined && twin !== joint && kit.parts[twin]) placeHead(kit, twin, [-at[0], at[1], at[2]], below);
    keepBound(kit, before, blobs);
  },
});

/** Moves the tail of a joint: the head of its only child, or the end that is kept with it. The mesh stays. @param at World, metres. */
export const moveTail = defineOperation<{ joint: Id; at: Vec3; twin?: Id }>({
  id: 'rig.move-tail',
  title: (kit, { joint, twin }) => `Move the tail of “${kit.parts[joint]?.name}”${twin ? ' and its twin' : ''}`,
  args: Joi.object({ joint: idSchema.required(), at: vec3Schema.required(), twin: idSchema }),
  change(kit, { joint, at, twin }, blobs) {
    const before = restWorlds(kit);
    const all = new Set(jointsInOrder(kit));
    const ends: [Id, Vec3][] = [
      [joint, at],
      ...(twin !== undefined && twin !== joint && kit.parts[twin] ? [[twin, [-at[0], at[1], at[2]]] as [Id, Vec3]] : []),
    ];
    for (const [id, end] of ends) {
      partOf(kit, id);
      const children = childrenOf(kit, id).filter((child) => all.has(child.id));
      if (children.length === 1 && !kit.parts[id].tail) placeHead(kit, children[0].id, end, 'stay');
      else setTailAt(kit, id, end);
    }
    keepBound(kit, before, blobs);
  },
});

/**
 * Lays the own axes of joints: one along the joint, from head to tail, and another as near as can be to a direction of the world. Nothing
 * that is drawn moves, at rest or in clips.
 *
 * @throws {AxesMovedError} where sparse keys turn it about its old axes
 */
export const rollJoints = defineOperation<{ joints: Id[]; along: Axis; toward: Axis; direction: Vec3 }>({
  id: 'rig.roll-joints',
  title: (kit, { joints, toward }) => `Roll ${nameList(joints.map((id) => kit.parts[id]?.name ?? ''))} by the ${'xyz'[toward]} axis`,
  args: Joi.object({
    joints: idsSchema.required(),
    along: Joi.valid(0, 1, 2).required(),
    toward: Joi.valid(0, 1, 2).required().invalid(Joi.ref('along')),
    direction: vec3Schema.required(),
  }),
  change(kit, { joints, along, toward, direction }, blobs) {
    const all = new Set(jointsInOrder(kit));
    for (const id of joints) {
      partOf(kit, id);
      const lay = (axis: Axis, wanted: Vec3, about: Vec3 | null) => {
        const { rotation } = decomposeMatrix(restWorlds(kit).get(id)!);
        const own = AXES.map((i) => (i === axis ? 1 : 0)) as Vec3;
        let goal = rotateVector(conjugateQuat(rotation), wanted);
        // Rolled about the joint alone: what points along it is taken out.
        if (about) goal = goal.map((value, i) => value - about[i] * goal.reduce((sum, one, k) => sum + one * about[k], 0)) as Vec3;
        const length = Math.hypot(...goal);
        if (length < 1e-6) return;
        turnOwnAxes(kit, id, quatBetween(own, goal.map((value) => value / length) as Vec3), blobs);
      };
      const worlds = restWorlds(kit);
      const tail = tailOf(kit, id, all, worlds);
      const head = headOf(worlds, id);
      if (tail) lay(along, tail.map((value, i) => value - head[i]) as Vec3, null);
      lay(toward, direction, AXES.map((i) => (i === along ? 1 : 0)) as Vec3);
    }
  },
});

/**
 * Says how far joints can bend either way, which is how far test poses bend them.
 * @param degrees 0 to 180; null lets their names tell again.
 */
export const setBend = defineOperation<{ joints: Id[]; degrees: number | null }>({
  id: 'rig.set-bend',
  title: (kit, { joints }) => `Set how far ${nameList(joints.map((id) => kit.parts[id]?.name ?? ''))} can bend`,
  args: Joi.object({ joints: idsSchema.required(), degrees: Joi.number().greater(0).max(180).allow(null).required() }),
  change(kit, { joints, degrees }) {
    for (const id of joints) {
      const part = partOf(kit, id);
      if (degrees === null) delete part.bendDegrees;
      else part.bendDegrees = degrees;
    }
  },
});

/**
 * Makes the joints of one side those of the other, mirrored across x = 0: twins that are there are moved, the others are made. The mesh
 * stays.
 *
 * @param names What twins that are not there yet are to be called, by the id of the joint they are made from. @param ids Theirs.
 */
export const mirrorJoints = defineOperation<{ joints: Id[]; names: Record<Id, string>; ids: Record<Id, Id> }>({
  id: 'rig.mirror-joints',
  title: (_, { joints }) => `Mirror ${joints.length} ${joints.length === 1 ? 'joint' : 'joints'} to the other side`,
  args: Joi.object({
    joints: idsSchema.required(),
    names: Joi.object().pattern(idSchema, Joi.string().min(1).max(200)).required(),
    ids: Joi.object().pattern(idSchema, idSchema).required(),
  }),
  change(kit, { joints, names, ids }, blobs) {
    const before = restWorlds(kit);
    const byName = new Map(Object.values(kit.parts).map((part) => [part.name, part.id]));
    const chosen = new Set(joints);
    const twinOf = (id: Id) => (names[id] === undefined ? id : (byName.get(names[id]) ?? ids[id]));
    for (const id of jointsInOrder(kit)) {
      if (!chosen.has(id) || names[id] === undefined || names[id] === kit.parts[id].name) continue;
      const [x, y, z] = headOf(before, id);
      const at: Vec3 = [-x, y, z];
      const twin = twinOf(id);
      const { parent, tail } = kit.parts[id];
      const end = tail ? transformPoint(before.get(id)!, tail) : null;
      const mirrored = end && ([-end[0], end[1], end[2]] as Vec3);
      if (kit.parts[twin]) {
        placeHead(kit, twin, at, 'stay');
        if (mirrored) setTailAt(kit, twin, mirrored);
      } else
        addOne(kit, {
          id: twin,
          name: names[id],
          parent: parent === null ? null : (kit.parts[twinOf(parent)]?.id ?? parent),
          at,
          tail: mirrored,
        });
    }
    keepBound(kit, before, blobs);
  },
});
