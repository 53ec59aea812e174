import Joi from 'joi';
import {
  defineOperation,
  freeName,
  idsSchema,
  newId,
  nextOrder,
  partOf,
  partsInOrder,
  subtreeOf,
  vec3Schema,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import { affineMatrix, composeMatrix, decomposeMatrix, invertMatrix, multiplyMatrices, restWorlds, type Mat4 } from '../geometry';
import { ShearError, SkinnedPartError } from './shape-errors';

const MOST_COPIES = 500;

/** The chosen parts without those that hang below another one of them: what is copied goes with its branch. */
export function topmost(kit: Kit, parts: readonly Id[]): Id[] {
  const chosen = new Set(parts);
  return parts.filter((id) => {
    for (let up = kit.parts[id].parent; up !== null; up = kit.parts[up].parent) if (chosen.has(up)) return false;
    return true;
  });
}

interface Copying {
  kit: Kit;
  move: Mat4;
  worlds: ReadonlyMap<Id, Mat4>;
  taken: Set<string>;
  ownMeshes: boolean;
  /** Names and ids of copies that are told, by the id of the original. */
  names?: Record<Id, string>;
  ids?: Record<Id, Id>;
}

/**
 * Copies a branch to where `move` takes it in the world: the same meshes, or ones of their own; names numbered on, roles kept. Motion and
 * bindings stay with the original. Writes to the draft.
 *
 * @throws {ShearError} where the parent's uneven scale would skew the copy
 * @throws {SkinnedPartError} for parts that joints deform: a copy would follow the same joints and stay where it is
 */
export function copyBranch({ kit, move, worlds, taken, ownMeshes, names = {}, ids = {} }: Copying, id: Id): void {
  const branch = subtreeOf(kit, id);
  const fresh = new Map([...branch].map((one) => [one, ids[one] ?? newId()]));
  for (const part of partsInOrder(kit)) {
    if (!branch.has(part.id)) continue;
    if (part.skin !== null) throw new SkinnedPartError(part.name);
    const name = freeName(names[part.id] ?? part.name.replace(/_\d+$/, ''), taken);
    taken.add(name);
    const copy = {
      ...part,
      id: fresh.get(part.id)!,
      name,
      translation: [...part.translation] as Vec3,
      rotation: [...part.rotation] as typeof part.rotation,
      scale: [...part.scale] as Vec3,
    };
    delete copy.from;
    if (part.id === id) {
      const parent = part.parent === null ? null : worlds.get(part.parent)!;
      const inverse = parent && invertMatrix(parent);
      if (parent && !inverse) throw new ShearError([part.name], 'Repeating it there');
      const there = multiplyMatrices(move, worlds.get(id)!);
      const { translation, rotation, scale, shear } = decomposeMatrix(inverse ? multiplyMatrices(inverse, there) : there);
      if (shear > 1e-6) throw new ShearError([part.name], 'Repeating it there');
      Object.assign(copy, {
        translation,
        rotation,
        scale: scale.map((value, axis) => (Math.abs(value - part.scale[axis]) < 1e-9 ? part.scale[axis] : value)),
        order: nextOrder(kit, part.parent),
      });
    } else copy.parent = fresh.get(part.parent!)!;
    if (ownMeshes && part.mesh !== null) {
      copy.mesh = newId();
      kit.meshes[copy.mesh] = { ...kit.meshes[part.mesh], id: copy.mesh, name };
    }
    kit.parts[copy.id] = copy;
  }
}

function repeat(kit: Kit, parts: readonly Id[], moves: Mat4[], ownMeshes = false): void {
  parts.forEach((id) => partOf(kit, id));
  const worlds = restWorlds(kit);
  const taken = new Set(Object.values(kit.parts).map((part) => part.name));
  const tops = topmost(kit, parts);
  for (const move of moves) for (const id of tops) copyBranch({ kit, move, worlds, taken, ownMeshes }, id);
}

const named = (kit: Kit, parts: Id[]) => (parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`);
const copies = Joi.number().integer().min(1).max(MOST_COPIES).required();

/**
 * Copies parts along a line: the n-th stands n steps away, in the world's axes, metres.
 *
 * @param ownMeshes Each copy with a mesh of its own, to be changed apart; otherwise all show the same one.
 */
export const repeatAlongLine = defineOperation<{ parts: Id[]; copies: number; step: Vec3; ownMeshes?: boolean }>({
  id: 'shape.repeat-line',
  title: (kit, { parts, copies: n }) => `Repeat ${named(kit, parts)} ${n} ${n === 1 ? 'time' : 'times'} along a line`,
  args: Joi.object({ parts: idsSchema.required(), copies, step: vec3Schema.required(), ownMeshes: Joi.boolean() }),
  change(kit, { parts, copies: n, step, ownMeshes }) {
    repeat(
      kit,
      parts,
      Array.from({ length: n }, (_, i) => affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], step.map((value) => value * (i + 1)) as Vec3)),
      ownMeshes,
    );
  },
});

/**
 * Copies parts on a ring about an upright, side or forward axis of the world through a point: the n-th is turned by n times the angle,
 * right-handed.
 *
 * @param degrees From one copy to the next.
 */
export const repeatOnRing = defineOperation<{
  parts: Id[];
  copies: number;
  axis: 0 | 1 | 2;
  centre: Vec3;
  degrees: number;
  ownMeshes?: boolean;
}>({
  id: 'shape.repeat-ring',
  title: (kit, { parts, copies: n }) => `Repeat ${named(kit, parts)} ${n} ${n === 1 ? 'time' : 'times'} on a ring`,
  args: Joi.object({
    parts: idsSchema.required(),
    copies,
    axis: Joi.valid(0, 1, 2).required(),
    centre: vec3Schema.required(),
    degrees: Joi.number().required(),
    ownMeshes: Joi.boolean(),
  }),
  change(kit, { parts, copies: n, axis, centre, degrees, ownMeshes }) {
    const moves = Array.from({ length: n }, (_, i) => {
      const half = ((degrees * (i + 1)) / 360) * Math.PI;
      const turn = composeMatrix(
        [0, 0, 0],
        [axis === 0 ? Math.sin(half) : 0, axis === 1 ? Math.sin(half) : 0, axis === 2 ? Math.sin(half) : 0, Math.cos(half)],
        [1, 1, 1],
      );
      const back = affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], centre.map((value) => -value) as Vec3);
      return multiplyMatrices(affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], centre), multiplyMatrices(turn, back));
    });
    repeat(kit, parts, moves, ownMeshes);
  },
});
