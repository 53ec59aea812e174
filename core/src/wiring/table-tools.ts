import Joi from 'joi';
import {
  bindingRowsSchema,
  count,
  defineOperation,
  idSchema,
  KitError,
  type Axis,
  type Binding,
  type BindingRow,
  type Id,
  type Kit,
  type PoseDelta,
  type Vec3,
} from '../document';
import { bindingOf, neutralFirst } from './binding-operations';
import { evaluateBinding, sortedRows } from './evaluate-binding';
import { poseAt, withoutSlopes, withRows } from './table-rows';

/** Most rows a table has. */
const MOST_ROWS = 2000;

/** A table tool that has nothing to work on, or would leave no table. */
export class TableToolError extends KitError {}

/** The part that a binding moves, in quotes, for titles. */
export const partNameOf = (kit: Kit, binding: Id) => `“${kit.parts[kit.bindings[binding]?.part]?.name}”`;
/** The value of the neutral row, which is a table's first; 0 where there is none. */
export const neutralOf = ({ rows }: Pick<Binding, 'rows'>) => rows[0]?.value ?? 0;

/** A pose on the other side of another one: offsets and turns by as much the other way, sizes by the inverse factor. */
export function negated(pose: PoseDelta, about: PoseDelta): PoseDelta {
  const other = (of: 'offset' | 'turn') => pose[of].map((value, axis) => 2 * about[of][axis] - value + 0) as Vec3;
  const size = pose.size.map((value, axis) => (value === 0 ? 0 : about.size[axis] ** 2 / value)) as Vec3;
  return { offset: other('offset'), turn: other('turn'), size };
}

/** A row of it: it goes as fast, the other way. */
function negatedRow(row: BindingRow, about: PoseDelta): BindingRow {
  const { value, slope } = row;
  if (!slope) return { value, ...negated(row, about) };
  const other = (of: 'offset' | 'turn') => slope[of].map((by) => -by + 0) as Vec3;
  // About nothing at all there is no other side.
  const size = slope.size.map((by, axis) => {
    const back = (-by * about.size[axis] ** 2) / row.size[axis] ** 2;
    return Number.isFinite(back) ? back + 0 : 0;
  }) as Vec3;
  return { value, ...negated(row, about), slope: { offset: other('offset'), turn: other('turn'), size } };
}

/** The row at a value as far on the other side of neutral: it goes the other way over a variable that goes the other way. */
function mirroredRow(row: BindingRow, neutral: number, about: PoseDelta): BindingRow {
  const { slope, ...other } = negatedRow(row, about);
  const back = (of: keyof PoseDelta) => slope![of].map((by) => -by + 0) as Vec3;
  return {
    ...other,
    value: 2 * neutral - row.value,
    ...(slope && { slope: { offset: back('offset'), turn: back('turn'), size: back('size') } }),
  };
}

/** Poses the other way round about the one at neutral: what went up goes down. Twice is once too often: it is as it was. */
export const negateTables = defineOperation<{ bindings: Id[] }>({
  id: 'wiring.negate',
  title: (kit, { bindings }) => `Turn the way of ${bindings.map((id) => partNameOf(kit, id)).join(', ')} round`,
  args: Joi.object({ bindings: Joi.array().items(idSchema).min(1).required() }),
  change(kit, { bindings }) {
    for (const id of bindings) {
      const one = bindingOf(kit, id);
      const about = poseAt(one, neutralOf(one));
      one.rows = one.rows.map((row) => negatedRow(row, about));
    }
  },
});

/** The halves of a table about neutral. */
export const HALVES = ['above', 'below'] as const;

/** Makes a table even about its neutral row: one half is kept, the other becomes its negative at values as far away. */
export const mirrorTable = defineOperation<{ binding: Id; keep: (typeof HALVES)[number] }>({
  id: 'wiring.mirror-table',
  title: (kit, { binding, keep }) => `Mirror the rows ${keep} neutral of ${partNameOf(kit, binding)}`,
  args: Joi.object({ binding: idSchema.required(), keep: Joi.valid(...HALVES).required() }),
  change(kit, { binding, keep }) {
    const one = bindingOf(kit, binding);
    const neutral = neutralOf(one);
    const kept = one.rows.filter(({ value }) => (keep === 'above' ? value > neutral : value < neutral));
    if (kept.length === 0)
      throw new TableToolError(
        'table-half-empty',
        `There is no row ${keep} neutral to mirror. Pose the part at a value there first.`,
        binding,
      );
    const about = poseAt(one, neutral);
    const others = kept.map((row) => mirroredRow(row, neutral, about));
    one.rows = neutralFirst([{ value: neutral, ...about }, ...kept, ...others], neutral);
  },
});

