import Joi from 'joi';
import {
  conditionSchema,
  jsonSchemaOf,
  KitError,
  newId,
  partsInOrder,
  type Behaviour,
  type Condition,
  type Json,
  type Kit,
  type Layer,
  type Passage,
} from '../document';

/** What `format` says in a table of behaviour of this version. */
export const BEHAVIOUR_FORMAT = 'itchkit.behaviour/1';

const name = Joi.string().min(1).max(200);

interface SaidPassage extends Pick<Passage, 'after' | 'over'> {
  /** Null from anywhere. */
  from: string | null;
  except?: string[];
  to: string;
  when: Condition[];
}

interface SaidLayer extends Pick<Layer, 'name' | 'how'> {
  parts: string[];
  first: string;
  states: { name: string; clip: string | null; speed: number; loop: boolean }[];
  passages: SaidPassage[];
}

/** Layers, states and passages by their names. */
export interface BehaviourTable {
  format: typeof BEHAVIOUR_FORMAT;
  layers: SaidLayer[];
}

const tableSchema = Joi.object({
  format: Joi.valid(BEHAVIOUR_FORMAT).required(),
  layers: Joi.array()
    .items(
      Joi.object({
        name: name.required(),
        how: Joi.valid('replaces', 'adds').default('replaces'),
        parts: Joi.array().items(name).unique().default([]),
        first: name.required(),
        states: Joi.array()
          .items(
            Joi.object({
              name: name.required(),
              clip: name.allow(null).default(null),
              speed: Joi.number().greater(0).max(100).default(1),
              loop: Joi.boolean().default(true),
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
export function behaviourTable({ behaviour, parts, clips }: Kit): BehaviourTable {
  return {
    format: BEHAVIOUR_FORMAT,
    layers: (behaviour?.layers ?? []).map((layer) => {
      const called = new Map(layer.states.map((state) => [state.id, state.name]));
      const state = (id: string) => called.get(id)!;
      return {
        name: layer.name,
        how: layer.how,
        parts: layer.parts.map((id) => parts[id].name),
        first: state(layer.first),
        states: layer.states.map(({ name: own, clip, speed, loop }) => ({
          name: own,
          clip: clip === null ? null : (clips[clip]?.name ?? null),
          speed,
          loop,
        })),
        passages: layer.passages.map(({ from, except, to, when, after, over }) => ({
          from: from === null ? null : state(from),
          ...(except.length > 0 && { except: except.map(state) }),
          to: state(to),
          when,
          after,
          over,
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
export function behaviourOfTable(value: unknown, kit: Kit): Behaviour {
  const { error, value: table } = tableSchema.validate(value, {
    errors: { wrap: { label: '“”' } },
  }) as Joi.ValidationResult<BehaviourTable>;
  if (error) throw new BehaviourTableError(`${error.details[0].message}.`, error.details[0].path.join('.') || null);
  const partOf = new Map(partsInOrder(kit).map(({ id, name: own }) => [own, id]));
  const clipOf = new Map(Object.values(kit.clips).map(({ id, name: own }) => [own, id]));
  return {
    layers: table.layers.map((layer, l): Layer => {
      const ids = new Map(layer.states.map(({ name: own }) => [own, newId()]));
      const found = (map: ReadonlyMap<string, string>, own: string, what: string, where: string): string => {
        const id = map.get(own);
        if (id === undefined) throw new BehaviourTableError(`there is no ${what} “${own}”.`, `layers.${l}.${where}`);
        return id;
      };
      return {
        id: newId(),
        name: layer.name,
        how: layer.how,
        parts: layer.parts.map((own, i) => found(partOf, own, 'part', `parts.${i}`)),
        first: found(ids, layer.first, 'state', 'first'),
        states: layer.states.map(({ clip, ...state }, i) => ({
          ...state,
          id: ids.get(state.name)!,
          clip: clip === null ? null : found(clipOf, clip, 'clip', `states.${i}.clip`),
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
}
