import Joi from 'joi';
import {
  BETWEENS,
  bindingRowSchema,
  bindingRowsSchema,
  defineOperation,
  idSchema,
  KitError,
  newId,
  OUTSIDES,
  partOf,
  type Between,
  type Binding,
  type BindingRow,
  type Id,
  type Kit,
  type Outside,
} from '../document';
import { sortedRows } from './sorted-rows';
import { poseAt, withRows } from './table-rows';

/** A binding that is no longer in the kit. */
export class BindingMissingError extends KitError {
  constructor(id: Id) {
    super('binding-missing', 'That binding is no longer in the kit. Choose another one.', id);
  }
}

/** @throws {BindingMissingError} */
export function bindingOf(kit: Kit, id: Id): Binding {
  const binding = kit.bindings[id];
  if (!binding) throw new BindingMissingError(id);
  return binding;
}

/** A row at rest for a value of the variable. */
export function neutralRow(value: number): BindingRow {
  return { value, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };
}

const index = Joi.number().integer().min(0).allow(null);
const rows = bindingRowsSchema;

/** Binds a part to a variable; a part that has no role becomes `driven`. */
export const addBinding = defineOperation<{
  id?: Id;
  part: Id;
  variable: string;
  index: number | null;
  rows: BindingRow[];
  outside: Outside;
  between?: Between;
}>({
  id: 'wiring.add-binding',
  title: (kit, { part, variable }) => `Bind “${kit.parts[part]?.name}” to ${variable}`,
  args: Joi.object({
    id: idSchema,
    part: idSchema.required(),
    variable: Joi.string().min(1).max(120).required(),
    index: index.required(),
    rows: rows.required(),
    outside: Joi.valid(...OUTSIDES).required(),
    between: Joi.valid(...BETWEENS),
  }),
  change(kit, args) {
    const part = partOf(kit, args.part);
    part.role ??= 'driven';
    const id = args.id ?? newId();
    const { variable, index, rows, outside, between } = args;
    kit.bindings[id] = { id, part: args.part, variable, index, rows, outside, ...(between && { between }) };
    return { binding: id };
  },
});

/** Changes fields of a binding. */
export const setBinding = defineOperation<{ binding: Id } & Partial<Omit<Binding, 'id'>>>({
  id: 'wiring.set-binding',
  title: (kit, { binding }) => `Change the binding of “${kit.parts[kit.bindings[binding]?.part]?.name}”`,
  args: Joi.object({
    binding: idSchema.required(),
    part: idSchema,
    variable: Joi.string().min(1).max(120),
    index,
    rows,
    outside: Joi.valid(...OUTSIDES),
    between: Joi.valid(...BETWEENS),
  }),
  change(kit, { binding, ...fields }) {
    const one = Object.assign(bindingOf(kit, binding), fields);
    // As if it had never been said.
    if (one.between === 'straight') delete one.between;
  },
});

/** Deletes bindings; the parts stay at rest. */
export const removeBinding = defineOperation<{ bindings: Id[] }>({
  id: 'wiring.remove-binding',
  title: (kit, { bindings }) => `Unbind ${bindings.map((id) => `“${kit.parts[kit.bindings[id]?.part]?.name}”`).join(', ')}`,
  args: Joi.object({ bindings: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { bindings }) {
    for (const id of bindings) {
      bindingOf(kit, id);
      delete kit.bindings[id];
    }
  },
});

/** Writes one row of a table; a row at that value is replaced. The neutral row stays first, the others ascend. */
export const setBindingRow = defineOperation<{ binding: Id; row: BindingRow; replaces?: number }>({
  id: 'wiring.set-row',
  title: (kit, { binding, row }) => `Pose “${kit.parts[kit.bindings[binding]?.part]?.name}” at ${row.value}`,
  args: Joi.object({ binding: idSchema.required(), row: bindingRowSchema.required(), replaces: Joi.number() }),
  change(kit, { binding, row, replaces }) {
    const one = bindingOf(kit, binding);
    const neutral = one.rows[0]?.value === replaces ? row.value : one.rows[0]?.value;
    const others = one.rows.filter((other) => other.value !== row.value && other.value !== replaces);
    one.rows = neutralFirst([...others, row], neutral ?? row.value);
  },
});

/** Deletes the row of a value. */
export const removeBindingRow = defineOperation<{ binding: Id; value: number }>({
  id: 'wiring.remove-row',
  title: (_, { value }) => `Delete the row at ${value}`,
  args: Joi.object({ binding: idSchema.required(), value: Joi.number().required() }),
  change(kit, { binding, value }) {
    const one = bindingOf(kit, binding);
    one.rows = one.rows.filter((row) => row.value !== value);
  },
});

/** The row at `neutral` first, the others ascending. */
export function neutralFirst(table: readonly BindingRow[], neutral: number): BindingRow[] {
  const ascending = sortedRows(table);
  return [...ascending.filter((row) => row.value === neutral), ...ascending.filter((row) => row.value !== neutral)];
}

/** What a completed table goes by beyond its rows: what it does there already, or straight on along its last two rows. */
export const COMPLETIONS = ['as-played', 'straight'] as const;
export type Completion = (typeof COMPLETIONS)[number];

/**
 * The rows that a table lacks to begin with the neutral value and to cover the range. A wrapped table says what one round is: an end row
 * inside it would change the round, so that it gets the neutral one alone.
 */
export function missingRows(
  binding: Pick<Binding, 'rows' | 'outside' | 'between'>,
  { neutral, min, max }: { neutral: number; min: number; max: number },
  by: Completion,
): BindingRow[] {
  const wanted = binding.outside === 'wrap' ? [neutral] : [neutral, min, max];
  const { rows, between } = binding;
  const have = new Set(rows.map((row) => row.value));
  const table = { rows, between, outside: by === 'straight' && binding.outside !== 'wrap' ? ('extend' as const) : binding.outside };
  return wanted
    .filter((value, at) => !have.has(value) && wanted.indexOf(value) === at)
    .map((value) => ({ value, ...poseAt(table, value) }));
}

/** A table that begins with the neutral value and covers the whole range; see `missingRows`. */
export const completeTable = defineOperation<{ binding: Id; neutral: number; min: number; max: number; by?: Completion }>({
  id: 'wiring.complete-table',
  title: (kit, { binding }) => `Complete the table of “${kit.parts[kit.bindings[binding]?.part]?.name}”`,
  args: Joi.object({
    binding: idSchema.required(),
    neutral: Joi.number().required(),
    min: Joi.number().required(),
    max: Joi.number().required(),
    by: Joi.valid(...COMPLETIONS),
  }),
  change(kit, { binding, by = 'as-played', ...range }) {
    const one = bindingOf(kit, binding);
    const missing = missingRows(one, range, by);
    const values = missing.map(({ value }) => value);
    one.rows = neutralFirst(by === 'as-played' ? withRows(one, values) : [...one.rows, ...missing], range.neutral);
  },
});
