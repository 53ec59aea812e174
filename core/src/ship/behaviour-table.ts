import Joi from 'joi';
import {
  beginsSchema,
  conditionSchema,
  edgeSchema,
  jsonSchemaOf,
  KitError,
  MIX_KINDS,
  mixFault,
  MOST_PEGS,
  newId,
  partsInOrder,
  groupSchema,
  sendsSchema,
  stepsSchema,
  weightSchema,
  type Behaviour,
  type Condition,
  type Id,
  type Json,
  type Kit,
  type Layer,
  type Mix,
  type Passage,
  type Played,
  type Step,
} from '../document';

/** What `format` says in a table of behaviour of this version. */
export const BEHAVIOUR_FORMAT = 'itchkit.behaviour/1';

const name = Joi.string().min(1).max(200);

interface SaidPlayed {
  clip: string | null;
  /** A mix instead of a clip, by its name. */
  mix?: string;
}

interface SaidMix extends Pick<Mix, 'name' | 'kind' | 'parameters'> {
  clips: { clip: string | null; at: number[]; speed: number; steps?: Step[] }[];
}

interface SaidPassage extends Pick<Passage, 'after' | 'over' | 'firm' | 'begins'> {
  /** Null from anywhere. */
  from: string | null;
  except?: string[];
  to: string;
  when: Condition[];
}

interface SaidState extends SaidPlayed {
  name: string;
  speed: number;
  loop: boolean;
  sends?: string[];
  group?: string;
  gaits?: (SaidPlayed & { gait: string })[];
}

interface SaidLayer extends Pick<Layer, 'name' | 'how' | 'edge' | 'weight'> {
  parts: string[];
  first: string;
  states: SaidState[];
  passages: SaidPassage[];
}

/** Layers, states and passages by their names. */
export interface BehaviourTable {
  format: typeof BEHAVIOUR_FORMAT;
  mixes?: SaidMix[];
  /** By which names states play otherwise. */
  gait?: string;
  layers: SaidLayer[];
}

const played = { clip: name.allow(null).default(null), mix: name };
const speed = Joi.number().greater(0).max(100).default(1);

const tableSchema = Joi.object({
  format: Joi.valid(BEHAVIOUR_FORMAT).required(),
  mixes: Joi.array()
    .items(
      Joi.object({
        name: name.required(),
        kind: Joi.valid(...MIX_KINDS).required(),
        parameters: Joi.array().items(name).min(1).max(2).unique().required(),
        clips: Joi.array()
          .items(
            Joi.object({
              clip: name.allow(null).required(),
              at: Joi.array().items(Joi.number().required()).min(1).max(2).required(),
              speed,
              steps: stepsSchema,
            }),
          )
          .min(1)
          .max(MOST_PEGS)
          .required(),
      }),
    )
    .max(200)
    .unique('name'),
  gait: name,
  layers: Joi.array()
    .items(
      Joi.object({
        name: name.required(),
        how: Joi.valid('replaces', 'adds').default('replaces'),
        parts: Joi.array().items(name).unique().default([]),
        edge: edgeSchema,
        weight: weightSchema,
        first: name.required(),
        states: Joi.array()
          .items(
            Joi.object({
              ...played,
              name: name.required(),
              gaits: Joi.array()
                .items(Joi.object({ ...played, gait: name.required() }))
                .unique('gait'),
              speed,
              loop: Joi.boolean().default(true),
              sends: sendsSchema,
              group: groupSchema,
            }),
          )
          .min(1)
          .max(500)
          .unique('name')
          .required(),
        passages: Joi.array()
          .items(
            Joi.object({
              from: name.allow(null).required(),
              except: Joi.array().items(name).unique(),
              to: name.required(),
              when: Joi.array().items(conditionSchema).max(40).default([]),
              after: Joi.valid('any', 'end').default('any'),
              over: Joi.number().min(0).max(60).default(0.2),
              firm: Joi.valid(true),
              begins: beginsSchema,
            }),
          )
          .max(4000)
          .default([]),
      }),
    )
    .min(1)
    .max(20)
    .unique('name')
    .required(),
});

/** The same as a JSON Schema, for docs/behaviour.schema.json. In Node alone. */
export const behaviourJsonSchema = (): Json => ({
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'What plays when: the behaviour of an Itch Kit package',
  ...jsonSchemaOf(tableSchema),
});

