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

/** What a state plays: a clip, or several mixed. One that is gone is none: the state has then no time of its own. */
export interface Played {
  clip: Id | null;
  /** A mix instead of a clip. */
  mix?: Id;
}

/** What a state plays while a name is passed in. */
export interface GaitPlayed extends Played {
  gait: string;
}

/** What a body does for as long as nothing leads on. */
export interface BehaviourState extends Played {
  id: Id;
  name: string;
  /** What it plays instead for some names of the behaviour's gait. Absent where nothing is played otherwise. */
  gaits?: GaitPlayed[];
  /** How fast it is played: 2 takes half the time. */
  speed: number;
  /** Played over and over, or once and held. */
  loop: boolean;
  /** What the game is told each time that it begins. Absent where it is told nothing. */
  sends?: string[];
  /** States of one group are folded together on lists and maps; what is played does not go by it. Absent where it stands alone. */
  group?: string;
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
  /** While it goes over nothing else is taken. */
  firm?: true;
  /** Where in a round of what it leads to it begins, from 0 to below 1, or as far `along` as what it leaves. Absent at the beginning. */
  begins?: number | 'along';
}

/** A layer is there in so far as a number that is passed in goes from `none`, where it is not, to `whole`. */
export interface LayerWeight {
  parameter: string;
  none: number;
  whole: number;
}

/** States of which one is played at a time, over the layers before. */
export interface Layer {
  id: Id;
  name: string;
  /** Parts that it moves, with all below them; none stand for all. */
  parts: Id[];
  /** Over how many steps down from them it comes in: of 0 they move wholly, of 2 by a third, what is below by two thirds, and so on. */
  edge?: number;
  /** Absent where it is always wholly there. */
  weight?: LayerWeight;
  /** Instead of what the layers before do, or on top of it. */
  how: 'replaces' | 'adds';
  first: Id;
  states: BehaviourState[];
  passages: Passage[];
}

/** What plays when, by values that the game passes in. */
export interface Behaviour {
  /** A parameter of names, by which states may play something else. */
  gait?: string;
  layers: Layer[];
}

type PackedPlayed = { clip: string | null; mix?: number };
type PackedState = Omit<BehaviourState, 'id' | keyof Played | 'gaits'> & PackedPlayed & { gaits?: (PackedPlayed & { gait: string })[] };
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
    behaviour?: { gait?: string; layers: PackedLayer[] };
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

/** Characters that a name which a state tells the game may have. */
export const LONGEST_TOLD = 120;
/** What a state tells the game as it begins. */
export const sendsSchema = Joi.array().items(Joi.string().min(1).max(LONGEST_TOLD)).min(1).max(20).unique();
/** Where a passage begins in what it leads to. */
export const beginsSchema = Joi.alternatives(Joi.number().greater(0).less(1), Joi.valid('along'));
/** What a group of states is called. */
export const groupSchema = Joi.string().min(1).max(120);
const ofState = {
  sends: sendsSchema,
  group: groupSchema,
  name: nameSchema.min(1).required(),
  speed: Joi.number().greater(0).max(100).required(),
  loop: Joi.boolean().required(),
};
const gaitName = Joi.string().min(1).max(120).required();
const ofPassage = {
  firm: Joi.valid(true),
  begins: beginsSchema,
  when: Joi.array().items(conditionSchema).max(40).required(),
  after: Joi.valid('any', 'end').required(),
  over: Joi.number().min(0).max(60).required(),
};
/** How far a layer comes in, and by what. */
export const edgeSchema = Joi.number().integer().min(0).max(50);
/** By what a layer is there, and from where to where. */
export const weightSchema = Joi.object({
  parameter,
  none: Joi.number().required(),
  whole: Joi.number().invalid(Joi.ref('none')).required(),
} satisfies SchemaOf<LayerWeight>);
const ofLayer = {
  name: nameSchema.min(1).required(),
  how: Joi.valid('replaces', 'adds').required(),
  edge: edgeSchema,
  weight: weightSchema,
};

const played = { clip: maybeIdSchema.required(), mix: idSchema };
/** What states play for names of the gait. */
export const gaitsSchema = Joi.array()
  .items(Joi.object({ ...played, gait: gaitName } satisfies SchemaOf<GaitPlayed>))
  .min(1)
  .max(200)
  .unique('gait');

