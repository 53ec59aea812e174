import Joi from 'joi';
import {
  clipsInOrder,
  footprintSchema,
  glowSchema,
  jsonSchemaOf,
  shapeWith,
  vec3Schema,
  type Blobs,
  type Json,
  type Kit,
} from '../document';
import { seatGroups, sheetOf } from '../grounds';
import { roleOf, type Rulebook } from '../rulebook';

/** What `format` says in a grounds table of this version. */
export const GROUNDS_FORMAT = 'itchkit.grounds/1';

const named = Joi.string().allow('').required();
const whole = Joi.number().integer().min(0).required();

/** What a grounds table says. */
const groundsTableSchema = Joi.object({
  format: Joi.valid(GROUNDS_FORMAT).required(),
  tile: Joi.number().greater(0).required(),
  footprint: footprintSchema.allow(null).required(),
  states: Joi.array()
    .items(
      Joi.object({
        state: Joi.string().required(),
        clip: Joi.string().allow('', null).required(),
        from: Joi.number().min(0),
        to: Joi.number().min(0),
        frames: Joi.array().items(Joi.number().integer().min(0)).length(2),
        rate: Joi.number().greater(0),
      }),
    )
    .required(),
  seats: Joi.array()
    .items(Joi.object({ carrier: named, seats: Joi.array().items(Joi.string().allow('')).required() }))
    .required(),
  colliders: Joi.array()
    .items(shapeWith({ part: named }))
    .required(),
  walkway: Joi.object({
    knots: Joi.array()
      .items(
        Joi.object({
          name: named,
          at: vec3Schema.required(),
          edge: Joi.boolean().required(),
          boards: Joi.array().items(Joi.string().allow('')).required(),
          leaves: Joi.array().items(Joi.string().allow('')).required(),
        }),
      )
      .required(),
    ropes: Joi.array()
      .items(Joi.object({ from: whole, to: whole, oneWay: Joi.boolean().required(), rail: Joi.boolean().required() }))
      .required(),
  }).required(),
  glow: Joi.array().items(glowSchema).required(),
  facts: Joi.object()
    .pattern(Joi.string(), Joi.alternatives(Joi.number(), Joi.string().allow(''), Joi.boolean(), Joi.valid(null)))
    .required(),
});

/** The same as a JSON Schema, for docs/grounds.schema.json. In Node alone. */
export const groundsJsonSchema = (): Json => ({
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'The grounds table of an Itch Kit package',
  ...jsonSchemaOf(groundsTableSchema),
});

const rounded = (value: number): number => Number(value.toFixed(9)) + 0;
const place = (at: readonly number[]): number[] => at.map(rounded);

/**
 * How a thing stands on tiles, as a file of a package: its tiles, states, seats, colliders, walkway, what shines, and its sheet of facts.
 * All in the platform's space; parts by their names.
 *
 * @param made The kit as a person made it, in metres: what the sheet of facts measures.
 */
export function groundsTable(kit: Kit, rulebook: Rulebook, blobs: Blobs, made: Kit) {
  const { grounds, walkway } = kit;
  const name = (id: string) => kit.parts[id].name;
  const number = new Map(walkway?.knots.map(({ id }, i) => [id, i]));
  const groups = seatGroups(kit, (part) => roleOf(rulebook, part) === 'seat');
  const clips = new Map(clipsInOrder(kit).map((clip) => [clip.id, clip]));
  return {
    format: GROUNDS_FORMAT,
    tile: rulebook.tileMetres / rulebook.space.metresPerUnit,
    footprint: grounds?.footprint
      ? { low: place(grounds.footprint.low), high: place(grounds.footprint.high), holes: grounds.footprint.holes.map(place) }
      : null,
    states: (grounds?.states ?? []).map(({ state, clip, from, to }) => {
      const played = clip === null ? undefined : clips.get(clip);
      if (!played) return { state, clip: null };
      const end = to ?? played.lengthSeconds;
      const frame = (seconds: number) => Math.round(seconds * played.rate);
      return { state, clip: played.name, from: rounded(from), to: rounded(end), frames: [frame(from), frame(end)], rate: played.rate };
    }),
    seats: groups.map(({ carrier, seats }) => ({ carrier: name(carrier), seats: seats.map(name) })),
    colliders: (kit.colliders ?? []).map(({ id: _, part, ...shape }) => ({ part: name(part), ...shape })),
    walkway: {
      knots: (walkway?.knots ?? []).map(({ id: _, at, boards, leaves, ...knot }) => ({
        ...knot,
        at: place(at),
        boards: boards.map(name),
        leaves: leaves.map(name),
      })),
      ropes: (walkway?.ropes ?? []).map(({ id: _, from, to, ...rope }) => ({ ...rope, from: number.get(from)!, to: number.get(to)! })),
    },
    glow: grounds?.glows ?? [],
    facts: rulebook.grounds
      ? sheetOf(made, blobs, {
          seats: seatGroups(made, (part) => roleOf(rulebook, part) === 'seat').flatMap(({ seats }) => seats),
          tile: rulebook.tileMetres,
          rules: rulebook.grounds,
        })
      : {},
  };
}