/** What plays when, as a file of a package and as people write it: by names, in the order in which passages are looked at. */
export function behaviourTable({ behaviour, parts, clips, mixes = [] }: Kit): BehaviourTable {
  const clipName = (clip: Id | null) => (clip === null ? null : (clips[clip]?.name ?? null));
  const said = ({ clip, mix }: Played): SaidPlayed => {
    const mixed = mixes.find(({ id }) => id === mix);
    return { clip: clipName(clip), ...(mixed && { mix: mixed.name }) };
  };
  return {
    format: BEHAVIOUR_FORMAT,
    ...(mixes.length > 0 && {
      mixes: mixes.map(({ name: own, kind, parameters, pegs }) => ({
        name: own,
        kind,
        parameters,
        clips: pegs.map(({ clip, at, speed: fast, steps }) => ({ clip: clipName(clip), at, speed: fast, ...(steps && { steps }) })),
      })),
    }),
    ...(behaviour?.gait !== undefined && { gait: behaviour.gait }),
    layers: (behaviour?.layers ?? []).map((layer) => {
      const called = new Map(layer.states.map((state) => [state.id, state.name]));
      const state = (id: string) => called.get(id)!;
      return {
        name: layer.name,
        how: layer.how,
        parts: layer.parts.map((id) => parts[id].name),
        first: state(layer.first),
        ...(layer.edge !== undefined && { edge: layer.edge }),
        ...(layer.weight && { weight: layer.weight }),
        states: layer.states.map(({ name: own, clip, mix, gaits, speed: fast, loop, sends, group }) => ({
          name: own,
          ...said({ clip, mix }),
          ...(gaits && { gaits: gaits.map(({ gait, ...one }) => ({ gait, ...said(one) })) }),
          speed: fast,
          loop,
          ...(sends && { sends }),
          ...(group !== undefined && { group }),
        })),
        passages: layer.passages.map(({ from, except, to, when, after, over, firm, begins }) => ({
          from: from === null ? null : state(from),
          ...(except.length > 0 && { except: except.map(state) }),
          to: state(to),
          when,
          after,
          over,
          ...(firm && { firm }),
          ...(begins !== undefined && { begins }),
        })),
      };
    }),
  };
}

/** A table of behaviour that can't be taken. */
export class BehaviourTableError extends KitError {
  constructor(message: string, where: string | null) {
    super('behaviour-table', where === null ? message : `${where}: ${message}`, where);
  }
}

/**
 * Takes what plays when, as a package has it or as it was written by hand. Parts, clips and states are found by their names.
 *
 * @throws {BehaviourTableError} with the place, where it says something else than it may, or names what is not there
 */
export function behaviourOfTable(value: unknown, kit: Kit): { behaviour: Behaviour; mixes: Mix[] } {
  const { error, value: table } = tableSchema.validate(value, {
    errors: { wrap: { label: '“”' } },
  }) as Joi.ValidationResult<BehaviourTable>;
  if (error) throw new BehaviourTableError(`${error.details[0].message}.`, error.details[0].path.join('.') || null);
  const partOf = new Map(partsInOrder(kit).map(({ id, name: own }) => [own, id]));
  const clipOf = new Map(Object.values(kit.clips).map(({ id, name: own }) => [own, id]));
  const lookUp = (map: ReadonlyMap<string, string>, own: string, what: string, where: string): string => {
    const id = map.get(own);
    if (id === undefined) throw new BehaviourTableError(`there is no ${what} “${own}”.`, where);
    return id;
  };
  const mixes = (table.mixes ?? []).map(({ clips, ...mix }, m): Mix => {
    const where = `mixes.${m}`;
    const pegs = clips.map(({ clip, ...peg }, i) => ({
      ...peg,
      id: newId(),
      clip: clip === null ? null : lookUp(clipOf, clip, 'clip', `${where}.clips.${i}.clip`),
    }));
    const fault = mixFault({ ...mix, pegs });
    if (fault !== null) throw new BehaviourTableError(`the mix “${mix.name}” ${fault}.`, where);
    return { ...mix, id: newId(), pegs };
  });
  const mixIds = new Map(mixes.map(({ id, name: own }) => [own, id]));
  const playedIn = ({ clip, mix }: SaidPlayed, where: string): Played => {
    if (clip !== null && mix !== undefined) throw new BehaviourTableError('a clip and a mix at once can’t be played.', where);
    return {
      clip: clip === null ? null : lookUp(clipOf, clip, 'clip', `${where}.clip`),
      ...(mix !== undefined && { mix: lookUp(mixIds, mix, 'mix', `${where}.mix`) }),
    };
  };
  const behaviour: Behaviour = {
    ...(table.gait !== undefined && { gait: table.gait }),
    layers: table.layers.map((layer, l): Layer => {
      const ids = new Map(layer.states.map(({ name: own }) => [own, newId()]));
      const found = (map: ReadonlyMap<string, string>, own: string, what: string, where: string) =>
        lookUp(map, own, what, `layers.${l}.${where}`);
      return {
        ...(layer.edge !== undefined && { edge: layer.edge }),
        ...(layer.weight && { weight: layer.weight }),
        id: newId(),
        name: layer.name,
        how: layer.how,
        parts: layer.parts.map((own, i) => found(partOf, own, 'part', `parts.${i}`)),
        first: found(ids, layer.first, 'state', 'first'),
        states: layer.states.map(({ clip, mix, gaits, ...state }, i) => ({
          ...state,
          ...playedIn({ clip, mix }, `layers.${l}.states.${i}`),
          ...(gaits && {
            gaits: gaits.map(({ gait, ...one }, g) => ({ gait, ...playedIn(one, `layers.${l}.states.${i}.gaits.${g}`) })),
          }),
          id: ids.get(state.name)!,
        })),
        passages: layer.passages.map(({ from, except = [], to, ...passage }, i) => ({
          ...passage,
          id: newId(),
          from: from === null ? null : found(ids, from, 'state', `passages.${i}.from`),
          except: except.map((own, k) => found(ids, own, 'state', `passages.${i}.except.${k}`)),
          to: found(ids, to, 'state', `passages.${i}.to`),
        })),
      };
    }),
  };
  return { behaviour, mixes };
}
