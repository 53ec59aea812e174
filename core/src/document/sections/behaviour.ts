import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, maybeIdSchema, nameSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** What has to hold of one value that the game passes in. Numbers: `atLeast` ≤ value < `below`, null where there is no end. */
export type Condition =
  | { kind: 'range'; parameter: string; atLeast: number | null; below: number | null }
  /** Names, or `yes` and `no`. */
  | { kind: 'among'; parameter: string; values: string[] }
  /** A signal is there for the one frame in which it is sent. */
  | { kind: 'sent'; parameter: string };

/** What a body does for as long as nothing leads on. */
export interface BehaviourState {
  id: Id;
  name: string;
  /** A clip that is gone is none: the state has then no time of its own. */
  clip: Id | null;
  /** How fast it is played: 2 takes half the time. */
  speed: number;
  /** Played over and over, or once and held. */
  loop: boolean;
}

/** A way from one state to another. The earlier one in the list goes first. */
export interface Passage {
  id: Id;
  /** Null from anywhere, but for the state that it leads to and those excepted. */
  from: Id | null;
  except: Id[];
  to: Id;
  /** All of them hold; none holds always. */
  when: Condition[];
  /** At any time, or only once the clip has been played to its end. */
  after: 'any' | 'end';
  /** Seconds in which the one goes over into the other; of 0 the next one is looked at in the same frame. */
  over: number;
}

/** States of which one is played at a time, over the layers before. */
export interface Layer {
  id: Id;
  name: string;
  /** Parts that it moves, with all below them; none stand for all. */
  parts: Id[];
  /** Instead of what the layers before do, or on top of it. */
  how: 'replaces' | 'adds';
  first: Id;
  states: BehaviourState[];
  passages: Passage[];
}

/** What plays when, by values that the game passes in. */
export interface Behaviour {
  layers: Layer[];
}

type PackedState = Omit<BehaviourState, 'id' | 'clip'> & { clip: string | null };
type PackedPassage = Omit<Passage, 'id' | 'from' | 'to' | 'except'> & { from: number | null; to: number; except: number[] };
interface PackedLayer extends Omit<Layer, 'id' | 'parts' | 'first' | 'states' | 'passages'> {
  parts: number[];
  first: number;
  states: PackedState[];
  passages: PackedPassage[];
}

declare module '../kit' {
  interface Kit {
    /** Absent where there is none. */
    behaviour?: Behaviour;
  }
  interface ManifestSections {
    behaviour?: { layers: PackedLayer[] };
  }
}

const parameter = Joi.string().min(1).max(120).required();
const bound = Joi.number().allow(null).required();

/** One condition of a passage. */
export const conditionSchema = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'range', then: Joi.object({ kind: Joi.valid('range').required(), parameter, atLeast: bound, below: bound }) },
    {
      is: 'among',
      then: Joi.object({
        kind: Joi.valid('among').required(),
        parameter,
        values: Joi.array().items(Joi.string().min(1).max(120)).min(1).max(200).unique().required(),
      }),
    },
    { is: 'sent', then: Joi.object({ kind: Joi.valid('sent').required(), parameter }), otherwise: Joi.forbidden() },
  ],
});

const ofState = {
  name: nameSchema.min(1).required(),
  speed: Joi.number().greater(0).max(100).required(),
  loop: Joi.boolean().required(),
};
const ofPassage = {
  when: Joi.array().items(conditionSchema).max(40).required(),
  after: Joi.valid('any', 'end').required(),
  over: Joi.number().min(0).max(60).required(),
};
const ofLayer = { name: nameSchema.min(1).required(), how: Joi.valid('replaces', 'adds').required() };

/** A state of a layer. */
export const behaviourStateSchema = Joi.object({
  ...ofState,
  id: idSchema.required(),
  clip: maybeIdSchema.required(),
} satisfies SchemaOf<BehaviourState>);

/** A passage of a layer. */
export const passageSchema = Joi.object({
  ...ofPassage,
  id: idSchema.required(),
  from: maybeIdSchema.required(),
  except: Joi.array().items(idSchema).max(500).unique().required(),
  to: idSchema.required(),
} satisfies SchemaOf<Passage>);

const MOST = { layers: 20, states: 500, passages: 4000 } as const;

/** Layers with their states and passages. */
export const behaviourSchema = Joi.object({
  layers: Joi.array()
    .items(
      Joi.object({
        ...ofLayer,
        id: idSchema.required(),
        parts: Joi.array().items(idSchema).max(1000).unique().required(),
        first: idSchema.required(),
        states: Joi.array().items(behaviourStateSchema).min(1).max(MOST.states).unique('id').required(),
        passages: Joi.array().items(passageSchema).max(MOST.passages).unique('id').required(),
      } satisfies SchemaOf<Layer>),
    )
    .min(1)
    .max(MOST.layers)
    .unique('id')
    .required(),
} satisfies SchemaOf<Behaviour>);

const index = Joi.number().integer().min(0);
const packedSchema = Joi.object({
  layers: Joi.array()
    .items(
      Joi.object({
        ...ofLayer,
        parts: Joi.array().items(index).required(),
        first: index.required(),
        states: Joi.array()
          .items(Joi.object({ ...ofState, clip: Joi.string().allow('', null).required() }))
          .min(1)
          .required(),
        passages: Joi.array()
          .items(
            Joi.object({
              ...ofPassage,
              from: index.allow(null).required(),
              except: Joi.array().items(index).required(),
              to: index.required(),
            }),
          )
          .required(),
      }),
    )
    .min(1)
    .required(),
}).custom((packed: { layers: PackedLayer[] }) => {
  for (const { name, first, states, passages } of packed.layers)
    for (const at of [first, ...passages.flatMap(({ from, except, to }) => [...(from === null ? [] : [from]), ...except, to])])
      if (at >= states.length) throw new Error(`the layer “${name}” names a state that is not there`);
  return packed;
});

