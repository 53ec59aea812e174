import Joi from 'joi';
import {
  colliderSchema,
  defineOperation,
  idsSchema,
  KitError,
  moveShape,
  newId,
  partOf,
  type Collider,
  type ColliderShape,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import { invertMatrix, restWorlds, transformPoint } from '../geometry';
import { fitShape, ownPoints, snappedBox } from './fit-collider';
import { surfaceOf } from './collider-shapes';

const SHAPE_WORDS = { box: 'box', capsule: 'capsule', hull: 'hull' } as const satisfies Record<ColliderShape['shape'], string>;

/** What has no room inside can't be walked into. */
export class NoColliderError extends KitError {
  constructor(name: string) {
    super('no-collider', `“${name}” shows nothing that a collider could be fitted to. Choose a part with a mesh.`, name);
  }
}

/** Fits a collider to each of these parts, closely about all that they show; what they had is replaced. */
export const fitColliders = defineOperation<{ parts: Id[]; shape: ColliderShape['shape']; snap: number | null }>({
  id: 'grounds.fit-colliders',
  title: (kit, { parts, shape }) =>
    `Fit a ${SHAPE_WORDS[shape]} to ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({
    parts: idsSchema.unique().required(),
    shape: Joi.valid('box', 'capsule', 'hull').required(),
    snap: Joi.number().positive().max(1000).allow(null).required(),
  }),
  change(kit, { parts, shape, snap }, blobs) {
    const made = parts.map((part): Collider => {
      const points = partOf(kit, part).mesh === null ? new Float64Array(0) : ownPoints(kit, blobs, part);
      const fitted = fitShape(points, shape);
      if (!fitted) throw new NoColliderError(kit.parts[part].name);
      return { id: newId(), part, ...(snap === null ? fitted : snappedBox(kit, part, fitted, snap)) };
    });
    kit.colliders = [...(kit.colliders ?? []).filter(({ part }) => !parts.includes(part)), ...made];
  },
});

const collidersOf = (kit: Kit, ids: readonly Id[]): Collider[] =>
  ids.map((id) => {
    const one = kit.colliders?.find((each) => each.id === id);
    if (!one) throw new KitError('collider-missing', 'That collider is no longer in the kit. Look at the list again.', id);
    return one;
  });

function replace(kit: Kit, gone: ReadonlySet<Id>, more: Collider[]): void {
  const left = [...(kit.colliders ?? []).filter(({ id }) => !gone.has(id)), ...more];
  if (left.length > 0) kit.colliders = left;
  else delete kit.colliders;
}

/** Gives a collider another shape, size or place. */
export const changeCollider = defineOperation<Collider>({
  id: 'grounds.change-collider',
  title: (kit, { part }) => `Change the collider of “${kit.parts[part]?.name}”`,
  args: colliderSchema,
  change(kit, collider) {
    collidersOf(kit, [collider.id]);
    partOf(kit, collider.part);
    kit.colliders = kit.colliders!.map((one) => (one.id === collider.id ? collider : one));
  },
});

/** Takes colliders away. */
export const removeColliders = defineOperation<{ colliders: Id[] }>({
  id: 'grounds.remove-colliders',
  title: (_, { colliders }) => (colliders.length === 1 ? 'Take a collider away' : `Take ${colliders.length} colliders away`),
  args: Joi.object({ colliders: idsSchema.required() }),
  change(kit, { colliders }) {
    collidersOf(kit, colliders);
    replace(kit, new Set(colliders), []);
  },
});

/** Makes one collider of several: of boxes alone a box about them, else the hull of all. It is fixed to what the first one is. */
export const joinColliders = defineOperation<{ colliders: Id[] }>({
  id: 'grounds.join-colliders',
  title: (_, { colliders }) => `Make one of ${colliders.length} colliders`,
  args: Joi.object({ colliders: idsSchema.min(2).unique().required() }),
  change(kit, { colliders }) {
    const list = collidersOf(kit, colliders);
    const worlds = restWorlds(kit);
    const [{ id, part }] = list;
    const inverse = invertMatrix(Float64Array.from(worlds.get(part)!));
    if (!inverse) throw new NoColliderError(kit.parts[part].name);
    const moved = list.map((one) => moveShape(one, (at): Vec3 => transformPoint(inverse, transformPoint(worlds.get(one.part)!, at))));
    const points = Float64Array.from(moved.flatMap((shape) => Array.from(surfaceOf(shape))));
    const joined = fitShape(points, moved.every(({ shape }) => shape === 'box') ? 'box' : 'hull');
    if (!joined) throw new NoColliderError(kit.parts[part].name);
    replace(kit, new Set(colliders), [{ id, part, ...joined }]);
  },
});