/** Gives rows values that are evenly spread from the least to the greatest one; the neutral row keeps its own, poses keep their order. */
export const spreadTable = defineOperation<{ binding: Id; from?: number; to?: number }>({
  id: 'wiring.spread-table',
  title: (kit, { binding }) => `Spread the rows of ${partNameOf(kit, binding)} evenly`,
  args: Joi.object({ binding: idSchema.required(), from: Joi.number(), to: Joi.number() }),
  change(kit, { binding, from, to }) {
    const one = bindingOf(kit, binding);
    const rows = sortedRows(one.rows);
    const neutral = neutralOf(one);
    const at = rows.findIndex(({ value }) => value === neutral);
    const least = from ?? rows[0]?.value ?? neutral;
    const most = to ?? rows.at(-1)?.value ?? neutral;
    if (rows.length < 3 || !(least <= neutral && neutral <= most && least < most))
      throw new TableToolError('table-spread', 'Three rows or more can be spread, from at or below neutral to at or above it.', binding);
    // Where neutral is an end, it is that end.
    const last = rows.length - 1;
    const even = (i: number) => {
      if (i === at) return neutral;
      return i < at ? least + ((neutral - least) * i) / at : neutral + ((most - neutral) * (i - at)) / (last - at);
    };
    one.rows = neutralFirst(
      withoutSlopes(rows).map((row, i) => ({ ...row, value: even(i) })),
      neutral,
    );
  },
});

/** Puts rows between those that there are, posed as the table poses there already: nothing moves otherwise. */
export const addBetween = defineOperation<{ binding: Id; each: number }>({
  id: 'wiring.add-between',
  title: (kit, { binding, each }) => `Add ${count(each, 'row')} between each two of ${partNameOf(kit, binding)}`,
  args: Joi.object({ binding: idSchema.required(), each: Joi.number().integer().min(1).max(20).required() }),
  change(kit, { binding, each }) {
    const one = bindingOf(kit, binding);
    const rows = sortedRows(one.rows);
    if (rows.length < 2) throw new TableToolError('table-between', 'There are no two rows to put one between.', binding);
    if (rows.length + (rows.length - 1) * each > MOST_ROWS)
      throw new TableToolError('table-full', `A table has ${MOST_ROWS.toLocaleString('en')} rows at most. Put fewer between.`, binding);
    const between = rows
      .slice(1)
      .flatMap((row, i) => Array.from({ length: each }, (_, k) => rows[i].value + ((row.value - rows[i].value) * (k + 1)) / (each + 1)));
    one.rows = neutralFirst(withRows(one, between), neutralOf(one));
  },
});

/**
 * Ends a table with a range: what stands beyond it goes, and an end that nothing stands at is posed as it is played. Within it nothing
 * moves.
 */
export const cutTable = defineOperation<{ binding: Id; min: number; max: number }>({
  id: 'wiring.cut-table',
  title: (kit, { binding }) => `End the table of ${partNameOf(kit, binding)} with its range`,
  args: Joi.object({ binding: idSchema.required(), min: Joi.number().required(), max: Joi.number().greater(Joi.ref('min')).required() }),
  change(kit, { binding, min, max }) {
    const one = bindingOf(kit, binding);
    const values = sortedRows(one.rows).map(({ value }) => value);
    const ends = [...(values.some((value) => value < min) ? [min] : []), ...(values.some((value) => value > max) ? [max] : [])];
    const within = withRows(one, ends).filter(({ value }) => value >= min && value <= max);
    one.rows = neutralFirst(within, Math.min(max, Math.max(min, neutralOf(one))));
  },
});

/** What of a pose can be measured as a value. */
export const MEASURES = ['offset', 'turn'] as const;

