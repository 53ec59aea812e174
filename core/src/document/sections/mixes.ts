import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, maybeIdSchema, nameSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** When a foot comes down in a clip. */
export interface Step {
  /** Which foot: any number, the same for the same foot in the other clips of the mix. */
  foot: number;
  /** Seconds within the clip. */
  time: number;
}

/** A clip of a mix, and where it has its place: there it is played alone. */
export interface Peg {
  id: Id;
  /** A clip that is gone is none: rest is mixed in. */
  clip: Id | null;
  /** Values of the mix's parameters, one each. */
  at: number[];
  /** How fast it is played: 2 takes half the time. */
  speed: number;
  /** When its feet come down, ascending in time; absent where they are found by how they move. */
  steps?: Step[];
}

/**
 * How shares come of places: between neighbours along one parameter, or over a field of two, seen as a plane (`across`) or from its middle
 * by direction and how far out (`around`), where speeds of a body go to all sides.
 */
export const MIX_KINDS = ['line', 'across', 'around'] as const;
export type MixKind = (typeof MIX_KINDS)[number];

/** How many parameters a mix of a kind goes by. */
export const parametersOfKind = (kind: MixKind): 1 | 2 => (kind === 'line' ? 1 : 2);

/** Clips blended by one or two values that the game passes in. */
export interface Mix {
  id: Id;
  name: string;
  kind: MixKind;
  /** Their names; one of a line, two of a field. */
  parameters: string[];
  pegs: Peg[];
}

type PackedMix = Omit<Mix, 'id' | 'pegs'> & { pegs: (Omit<Peg, 'id' | 'clip'> & { clip: string | null })[] };

declare module '../kit' {
  interface Kit {
    /** Absent where there are none. */
    mixes?: Mix[];
  }
  interface ManifestSections {
    mixes?: PackedMix[];
  }
}

/** How many clips a mix has at most. */
export const MOST_PEGS = 60;

/** Steps of a clip, in their order. */
export const stepsSchema = Joi.array()
  .items(
    Joi.object({ foot: Joi.number().integer().min(0).max(99).required(), time: Joi.number().min(0).required() } satisfies SchemaOf<Step>),
  )
  .max(400);

const ofPeg = {
  at: Joi.array().items(Joi.number().required()).min(1).max(2).required(),
  speed: Joi.number().greater(0).max(100).required(),
  steps: stepsSchema,
};
const ofMix = {
  name: nameSchema.min(1).required(),
  kind: Joi.valid(...MIX_KINDS).required(),
  parameters: Joi.array().items(Joi.string().min(1).max(120)).min(1).max(2).unique().required(),
};

/** A clip of a mix at its place. */
export const pegSchema = Joi.object({ ...ofPeg, id: idSchema.required(), clip: maybeIdSchema.required() } satisfies SchemaOf<Peg>);

/** A mix with its clips. */
export const mixSchema = Joi.object({
  ...ofMix,
  id: idSchema.required(),
  pegs: Joi.array().items(pegSchema).min(1).max(MOST_PEGS).unique('id').required(),
} satisfies SchemaOf<Mix>);

const packedMix = Joi.object({
  ...ofMix,
  pegs: Joi.array()
    .items(Joi.object({ ...ofPeg, clip: Joi.string().allow('', null).required() }))
    .min(1)
    .max(MOST_PEGS)
    .required(),
});

/** Why a mix can't be played as it is said; null where it can. */
export function mixFault({ kind, parameters, pegs }: Pick<Mix, 'kind' | 'parameters' | 'pegs'>): string | null {
  const wanted = parametersOfKind(kind);
  if (parameters.length !== wanted) return `goes by ${wanted === 1 ? 'one parameter' : 'two parameters'}, not by ${parameters.length}`;
  if (pegs.some(({ at }) => at.length !== wanted)) return `has a clip whose place is not ${wanted === 1 ? 'one number' : 'two numbers'}`;
  if (new Set(pegs.map(({ at }) => at.map((value) => value + 0).join(' '))).size < pegs.length) return 'has two clips at one place';
  if (pegs.some(({ steps = [] }) => steps.some(({ time }, i) => i > 0 && time < steps[i - 1].time)))
    return 'has a clip whose steps are not in their order';
  if (kind === 'around' && !pegs.some(({ at }) => at.every((value) => value === 0)))
    return 'goes round its middle, and has no clip there: at 0 and 0';
  return null;
}

/** Clips blended by values. */
export const mixesSection: Section<'mixes'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(mixSchema).unique('id').unique('name').max(200),
  fields: [],
  sound(mixes, refuse) {
    for (const mix of mixes) {
      const fault = mixFault(mix);
      if (fault !== null) refuse(fault, `mixes.${mix.id}`);
    }
  },
  // A clip that is gone is none.
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.mixes ?? [],
      after.mixes ?? [],
      ({ name }) => `Mix “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said([a.kind, a.parameters], [b.kind, b.parameters], 'goes by other values'),
        ...said(a.pegs, b.pegs, 'other clips or places'),
      ],
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(packedMix),
      write: (kit: Kit) =>
        kit.mixes?.map(({ id: _, pegs, ...mix }) => ({
          ...mix,
          pegs: pegs.map(({ id: __, clip, ...peg }) => ({ ...peg, clip: clip === null ? null : (kit.clips[clip]?.name ?? null) })),
        })),
      read(list, kit) {
        const clips = new Map(Object.values(kit.clips).map(({ id, name }) => [name, id]));
        kit.mixes = list.map(({ pegs, ...mix }, m) => ({
          ...mix,
          id: `mix${m}`,
          pegs: pegs.map(({ clip, ...peg }, i) => ({ ...peg, id: `peg${m}_${i}`, clip: clip === null ? null : (clips.get(clip) ?? null) })),
        }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
