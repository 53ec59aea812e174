import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, maybeIdSchema, vec3Schema, type SchemaOf } from '../schemas';
import type { Id, Vec3 } from '../values';
import { said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** The tiles that a thing takes, as a rectangle on the ground: metres, its corners on lines of the grid, at the height of the ground. */
export interface Footprint {
  low: Vec3;
  high: Vec3;
  /** Middles of tiles that visitors may cross all the same. */
  holes: Vec3[];
}

/** What a thing does in one of the platform's states: nothing, or a stretch of a clip. */
export interface GroundsState {
  /** One of the rulebook's. */
  state: string;
  /** A clip that is gone is none. */
  clip: Id | null;
  /** Seconds of the clip at which it begins, and ends; null at the clip's end. */
  from: number;
  to: number | null;
  /** Seconds in which what came before goes over into it. */
  over: number;
}

/** A material that shines by night. */
export interface Glow {
  /** Its name: that is what a platform knows it by. */
  material: string;
  /** How bright, as a factor of the colour. */
  factor: number;
  /** Linear red, green, blue, 0 to 1. */
  colour: Vec3;
}

export type Fact = number | string | boolean;

export interface Grounds {
  footprint: Footprint | null;
  states: GroundsState[];
  glows: Glow[];
  /** By the rulebook's names. */
  facts: Record<string, Fact>;
}

declare module '../kit' {
  interface Kit {
    /** How it stands on tiles. Absent where nothing is said of it. */
    grounds?: Grounds;
  }
  interface ManifestSections {
    grounds?: PackedGrounds;
  }
}

type PackedGrounds = Omit<Grounds, 'states'> & { states: (Omit<GroundsState, 'clip'> & { clip: string | null })[] };

/** Tiles, as corners and middles of holes. */
export const footprintSchema = Joi.object({
  low: vec3Schema.required(),
  high: vec3Schema.required(),
  holes: Joi.array().items(vec3Schema).max(4096).required(),
} satisfies SchemaOf<Footprint>);

const stateFields = {
  state: Joi.string().min(1).max(64).required(),
  from: Joi.number().min(0).required(),
  to: Joi.number().greater(Joi.ref('from')).allow(null).required(),
  over: Joi.number().min(0).max(60).required(),
};

/** What a thing does in one of the platform's states. */
export const groundsStateSchema = Joi.object({ ...stateFields, clip: maybeIdSchema.required() } satisfies SchemaOf<GroundsState>);

/** How a material shines by night. */
export const glowSchema = Joi.object({
  material: Joi.string().min(1).max(200).required(),
  factor: Joi.number().min(0).max(100).required(),
  colour: Joi.array().items(Joi.number().min(0).max(1).required()).length(3).required(),
} satisfies SchemaOf<Glow>);

const fields = {
  footprint: footprintSchema.allow(null).required(),
  glows: Joi.array().items(glowSchema).max(200).unique('material').required(),
  facts: Joi.object()
    .pattern(idSchema, Joi.alternatives(Joi.number(), Joi.string().allow('').max(2000), Joi.boolean()))
    .required(),
};

/** A new one: nothing is said yet. */
export const emptyGrounds = (): Grounds => ({ footprint: null, states: [], glows: [], facts: {} });

/** The grounds of a kit that is being changed, made where there are none. Writes to the draft. */
export const groundsOf = (kit: Kit): Grounds => (kit.grounds ??= emptyGrounds());

/** Tiles, states, glow and facts of a thing that stands on tiles. */
export const groundsSection: Section<'grounds'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.object({
    ...fields,
    states: Joi.array().items(groundsStateSchema).max(40).unique('state').required(),
  } satisfies SchemaOf<Grounds>),
  fields: [],
  sound({ footprint }, refuse) {
    if (footprint && flatOf(footprint) !== 1) refuse('has a footprint without tiles', 'grounds.footprint');
  },
  // A state whose clip is gone plays none.
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform(kit, to) {
    const footprint = kit.grounds?.footprint;
    if (!footprint) return;
    const corners = [to.place(footprint.low), to.place(footprint.high)];
    footprint.low = [0, 1, 2].map((axis) => Math.min(corners[0][axis], corners[1][axis])) as Vec3;
    footprint.high = [0, 1, 2].map((axis) => Math.max(corners[0][axis], corners[1][axis])) as Vec3;
    footprint.holes = footprint.holes.map(to.place);
  },
  compare: ({ grounds: a }, { grounds: b }) =>
    [
      ...said(a?.footprint ?? null, b?.footprint ?? null, 'other tiles'),
      ...said(a?.states ?? [], b?.states ?? [], 'plays otherwise in its states'),
      ...said(a?.glows ?? [], b?.glows ?? [], 'shines otherwise by night'),
      ...said(a?.facts ?? {}, b?.facts ?? {}, 'other facts'),
    ].map((what) => ({ where: 'Grounds', what })),
  pack: {
    model: false,
    manifest: {
      schema: Joi.object({
        ...fields,
        states: Joi.array()
          .items(Joi.object({ ...stateFields, clip: Joi.string().allow(null, '').required() }))
          .required(),
      }),
      write: ({ grounds, clips }) =>
        grounds && { ...grounds, states: grounds.states.map((one) => ({ ...one, clip: (one.clip && clips[one.clip]?.name) || null })) },
      read(packed, kit) {
        const idOf = (name: string | null) => Object.values(kit.clips).find((clip) => clip.name === name)?.id ?? null;
        kit.grounds = { ...packed, states: packed.states.map((one) => ({ ...one, clip: idOf(one.clip) })) };
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};

/** In how many directions a rectangle has no size: 1 where it lies flat in whichever plane is the ground. */
const flatOf = ({ low, high }: Footprint): number => [0, 1, 2].filter((axis) => !(low[axis] < high[axis])).length;