/**
 * Gives each row the value that was measured at it: moved up by 100 mm is 0.1 m. Neutral keeps its value, and counts as zero way.
 *
 * @param per Units of the variable a metre of offset, or a degree of turn; negative counts the other way
 */
export const measureValues = defineOperation<{ binding: Id; of: (typeof MEASURES)[number]; axis: Axis; per: number }>({
  id: 'wiring.measure-values',
  title: (kit, { binding, of, axis }) => `Take the values of ${partNameOf(kit, binding)} from its ${of} ${'xyz'[axis]}`,
  args: Joi.object({
    binding: idSchema.required(),
    of: Joi.valid(...MEASURES).required(),
    axis: Joi.valid(0, 1, 2).required(),
    per: Joi.number().invalid(0).required(),
  }),
  change(kit, { binding, of, axis, per }) {
    const one = bindingOf(kit, binding);
    const neutral = neutralOf(one);
    const zero = evaluateBinding(one, neutral)[of][axis];
    const rows = withoutSlopes(one.rows).map((row) => ({
      ...row,
      value: row.value === neutral ? neutral : neutral + (row[of][axis] - zero) * per,
    }));
    if (new Set(rows.map(({ value }) => value)).size < rows.length)
      throw new TableToolError(
        'table-measure',
        `Two rows have the same ${of} along ${'xyz'[axis]}, and would have one value. Take another axis, or delete one of them.`,
        binding,
      );
    one.rows = neutralFirst(rows, neutral);
  },
});

/** Writes rows into a table: typed, pasted or read. The neutral row stays unless it is told anew. */
export const writeRows = defineOperation<{ binding: Id; rows: BindingRow[]; instead: boolean }>({
  id: 'wiring.write-rows',
  title: (kit, { binding, rows }) => `Write ${count(rows.length, 'row')} of ${partNameOf(kit, binding)}`,
  args: Joi.object({ binding: idSchema.required(), rows: bindingRowsSchema.min(1).required(), instead: Joi.boolean().required() }),
  change(kit, { binding, rows, instead }) {
    const one = bindingOf(kit, binding);
    const neutral = one.rows.length > 0 ? neutralOf(one) : rows[0].value;
    const told = new Set(rows.map(({ value }) => value));
    const kept = one.rows.filter(({ value }) => !told.has(value) && (!instead || value === neutral));
    one.rows = neutralFirst([...kept, ...rows], neutral);
  },
});

/** Range of a variable, in its unit. */
export interface Range {
  min: number;
  max: number;
  neutral: number;
}

/** A value of one range in another one: neutral is neutral, each end its end, straight between. */
export function valueInRange(value: number, from: Range, to: Range): number {
  const [end, there] = value >= from.neutral ? [from.max, to.max] : [from.min, to.min];
  if (value === from.neutral) return to.neutral;
  if (end === from.neutral) return to.neutral + (value - from.neutral);
  return to.neutral + ((value - from.neutral) * (there - to.neutral)) / (end - from.neutral);
}

const rangeSchema = Joi.object({ min: Joi.number().required(), max: Joi.number().required(), neutral: Joi.number().required() });

/** Binds to another variable, and takes its values along into the other one's range; see `valueInRange`. */
export const rebind = defineOperation<{ binding: Id; variable: string; index: number | null; from: Range; to: Range }>({
  id: 'wiring.rebind',
  title: (kit, { binding, variable }) => `Bind ${partNameOf(kit, binding)} to ${variable} instead`,
  args: Joi.object({
    binding: idSchema.required(),
    variable: Joi.string().min(1).max(120).required(),
    index: Joi.number().integer().min(0).allow(null).required(),
    from: rangeSchema.required(),
    to: rangeSchema.required(),
  }),
  change(kit, { binding, variable, index, from, to }) {
    const one = bindingOf(kit, binding);
    const rows = withoutSlopes(one.rows).map((row) => ({ ...row, value: valueInRange(row.value, from, to) }));
    if (new Set(rows.map(({ value }) => value)).size < rows.length)
      throw new TableToolError(
        'table-rebind',
        `Two rows would have one value of ${variable}: it has no room on one side of neutral.`,
        binding,
      );
    Object.assign(one, { variable, index, rows: neutralFirst(rows, rows[0]?.value ?? to.neutral) });
  },
});