/** A state of a layer. */
export const behaviourStateSchema = Joi.object({
  ...ofState,
  ...played,
  id: idSchema.required(),
  gaits: gaitsSchema,
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
  gait: Joi.string().min(1).max(120),
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
const packedPlayed = { clip: Joi.string().allow('', null).required(), mix: index };
const packedSchema = Joi.object({
  gait: Joi.string().min(1).max(120),
  layers: Joi.array()
    .items(
      Joi.object({
        ...ofLayer,
        parts: Joi.array().items(index).required(),
        first: index.required(),
        states: Joi.array()
          .items(
            Joi.object({
              ...ofState,
              ...packedPlayed,
              gaits: Joi.array()
                .items(Joi.object({ ...packedPlayed, gait: gaitName }))
                .unique('gait'),
            }),
          )
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

function packPlayed({ clip, mix }: Played, { clips, mixes = [] }: Kit): PackedPlayed {
  const at = mixes.findIndex(({ id }) => id === mix);
  return { clip: clip === null ? null : (clips[clip]?.name ?? null), ...(at >= 0 && { mix: at }) };
}

/** All that a state plays, whatever the gait: first what it plays otherwise. */
export const playsOf = ({ clip, mix, gaits = [] }: BehaviourState): Played[] => [{ clip, mix }, ...gaits];

/** What plays when: layers, states and passages. */
export const behaviourSection: Section<'behaviour'> = {
  kind: 'optional',
  merges: 'records',
  schema: behaviourSchema,
  fields: [],
  sound({ gait, layers }, refuse) {
    if (new Set(layers.map(({ name }) => name)).size < layers.length) refuse('has two layers of one name', 'behaviour.layers');
    for (const { id, first, states, passages } of layers) {
      const where = `behaviour.layers.${id}`;
      const there = new Set(states.map((state) => state.id));
      if (new Set(states.map(({ name }) => name)).size < states.length) refuse('has two states of one name', where);
      for (const state of states) {
        if (playsOf(state).some(({ clip, mix }) => clip !== null && mix !== undefined))
          refuse('plays a clip and a mix at once', `${where}.states.${state.id}`);
        if (state.gaits && gait === undefined)
          refuse('plays by a gait, and nothing says which parameter that is', `${where}.states.${state.id}`);
      }
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
  // A state whose clip is gone plays none, and so one whose mix is.
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
        (a, b) => [
          ...said(a.name, b.name, `renamed from “${a.name}”`),
          ...said([a.parts, a.how, a.edge, a.weight], [b.parts, b.how, b.edge, b.weight], 'moves other parts'),
        ],
      ),
      ...compareRecords(
        all(before, (layer) => layer.states),
        all(after, (layer) => layer.states),
        ({ name }) => `State “${name}”`,
        (a, b) => [
          ...said(a.name, b.name, `renamed from “${a.name}”`),
          ...said(playsOf(a), playsOf(b), 'plays something else'),
          ...said(a.sends, b.sends, 'tells the game something else'),
          ...said(a.group, b.group, 'is in another group'),
        ],
      ),
      ...compareRecords(
        all(before, (layer) => layer.passages),
        all(after, (layer) => layer.passages),
        ({ from, to }) => `Passage from “${named(from)}” to “${named(to)}”`,
        (a, b) => [...said(a.when, b.when, 'other conditions'), ...said(a.begins, b.begins, 'begins elsewhere')],
      ),
    ];
  },
  pack: {
    model: false,
    manifest: {
      schema: packedSchema,
      write: (kit, { nodeOf }) =>
        kit.behaviour && {
          ...(kit.behaviour.gait !== undefined && { gait: kit.behaviour.gait }),
          layers: kit.behaviour.layers.map(({ id: _, parts, first, states, passages, ...layer }) => {
            const number = new Map(states.map(({ id }, i) => [id, i]));
            return {
              ...layer,
              parts: parts.map(nodeOf),
              first: number.get(first)!,
              states: states.map(({ id: __, clip, mix, gaits, ...state }) => ({
                ...state,
                ...packPlayed({ clip, mix }, kit),
                ...(gaits && { gaits: gaits.map(({ gait, ...one }) => ({ gait, ...packPlayed(one, kit) })) }),
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
      read({ gait: byGait, layers }, kit, { partAt }) {
        const clips = new Map(Object.values(kit.clips).map(({ id, name }) => [name, id]));
        const playedOf = ({ clip, mix }: PackedPlayed): Played => ({
          clip: clip === null ? null : (clips.get(clip) ?? null),
          ...(mix !== undefined && kit.mixes?.[mix] && { mix: kit.mixes[mix].id }),
        });
        kit.behaviour = {
          ...(byGait !== undefined && { gait: byGait }),
          layers: layers.map(({ parts, first, states, passages, ...layer }, l) => {
            const state = (i: number) => `state${l}_${i}`;
            return {
              ...layer,
              id: `layer${l}`,
              parts: parts.map((node) => partAt(node, `behaviour.layers.${l}`)),
              first: state(first),
              states: states.map(({ clip, mix, gaits, ...one }, i) => ({
                ...one,
                ...playedOf({ clip, mix }),
                ...(gaits && { gaits: gaits.map(({ gait, ...other }) => ({ gait, ...playedOf(other) })) }),
                id: state(i),
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
