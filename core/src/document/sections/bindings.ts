import Joi from 'joi';
import { countSchema, idSchema, recordSchema, vec3Schema, type SchemaOf } from '../schemas';
import { newId } from '../new-id';
import type { Id, Table, Vec3 } from '../values';
import { ascending } from '../wording';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, type Conforming, type Section } from './section';

/** What a table does beyond its ends: stays, goes on straight, or begins again. */
export const OUTSIDES = ['clamp', 'extend', 'wrap'] as const;
/** What a binding does beyond its table: stay at the end row, go on straight, or begin again. */
export type Outside = (typeof OUTSIDES)[number];

/** How a table goes from row to row: straight, or in a curve that overshoots none of them. */
export const BETWEENS = ['straight', 'curve'] as const;
export type Between = (typeof BETWEENS)[number];

/** A pose relative to rest: metres in the parent's axes, degrees about the own axes, factors. */
export interface PoseDelta {
  offset: Vec3;
  turn: Vec3;
  size: Vec3;
}

export interface BindingRow extends PoseDelta {
  /** In the variable's unit. */
  value: number;
  /** How fast the pose goes there, per unit of the variable, in a table of curves; absent it is chosen so that nothing overshoots. */
  slope?: PoseDelta;
}

/** One variable moving one part along a table of value-to-pose rows. The first row is the neutral one. */
export interface Binding {
  id: Id;
  variable: string;
  /** From 0; null where the variable has no index. */
  index: number | null;
  part: Id;
  rows: BindingRow[];
  outside: Outside;
  /** Straight where it is not said. */
  between?: Between;
}

interface PackedBinding {
  variable: string;
  index: number | null;
  node: number;
  outside: Outside;
  between?: Between;
  rows: BindingRow[];
}

declare module '../kit' {
  interface Kit {
    bindings: Table<Binding>;
  }
  interface ManifestSections {
    bindings: PackedBinding[];
  }
}

const deltaSchema = Joi.object({
  offset: vec3Schema.required(),
  turn: vec3Schema.required(),
  size: vec3Schema.required(),
} satisfies SchemaOf<PoseDelta>);

/** A row: the variable's value, and offset (metres), turn (degrees) and size there, relative to rest. */
export const bindingRowSchema = Joi.object({
  value: Joi.number().required(),
  offset: vec3Schema.required(),
  turn: vec3Schema.required(),
  size: vec3Schema.required(),
  slope: deltaSchema,
} satisfies SchemaOf<BindingRow>);

/** A table: no two rows of one value. */
export const bindingRowsSchema = Joi.array()
  .items(bindingRowSchema)
  .unique('value')
  .max(2000)
  .messages({ 'array.unique': '{{#label}} has the value of an earlier row; a table has one row a value' });

const record = recordSchema<Binding>({
  id: idSchema.required(),
  variable: Joi.string().allow('').max(120).required(),
  index: countSchema.allow(null).required(),
  part: idSchema.required(),
  rows: bindingRowsSchema.required(),
  outside: Joi.valid(...OUTSIDES).required(),
  between: Joi.valid(...BETWEENS),
});
/** A binding: variable, part, and rows of which the first is the neutral one. */
export const bindingSchema = record.schema;

/** Rows whose poses are others, and that go as fast as those do. */
export function rowsThrough(rows: readonly BindingRow[], pose: (delta: PoseDelta) => PoseDelta): BindingRow[] {
  return rows.map(({ value, slope, ...delta }) => ({ value, ...pose(delta), ...(slope && { slope: pose(slope) }) }));
}

/** A table of rows in another unit and other axes. */
export function conformRows(rows: BindingRow[], to: Conforming): BindingRow[] {
  return rowsThrough(rows, ({ offset, turn, size }) => ({ offset: to.place(offset), turn: to.turn(turn), size: to.size(size) }));
}

/** Which variable moves which part, and how. */
export const bindingsSection: Section<'bindings'> = {
  kind: 'table',
  merges: 'fields',
  ...record,
  sound: nothing,
  references: ({ id, part }, { kit, need }) => need(kit.parts, part, `bindings.${id}.part`),
  blobs: nothing,
  without(kit, { gone }) {
    for (const { id, part } of Object.values(kit.bindings)) if (gone.has(part)) delete kit.bindings[id];
  },
  joined: nothing,
  moved: nothing,
  conform(kit, to) {
    for (const binding of Object.values(kit.bindings)) binding.rows = conformRows(binding.rows, to);
  },
  compare: (before, after) =>
    compareRecords(
      before.bindings,
      after.bindings,
      ({ variable, index }) => `Binding to ${variable}${index === null ? '' : ` ${index}`}`,
      (a, b) => [
        ...said(a.rows, b.rows, 'another table'),
        ...said(a.between, b.between, 'goes from row to row otherwise'),
        ...said(a.part, b.part, 'moves another part'),
      ],
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array()
        .items(
          Joi.object({
            variable: Joi.string().allow('').required(),
            index: Joi.number().integer().allow(null).required(),
            node: Joi.number().integer().required(),
            outside: Joi.valid(...OUTSIDES).required(),
            between: Joi.valid(...BETWEENS),
            rows: Joi.array().items(bindingRowSchema).required(),
          } satisfies SchemaOf<PackedBinding>),
        )
        .required(),
      write: (kit, { nodeOf }) =>
        Object.values(kit.bindings)
          .map(({ variable, index, part, outside, between, rows }): PackedBinding => ({
            ...{ variable, index, node: nodeOf(part), outside, rows },
            ...(between && { between }),
          }))
          .sort((a, b) => a.node - b.node || ascending(a.variable, b.variable) || (a.index ?? -1) - (b.index ?? -1)),
      read(list, kit, { partAt }) {
        for (const { node, ...binding } of list) {
          const made: Binding = { id: newId(), ...binding, part: partAt(node, binding.variable) };
          kit.bindings[made.id] = made;
        }
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: {
    from: 'kit',
    park(kit, part) {
      const parked = Object.values(kit.bindings).filter((binding) => binding.part === part);
      for (const { id } of parked) delete kit.bindings[id];
      return parked.map((binding) => ({ kind: 'binding' as const, binding }));
    },
  },
};