/** What plays when: layers, states and passages. */
export const behaviourSection: Section<'behaviour'> = {
  kind: 'optional',
  merges: 'records',
  schema: behaviourSchema,
  fields: [],
  sound({ layers }, refuse) {
    if (new Set(layers.map(({ name }) => name)).size < layers.length) refuse('has two layers of one name', 'behaviour.layers');
    for (const { id, first, states, passages } of layers) {
      const where = `behaviour.layers.${id}`;
      const there = new Set(states.map((state) => state.id));
      if (new Set(states.map(({ name }) => name)).size < states.length) refuse('has two states of one name', where);
      if (!there.has(first)) refuse('begins in a state that is not there', where);
      for (const { id: passage, from, except, to, when } of passages) {
        for (const state of [...(from === null ? [] : [from]), ...except, to])
          if (!there.has(state)) refuse(`names the state “${state}”, which is not there`, `${where}.passages.${passage}`);
        if (from === to) refuse('leads from a state to itself', `${where}.passages.${passage}`);
        for (const one of when)
          if (one.kind === 'range' && one.atLeast === null && one.below === null) refuse('asks nothing', `${where}.passages.${passage}`);
      }
    }
  },
  // A state whose clip is gone plays none.
  references({ layers }, { kit, need }) {
    for (const { id, parts } of layers) for (const part of parts) need(kit.parts, part, `behaviour.layers.${id}`);
  },
  blobs: nothing,
  without(kit, { gone }) {
    for (const layer of kit.behaviour?.layers ?? [])
      if (layer.parts.some((part) => gone.has(part))) layer.parts = layer.parts.filter((part) => !gone.has(part));
  },
  joined(kit, from, into) {
    for (const layer of kit.behaviour?.layers ?? [])
      if (layer.parts.includes(from)) layer.parts = [...new Set(layer.parts.map((part) => (part === from ? into : part)))];
  },
  moved: nothing,
  conform: nothing,
  compare: (before, after) => {
    const all = <T>(kit: Kit, of: (layer: Layer) => T[]): T[] => kit.behaviour?.layers.flatMap(of) ?? [];
    const states = (kit: Kit) => new Map(all(kit, (layer) => layer.states).map(({ id, name }) => [id, name]));
    const [had, has] = [states(before), states(after)];
    const named = (id: Id | null) => (id === null ? 'anywhere' : (has.get(id) ?? had.get(id) ?? id));
    return [
      ...compareRecords(
        all(before, ({ passages: _, states: __, ...layer }) => [layer]),
        all(after, ({ passages: _, states: __, ...layer }) => [layer]),
        ({ name }) => `Layer “${name}”`,
        (a, b) => [...said(a.name, b.name, `renamed from “${a.name}”`), ...said([a.parts, a.how], [b.parts, b.how], 'moves other parts')],
      ),
      ...compareRecords(
        all(before, (layer) => layer.states),
        all(after, (layer) => layer.states),
        ({ name }) => `State “${name}”`,
        (a, b) => [...said(a.name, b.name, `renamed from “${a.name}”`), ...said(a.clip, b.clip, 'plays something else')],
      ),
      ...compareRecords(
        all(before, (layer) => layer.passages),
        all(after, (layer) => layer.passages),
        ({ from, to }) => `Passage from “${named(from)}” to “${named(to)}”`,
        (a, b) => said(a.when, b.when, 'other conditions'),
      ),
    ];
  },
  pack: {
    model: false,
    manifest: {
      schema: packedSchema,
      write: (kit, { nodeOf }) =>
        kit.behaviour && {
          layers: kit.behaviour.layers.map(({ id: _, parts, first, states, passages, ...layer }) => {
            const number = new Map(states.map(({ id }, i) => [id, i]));
            return {
              ...layer,
              parts: parts.map(nodeOf),
              first: number.get(first)!,
              states: states.map(({ id: __, clip, ...state }) => ({
                ...state,
                clip: clip === null ? null : (kit.clips[clip]?.name ?? null),
              })),
              passages: passages.map(({ id: __, from, except, to, ...passage }) => ({
                ...passage,
                from: from === null ? null : number.get(from)!,
                except: except.map((state) => number.get(state)!),
                to: number.get(to)!,
              })),
            };
          }),
        },
      read({ layers }, kit, { partAt }) {
        const clips = new Map(Object.values(kit.clips).map(({ id, name }) => [name, id]));
        kit.behaviour = {
          layers: layers.map(({ parts, first, states, passages, ...layer }, l) => {
            const state = (i: number) => `state${l}_${i}`;
            return {
              ...layer,
              id: `layer${l}`,
              parts: parts.map((node) => partAt(node, `behaviour.layers.${l}`)),
              first: state(first),
              states: states.map(({ clip, ...one }, i) => ({
                ...one,
                id: state(i),
                clip: clip === null ? null : (clips.get(clip) ?? null),
              })),
              passages: passages.map(({ from, except, to, ...one }, i) => ({
                ...one,
                id: `passage${l}_${i}`,
                from: from === null ? null : state(from),
                except: except.map(state),
                to: state(to),
              })),
            };
          }),
        };
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
