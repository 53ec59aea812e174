import Joi from 'joi';
import { idSchema, idsSchema, nameSchema, vec3Schema, type SchemaOf } from '../schemas';
import type { Id, Vec3 } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** A place of a walkway. */
export interface Knot {
  id: Id;
  /** May be empty. */
  name: string;
  /** Where a visitor's feet stand, of the kit at rest, metres. */
  at: Vec3;
  /** Whether the walkways of other plots are joined here. */
  edge: boolean;
  /** Parts that carry seats: from here their visitors board, and here they are set down. */
  boards: Id[];
  leaves: Id[];
}

/** A straight stretch between two knots. */
export interface Rope {
  id: Id;
  from: Id;
  to: Id;
  /** Whether it is gone along from `from` to `to` alone. */
  oneWay: boolean;
  /** Whether a rail keeps visitors from the edge beside it. */
  rail: boolean;
}

export interface Walkway {
  knots: Knot[];
  ropes: Rope[];
}

interface PackedWalkway {
  knots: (Omit<Knot, 'id' | 'boards' | 'leaves'> & { boards: number[]; leaves: number[] })[];
  /** Knots by their number. */
  ropes: (Omit<Rope, 'id' | 'from' | 'to'> & { from: number; to: number })[];
}

declare module '../kit' {
  interface Kit {
    /** Absent where there is no way. */
    walkway?: Walkway;
  }
  interface ManifestSections {
    walkway?: PackedWalkway;
  }
}

const ofKnot = { name: nameSchema.required(), at: vec3Schema.required(), edge: Joi.boolean().required() };
const ofRope = { oneWay: Joi.boolean().required(), rail: Joi.boolean().required() };
const nodes = Joi.array().items(Joi.number().integer().min(0)).required();
const carriers = Joi.array().items(idSchema).unique().required();

/** A place of a walkway. */
export const knotSchema = Joi.object({ ...ofKnot, id: idSchema.required(), boards: carriers, leaves: carriers } satisfies SchemaOf<Knot>);

/** A stretch between two knots. */
export const ropeSchema = Joi.object({
  ...ofRope,
  id: idSchema.required(),
  from: idSchema.required(),
  to: idSchema.required(),
} satisfies SchemaOf<Rope>);

/** Which ids of knots or ropes an operation is about. */
export const someSchema = idsSchema.required();

/** Knots and ropes: how visitors get from the edge to the seats and back. */
export const walkwaySection: Section<'walkway'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.object({
    knots: Joi.array().items(knotSchema).max(4000).required(),
    ropes: Joi.array().items(ropeSchema).max(8000).required(),
  } satisfies SchemaOf<Walkway>),
  fields: [],
  sound({ knots, ropes }, refuse) {
    const ids = new Set(knots.map(({ id }) => id));
    if (ids.size < knots.length) refuse('has two knots of one id', 'walkway.knots');
    const pairs = new Set<string>();
    for (const { id, from, to } of ropes) {
      for (const end of [from, to]) if (!ids.has(end)) refuse(`leads to the knot “${end}”, which is not there`, `walkway.ropes.${id}`);
      if (from === to) refuse('leads from a knot to itself', `walkway.ropes.${id}`);
      const pair = [from, to].sort().join(' ');
      if (pairs.has(pair)) refuse('joins two knots that are joined already', `walkway.ropes.${id}`);
      pairs.add(pair);
    }
  },
  references({ knots }, { kit, need }) {
    for (const { id, boards, leaves } of knots) for (const part of [...boards, ...leaves]) need(kit.parts, part, `walkway.knots.${id}`);
  },
  blobs: nothing,
  without(kit, { gone }) {
    for (const knot of kit.walkway?.knots ?? []) {
      if (knot.boards.some((id) => gone.has(id))) knot.boards = knot.boards.filter((id) => !gone.has(id));
      if (knot.leaves.some((id) => gone.has(id))) knot.leaves = knot.leaves.filter((id) => !gone.has(id));
    }
  },
  joined(kit, from, into) {
    const other = (ids: Id[]) => [...new Set(ids.map((id) => (id === from ? into : id)))];
    for (const knot of kit.walkway?.knots ?? []) {
      if (knot.boards.includes(from)) knot.boards = other(knot.boards);
      if (knot.leaves.includes(from)) knot.leaves = other(knot.leaves);
    }
  },
  moved: nothing,
  conform(kit, to) {
    for (const knot of kit.walkway?.knots ?? []) knot.at = to.place(knot.at);
  },
  compare: (before, after) => [
    ...compareRecords(
      before.walkway?.knots ?? [],
      after.walkway?.knots ?? [],
      ({ name }) => (name === '' ? 'A knot' : `Knot “${name}”`),
      (a, b) => [
        ...said(a.at, b.at, 'elsewhere'),
        ...said(a.edge, b.edge, b.edge ? 'joined to others' : 'no longer joined to others'),
        ...said([a.boards, a.leaves], [b.boards, b.leaves], 'boards or leaves otherwise'),
      ],
    ),
    ...compareRecords(before.walkway?.ropes ?? [], after.walkway?.ropes ?? [], () => 'A rope'),
  ],
  pack: {
    model: false,
    manifest: {
      schema: Joi.object({
        knots: Joi.array()
          .items(Joi.object({ ...ofKnot, boards: nodes, leaves: nodes }))
          .required(),
        ropes: Joi.array()
          .items(Joi.object({ ...ofRope, from: Joi.number().integer().min(0).required(), to: Joi.number().integer().min(0).required() }))
          .required(),
      }).custom((said: PackedWalkway) => {
        const lost = said.ropes.findIndex(({ from, to }) => Math.max(from, to) >= said.knots.length);
        if (lost >= 0) throw new Error(`rope ${lost + 1} leads to a knot that is not there`);
        return said;
      }),
      write({ walkway }, { nodeOf }) {
        if (!walkway) return undefined;
        const placeOf = new Map(walkway.knots.map(({ id }, i) => [id, i]));
        return {
          knots: walkway.knots.map(({ id: _, boards, leaves, ...knot }) => ({
            ...knot,
            boards: boards.map(nodeOf),
            leaves: leaves.map(nodeOf),
          })),
          ropes: walkway.ropes.map(({ id: _, from, to, ...rope }) => ({ ...rope, from: placeOf.get(from)!, to: placeOf.get(to)! })),
        };
      },
      read({ knots, ropes }, kit, { partAt }) {
        const parts = (list: number[], i: number) => list.map((node) => partAt(node, `knot ${i + 1}`));
        kit.walkway = {
          knots: knots.map((knot, i) => ({ ...knot, id: `knot${i}`, boards: parts(knot.boards, i), leaves: parts(knot.leaves, i) })),
          ropes: ropes.map((rope, i) => ({ ...rope, id: `rope${i}`, from: `knot${rope.from}`, to: `knot${rope.to}` })),
        };
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
