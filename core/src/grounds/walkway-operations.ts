import Joi from 'joi';
import {
  count,
  defineOperation,
  idSchema,
  idsSchema,
  KitError,
  maybeIdSchema,
  nameSchema,
  newId,
  partOf,
  vec3Schema,
  type Id,
  type Kit,
  type Knot,
  type Rope,
  type Vec3,
  type Walkway,
} from '../document';

/** No walkway can be found, or made so. */
export class WalkwayError extends KitError {
  constructor(code: string, message: string, where: string | null = null) {
    super(code, message, where);
  }
}

/** The walkway of a kit that is being changed, made where there is none. Writes to the draft. */
export const walkwayOf = (kit: Kit): Walkway => (kit.walkway ??= { knots: [], ropes: [] });

/** A knot of the walkway. @throws {WalkwayError} where it is gone */
export function knotOf(kit: Kit, id: Id): Knot {
  const knot = kit.walkway?.knots.find((one) => one.id === id);
  if (!knot) throw new WalkwayError('knot-missing', 'That knot is no longer there. Look at the walkway again.', id);
  return knot;
}

function ropeOf(kit: Kit, id: Id): Rope {
  const rope = kit.walkway?.ropes.find((one) => one.id === id);
  if (!rope) throw new WalkwayError('rope-missing', 'That rope is no longer there. Look at the walkway again.', id);
  return rope;
}

/** Takes the walkway off a kit that has none left. Writes to the draft. */
function tidy(kit: Kit): void {
  if (kit.walkway?.knots.length === 0) delete kit.walkway;
}

/** Puts a knot somewhere, joined to another one. */
export const addKnot = defineOperation<{ id?: Id; at: Vec3; edge?: boolean; joined: Id | null }>({
  id: 'grounds.add-knot',
  title: () => 'Put a knot of the walkway',
  args: Joi.object({ id: idSchema, at: vec3Schema.required(), edge: Joi.boolean(), joined: maybeIdSchema.required() }),
  change(kit, { id = newId(), at, edge = false, joined }) {
    const walkway = walkwayOf(kit);
    if (joined !== null) knotOf(kit, joined);
    walkway.knots.push({ id, name: '', at, edge, boards: [], leaves: [] });
    if (joined !== null) walkway.ropes.push({ id: newId(), from: joined, to: id, oneWay: false, rail: false });
  },
});

/** Puts knots elsewhere: by their ids, metres. */
export const moveKnots = defineOperation<{ places: Record<Id, Vec3> }>({
  id: 'grounds.move-knots',
  title: (_, { places }) => `Move ${count(Object.keys(places).length, 'knot')} of the walkway`,
  args: Joi.object({ places: Joi.object().pattern(idSchema, vec3Schema).min(1).required() }),
  change(kit, { places }) {
    for (const [id, at] of Object.entries(places)) knotOf(kit, id).at = at;
  },
});

/** Says what knots are for: whether other plots join there, whose visitors board and leave there, and what they are called. */
export const setKnots = defineOperation<{ knots: Id[]; edge?: boolean; boards?: Id[]; leaves?: Id[]; name?: string }>({
  id: 'grounds.set-knots',
  title: (_, { knots }) => `Say what ${count(knots.length, 'knot')} of the walkway ${knots.length === 1 ? 'is' : 'are'} for`,
  args: Joi.object({
    knots: idsSchema.required(),
    edge: Joi.boolean(),
    boards: Joi.array().items(idSchema).unique(),
    leaves: Joi.array().items(idSchema).unique(),
    name: nameSchema,
  }).or('edge', 'boards', 'leaves', 'name'),
  change(kit, { knots, ...said }) {
    for (const part of [...(said.boards ?? []), ...(said.leaves ?? [])]) partOf(kit, part);
    for (const id of knots) Object.assign(knotOf(kit, id), structuredClone(said));
  },
});

/** Takes knots away, with the ropes that led to them. */
export const removeKnots = defineOperation<{ knots: Id[] }>({
  id: 'grounds.remove-knots',
  title: (_, { knots }) => `Take ${count(knots.length, 'knot')} away`,
  args: Joi.object({ knots: idsSchema.required() }),
  change(kit, { knots }) {
    for (const id of knots) knotOf(kit, id);
    const gone = new Set(knots);
    const walkway = kit.walkway!;
    walkway.knots = walkway.knots.filter(({ id }) => !gone.has(id));
    walkway.ropes = walkway.ropes.filter(({ from, to }) => !gone.has(from) && !gone.has(to));
    tidy(kit);
  },
});

/** Joins two knots. Those that are joined already stay so. */
export const addRope = defineOperation<{ from: Id; to: Id; oneWay?: boolean }>({
  id: 'grounds.add-rope',
  title: () => 'Join two knots of the walkway',
  args: Joi.object({ from: idSchema.required(), to: idSchema.invalid(Joi.ref('from')).required(), oneWay: Joi.boolean() }),
  change(kit, { from, to, oneWay = false }) {
    for (const id of [from, to]) knotOf(kit, id);
    const { ropes } = kit.walkway!;
    const there = ropes.find((rope) => (rope.from === from && rope.to === to) || (rope.from === to && rope.to === from));
    if (there) return;
    ropes.push({ id: newId(), from, to, oneWay, rail: false });
  },
});

/** Says how ropes are gone along: one way, the other way round, with a rail. */
export const setRopes = defineOperation<{ ropes: Id[]; oneWay?: boolean; rail?: boolean; turned?: boolean }>({
  id: 'grounds.set-ropes',
  title: (_, { ropes, turned, rail }) => {
    const many = count(ropes.length, 'rope');
    if (turned) return `Turn ${many} round`;
    return rail === undefined
      ? `Say which way ${many} ${ropes.length === 1 ? 'is' : 'are'} gone`
      : `${rail ? 'Put a rail' : 'Have no rail'} along ${many}`;
  },
  args: Joi.object({ ropes: idsSchema.required(), oneWay: Joi.boolean(), rail: Joi.boolean(), turned: Joi.boolean() }).or(
    'oneWay',
    'rail',
    'turned',
  ),
  change(kit, { ropes, oneWay, rail, turned }) {
    for (const id of ropes) {
      const rope = ropeOf(kit, id);
      rope.oneWay = oneWay ?? rope.oneWay;
      rope.rail = rail ?? rope.rail;
      if (turned) [rope.from, rope.to] = [rope.to, rope.from];
    }
  },
});

/** Takes ropes away; their knots stay. */
export const removeRopes = defineOperation<{ ropes: Id[] }>({
  id: 'grounds.remove-ropes',
  title: (_, { ropes }) => `Take ${count(ropes.length, 'rope')} away`,
  args: Joi.object({ ropes: idsSchema.required() }),
  change(kit, { ropes }) {
    for (const id of ropes) ropeOf(kit, id);
    kit.walkway!.ropes = kit.walkway!.ropes.filter(({ id }) => !ropes.includes(id));
  },
});
