import Joi from 'joi';
import {
  COUPLING_KINDS,
  defineOperation,
  freeName,
  idSchema,
  idsSchema,
  KitError,
  nameList,
  newId,
  partOf,
  vec3Schema,
  type Blobs,
  type Body,
  type Coupling,
  type CouplingKind,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import { boundsByPart, placeInBody, joinBounds, keepCouplings, sizeOf, SurfaceTree, type Bounds, type CouplingPlace } from '../geometry';
import { NoSkinMeshError } from './rig-errors';
import { tidy } from './rig-tree';
import { surfaceOf } from './skin-field';

/** A body that is no longer in the kit. */
export class NoBodyError extends KitError {
  constructor(id: string) {
    super('no-body', 'That body is not in the kit any more. Undo, or choose another.', id);
  }
}

function findBody(kit: Kit, id: Id): Body {
  const body = kit.bodies?.find((one) => one.id === id);
  if (!body) throw new NoBodyError(id);
  return body;
}

const bodyName = (kit: Kit, id: Id) => kit.bodies?.find((one) => one.id === id)?.name ?? 'a body';
const takenNames = (kit: Kit) => new Set((kit.bodies ?? []).map(({ name }) => name));

const tidyPlace = ({ at, axis }: CouplingPlace): CouplingPlace => ({ at: tidy(at), axis: tidy(axis) });

/** Makes one body of parts; they leave the bodies they were in. Where none stands still yet, it does, unless it is said not to. */
export const makeBody = defineOperation<{ id: Id; parts: Id[]; name?: string; anchored?: boolean }>({
  id: 'rig.make-body',
  title: (kit, { parts }) => `Hold ${nameList(parts.map((id) => kit.parts[id]?.name ?? ''))} together`,
  args: Joi.object({ id: idSchema.required(), parts: idsSchema.required(), name: Joi.string().min(1).max(200), anchored: Joi.boolean() }),
  change(kit, { id, parts, name, anchored = true }) {
    const first = partOf(kit, parts[0]);
    const chosen = new Set(parts.map((part) => partOf(kit, part).id));
    keepCouplings(kit, () => {
      for (const body of kit.bodies ?? [])
        if (body.parts.some((part) => chosen.has(part))) body.parts = body.parts.filter((part) => !chosen.has(part));
      const bodies = (kit.bodies ??= []);
      bodies.push({
        id,
        name: freeName(name ?? first.name, takenNames(kit)),
        parts,
        anchored: anchored && !bodies.some((body) => body.anchored && body.parts.length > 0),
      });
    });
  },
});

/** Groups parts into bodies: those that touch, or those of one material. */
export const gatherBodies = defineOperation<{ parts: Id[]; by: 'touch' | 'material'; gapMm?: number }>({
  id: 'rig.gather-bodies',
  title: (_, { by }) => (by === 'touch' ? 'Hold together what touches' : 'Hold together what is of one material'),
  args: Joi.object({ parts: idsSchema.required(), by: Joi.valid('touch', 'material').required(), gapMm: Joi.number().min(0).max(1000) }),
  change(kit, { parts, by, gapMm = 1 }, blobs) {
    const shown = parts.filter((id) => partOf(kit, id).mesh !== null);
    if (shown.length === 0) throw new NoSkinMeshError(parts.map((id) => kit.parts[id].name));
    const bounds = boundsByPart(kit, blobs);
    const size = (group: readonly Id[]) =>
      sizeOf(joinBounds(group.flatMap((id) => bounds.get(id) ?? []))).reduce((product, side) => product * Math.max(side, 1e-3), 1);
    const groups = by === 'touch' ? touching(kit, shown, gapMm / 1000, blobs) : byMaterial(kit, shown);
    // The largest comes first: where nothing stands still yet, it does.
    for (const group of groups.sort((a, b) => size(b) - size(a))) makeBody.change(kit, { id: newId(), parts: group }, blobs);
  },
});

function byMaterial(kit: Kit, parts: readonly Id[]): Id[][] {
  const groups = new Map<Id | null, Id[]>();
  for (const id of parts) {
    const material = kit.meshes[kit.parts[id].mesh!].primitives[0]?.material ?? null;
    groups.set(material, [...(groups.get(material) ?? []), id]);
  }
  return [...groups.values()];
}

/** Parts whose surfaces come within a gap of one another, directly or by others. */
export function touching(kit: Kit, parts: readonly Id[], gap: number, blobs: Blobs): Id[][] {
  const bounds = boundsByPart(kit, blobs);
  const surfaces = new Map(parts.map((id) => [id, surfaceOf(kit, [id], blobs)]));
  const trees = new Map<Id, SurfaceTree>();
  const treeOf = (id: Id) => {
    let tree = trees.get(id);
    if (!tree) trees.set(id, (tree = new SurfaceTree(surfaces.get(id)!.positions, surfaces.get(id)!.indices)));
    return tree;
  };
  const near = (a: Id, b: Id) => {
    const { positions } = surfaces.get(a)!;
    for (let i = 0; i < positions.length; i += 3)
      if (treeOf(b).nearest(positions[i], positions[i + 1], positions[i + 2]).squaredDistance <= gap * gap) return true;
    return false;
  };
  const group = new Map<Id, Id>(parts.map((id) => [id, id]));
  const top = (id: Id): Id => (group.get(id) === id ? id : top(group.get(id)!));
  parts.forEach((a, i) => {
    for (const b of parts.slice(i + 1)) {
      if (top(a) === top(b) || !boundsMeet(bounds.get(a), bounds.get(b), gap)) continue;
      if (near(a, b) || near(b, a)) group.set(top(b), top(a));
    }
  });
  const groups = new Map<Id, Id[]>();
  for (const id of parts) groups.set(top(id), [...(groups.get(top(id)) ?? []), id]);
  return [...groups.values()];
}

/** Makes parts one with the body that each is nearest to, by the distance between their surfaces. */
export const holdNearest = defineOperation<{ parts: Id[] }>({
  id: 'rig.hold-nearest',
  title: (kit, { parts }) => `Hold ${nameList(parts.map((id) => kit.parts[id]?.name ?? ''))} with the nearest body`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    const free = new Set(parts.map((id) => partOf(kit, id).id));
    const shown = (id: Id) => kit.parts[id].mesh !== null;
    const others = (kit.bodies ?? [])
      .map((body) => ({ body, parts: body.parts.filter((id) => !free.has(id) && shown(id)) }))
      .filter((one) => one.parts.length > 0);
    if (others.length === 0) throw new NoBodyError('bodies');
    const trees = others.map((one) => {
      const { positions, indices } = surfaceOf(kit, one.parts, blobs);
      return { body: one.body, tree: new SurfaceTree(positions, indices) };
    });
    keepCouplings(kit, () => {
      for (const id of free) {
        const { positions } = surfaceOf(kit, [id], blobs);
        const off = trees.map(({ body, tree }) => {
          let least = Infinity;
          for (let i = 0; i < positions.length; i += 3)
            least = Math.min(least, tree.nearest(positions[i], positions[i + 1], positions[i + 2]).squaredDistance);
          return { body, least };
        });
        const { body } = off.reduce((best, one) => (one.least < best.least ? one : best));
        for (const other of kit.bodies!) other.parts = other.parts.filter((part) => part !== id);
        kit.bodies!.find((one) => one.id === body.id)!.parts.push(id);
      }
    });
  },
});

