import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, vec3Schema } from '../schemas';
import type { Id, Vec3 } from '../values';
import { compareRecords } from './compare';
import { allGoesIn, nothing, STAYS, type Move, type Section } from './section';

/** What visitors can't walk through: a box along the part's own axes, a capsule, the hull of some points. Metres, in the part's axes. */
export type ColliderShape =
  { shape: 'box'; at: Vec3; size: Vec3 } | { shape: 'capsule'; from: Vec3; to: Vec3; radius: number } | { shape: 'hull'; points: Vec3[] };
export type Collider = { id: Id; part: Id } & ColliderShape;

type PackedCollider = { node: number } & ColliderShape;

declare module '../kit' {
  interface Kit {
    /** Absent where nothing stands in the way. */
    colliders?: Collider[];
  }
  interface ManifestSections {
    colliders?: PackedCollider[];
  }
}

const size = Joi.array().items(Joi.number().greater(0).required()).length(3).required();

/** The schema of one shape, with what stands beside it in a record. */
export const shapeWith = (head: Record<string, Joi.Schema>) =>
  Joi.alternatives().conditional('.shape', {
    switch: [
      { is: 'box', then: Joi.object({ ...head, shape: Joi.valid('box').required(), at: vec3Schema.required(), size }) },
      {
        is: 'capsule',
        then: Joi.object({
          ...head,
          shape: Joi.valid('capsule').required(),
          from: vec3Schema.required(),
          to: vec3Schema.required(),
          radius: Joi.number().greater(0).required(),
        }),
      },
      {
        is: 'hull',
        then: Joi.object({
          ...head,
          shape: Joi.valid('hull').required(),
          points: Joi.array().items(vec3Schema).min(4).max(256).required(),
        }),
        otherwise: Joi.forbidden(),
      },
    ],
  });

/** A collider: the part it is fixed to, and its shape. */
export const colliderSchema = shapeWith({ id: idSchema.required(), part: idSchema.required() });

/** The eight corners of a box. */
export const cornersOfBox = ({ at, size: [x, y, z] }: Extract<ColliderShape, { shape: 'box' }>): Vec3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((i): Vec3 => [at[0] + (i & 1 ? x : -x) / 2, at[1] + (i & 2 ? y : -y) / 2, at[2] + (i & 4 ? z : -z) / 2]);

/** Two places closer than this along an axis are one, metres. */
const NEAR = 1e-7;

/** The box of eight corners that lie along the axes; null where they do not. */
function boxOf(corners: readonly Vec3[]): Extract<ColliderShape, { shape: 'box' }> | null {
  const [low, high] = [Math.min, Math.max].map((pick) => [0, 1, 2].map((axis) => pick(...corners.map((corner) => corner[axis]))));
  const along = corners.every((corner) => corner.every((value, axis) => value - low[axis] < NEAR || high[axis] - value < NEAR));
  if (!along || low.some((value, axis) => high[axis] - value < NEAR)) return null;
  return {
    shape: 'box',
    at: low.map((value, axis) => (value + high[axis]) / 2) as Vec3,
    size: low.map((value, axis) => high[axis] - value) as Vec3,
  };
}

/** A shape in other axes. A box that stands askew there is the hull of its corners; a capsule keeps the greatest of its radii. */
export function moveShape(shape: ColliderShape, move: Move): ColliderShape {
  if (shape.shape === 'box') {
    const corners = cornersOfBox(shape).map(move);
    return boxOf(corners) ?? { shape: 'hull', points: corners };
  }
  if (shape.shape === 'hull') return { shape: 'hull', points: shape.points.map(move) };
  const { from, to, radius } = shape;
  const middle = move(from);
  const radii = [0, 1, 2].map((axis) => {
    const rim = move(from.map((value, i) => value + (i === axis ? radius : 0)) as Vec3);
    return Math.hypot(...rim.map((value, i) => value - middle[i]));
  });
  return { shape: 'capsule', from: middle, to: move(to), radius: Math.max(...radii) };
}

function moveAll(kit: Kit, part: Id, move: Move, into = part): void {
  if (kit.colliders)
    kit.colliders = kit.colliders.map((one) => (one.part === part ? { id: one.id, part: into, ...moveShape(one, move) } : one));
}

/** What stands in the way of visitors. */
export const collidersSection: Section<'colliders'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(colliderSchema).max(2000),
  fields: [],
  sound: nothing,
  references(list, { kit, need }) {
    for (const { id, part } of list) need(kit.parts, part, `colliders.${id}.part`);
  },
  blobs: nothing,
  without(kit, { gone }) {
    const kept = kit.colliders?.filter(({ part }) => !gone.has(part));
    if (!kept || kept.length === kit.colliders!.length) return;
    if (kept.length > 0) kit.colliders = kept;
    else delete kit.colliders;
  },
  joined: (kit, from, into, move) => moveAll(kit, from, move, into),
  moved: (kit, part, move) => moveAll(kit, part, move),
  conform(kit, to) {
    if (kit.colliders) kit.colliders = kit.colliders.map(({ id, part, ...shape }) => ({ id, part, ...moveShape(shape, to.place) }));
  },
  compare: (before, after) =>
    compareRecords(
      before.colliders ?? [],
      after.colliders ?? [],
      ({ shape, part }) => `Collider (${shape}) of “${(after.parts[part] ?? before.parts[part]).name}”`,
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(shapeWith({ node: Joi.number().integer().required() })),
      write: (kit, { nodeOf }) =>
        kit.colliders?.map(({ id: _, part, ...shape }) => ({ ...shape, node: nodeOf(part) })).sort((a, b) => a.node - b.node),
      read(list, kit, { partAt }) {
        kit.colliders = list.map(({ node, ...shape }, i) => ({ ...shape, id: `collider${i}`, part: partAt(node, `collider ${i + 1}`) }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