function boundsMeet(a: Bounds | undefined, b: Bounds | undefined, gap: number): boolean {
  return (
    a !== undefined && b !== undefined && [0, 1, 2].every((axis) => a.min[axis] <= b.max[axis] + gap && b.min[axis] <= a.max[axis] + gap)
  );
}

/** One body stands still from now on, and no other. */
export const anchorBody = defineOperation<{ body: Id }>({
  id: 'rig.anchor-body',
  title: (kit, { body }) => `Anchor “${bodyName(kit, body)}”`,
  args: Joi.object({ body: idSchema.required() }),
  change(kit, { body }) {
    findBody(kit, body);
    for (const one of kit.bodies!) one.anchored = one.id === body;
  },
});

/** Gives a body another name. */
export const renameBody = defineOperation<{ body: Id; name: string }>({
  id: 'rig.rename-body',
  title: (kit, { body, name }) => `Rename “${bodyName(kit, body)}” to “${name}”`,
  args: Joi.object({ body: idSchema.required(), name: Joi.string().min(1).max(200).required() }),
  change(kit, { body, name }) {
    findBody(kit, body).name = name;
  },
});

/** Lets bodies go, with what couples them; their parts stay. */
export const dropBodies = defineOperation<{ bodies: Id[] }>({
  id: 'rig.drop-bodies',
  title: (kit, { bodies }) => `Let ${nameList(bodies.map((id) => bodyName(kit, id)))} go`,
  args: Joi.object({ bodies: idsSchema.required() }),
  change(kit, { bodies }) {
    bodies.forEach((id) => findBody(kit, id));
    keepCouplings(kit, () => {
      for (const body of kit.bodies!) if (bodies.includes(body.id)) body.parts = [];
    });
  },
});

export interface CouplingFields {
  id: Id;
  name?: string;
  kind: CouplingKind;
  from: Id;
  to: Id;
  /** World, metres. */
  at: Vec3;
  /** World; of any length. */
  axis: Vec3;
  min: number | null;
  max: number | null;
  /** Whole steps on which it is to stand, in the axes of the holding body, metres. */
  stepMetres?: number;
}

/** Limits whose lower one is above the upper one. */
export class CouplingLimitsError extends KitError {
  constructor(name: string) {
    super(
      'coupling-limits',
      `The limits of “${name}” are the wrong way round, or leave rest outside. The lower one is 0 or less, the upper one 0 or more.`,
      name,
    );
  }
}

/** An axis of length 0. */
export class NoLineError extends KitError {
  constructor() {
    super('no-line', 'The axis has no length, so it has no direction. Pick two points apart, or type a direction.', 'axis');
  }
}

/** A place on the nearest whole steps, metres. */
const onStep = (at: Vec3, stepMetres: number) => tidy(at.map((value) => Math.round(value / stepMetres) * stepMetres) as Vec3);

const COUPLING_NOUNS: Record<CouplingFields['kind'], string> = { hinge: 'Hinge', slider: 'Slide', ball: 'Ball' };

/** Couples two bodies, or changes how they are coupled. The place is given in the world and kept in the axes of the holding body. */
export const couple = defineOperation<CouplingFields>({
  id: 'rig.couple',
  title: (kit, { kind, from, to }) => `${COUPLING_NOUNS[kind]} between “${bodyName(kit, from)}” and “${bodyName(kit, to)}”`,
  args: Joi.object({
    id: idSchema.required(),
    name: Joi.string().min(1).max(200),
    kind: Joi.valid(...COUPLING_KINDS).required(),
    from: idSchema.required(),
    to: idSchema.invalid(Joi.ref('from')).required(),
    at: vec3Schema.required(),
    axis: vec3Schema.required(),
    min: Joi.number().allow(null).required(),
    max: Joi.number().allow(null).required(),
    stepMetres: Joi.number().positive(),
  }),
  change(kit, { id, name, kind, from, to, at, axis, min, max, stepMetres }) {
    const [a, b] = [findBody(kit, from), findBody(kit, to)];
    const title =
      name ??
      kit.couplings?.find((one) => one.id === id)?.name ??
      freeName(`${b.name}_${kind}`, new Set((kit.couplings ?? []).map((one) => one.name)));
    if ((min ?? 0) > 0 || (max ?? 0) < 0) throw new CouplingLimitsError(title);
    const length = Math.hypot(...axis);
    if (length < 1e-9) throw new NoLineError();
    const place = tidyPlace(placeInBody(kit, a.id, { at, axis: axis.map((value) => value / length) as Vec3 }));
    if (stepMetres !== undefined) place.at = onStep(place.at, stepMetres);
    const made: Coupling = { id, name: title, kind, from, to, ...place, min: kind === 'ball' ? null : min, max };
    const couplings = (kit.couplings ??= []);
    const index = couplings.findIndex((one) => one.id === id);
    if (index >= 0) couplings[index] = made;
    else couplings.push(made);
  },
});

/** Takes couplings out; the bodies stay where they are. */
export const uncouple = defineOperation<{ couplings: Id[] }>({
  id: 'rig.uncouple',
  title: (kit, { couplings }) => `Take out ${nameList(couplings.map((id) => kit.couplings?.find((one) => one.id === id)?.name ?? ''))}`,
  args: Joi.object({ couplings: idsSchema.required() }),
  change(kit, { couplings }) {
    const kept = (kit.couplings ?? []).filter(({ id }) => !couplings.includes(id));
    if (kept.length > 0) kit.couplings = kept;
    else delete kit.couplings;
  },
});

/**
 * Puts the places of couplings onto whole steps in the axes of their holding body, and their axes clean where they are nearly along one.
 */
export const snapCouplings = defineOperation<{ couplings: Id[]; stepMetres: number }>({
  id: 'rig.snap-couplings',
  title: (_, { couplings }) => `Put ${couplings.length} ${couplings.length === 1 ? 'coupling' : 'couplings'} onto the step`,
  args: Joi.object({ couplings: idsSchema.required(), stepMetres: Joi.number().positive().required() }),
  change(kit, { couplings, stepMetres }) {
    for (const coupling of kit.couplings ?? []) {
      if (!couplings.includes(coupling.id)) continue;
      coupling.at = onStep(coupling.at, stepMetres);
      const along = coupling.axis.findIndex((value) => Math.abs(value) > 1 - 1e-4);
      if (along >= 0) coupling.axis = coupling.axis.map((value, axis) => (axis === along ? Math.sign(value) : 0)) as Vec3;
    }
  },
});
