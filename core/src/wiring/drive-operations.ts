import Joi from 'joi';
import {
  asItIs,
  countSchema,
  defineOperation,
  idSchema,
  newId,
  partOf,
  type Axis,
  type Binding,
  type BindingRow,
  type Id,
  type Kit,
} from '../document';
import { leverKey } from '../formula';
import { turnAxes } from '../geometry';
import { DriveError, driveRows, HINGES, type ChainDrive } from './chain-drive';

const POSED = 1e-9;

/** The own axes about which a table turns, and whether it moves the pivot. */
function poses({ rows }: Pick<Binding, 'rows'>): { axes: Axis[]; moved: boolean } {
  const axes = ([0, 1, 2] as Axis[]).filter((axis) => rows.some(({ turn }) => Math.abs(turn[axis]) > POSED));
  return { axes, moved: rows.some(({ offset }) => Math.hypot(...offset) > POSED) };
}

/**
 * Offsets of two tables add, and turns follow one another from the outermost inward: what moves a pivot beside its turn is right only where
 * nothing turns the part further out, or moves it so too.
 */
function addUp(a: ReturnType<typeof poses>, b: ReturnType<typeof poses>, order: readonly Axis[]): boolean {
  if (a.axes.some((axis) => b.axes.includes(axis))) return false;
  const bends = (one: typeof a) => one.moved && one.axes.length > 0;
  if (bends(a) && bends(b)) return false;
  const outermost = (one: typeof a) => Math.min(...one.axes.map((axis) => order.indexOf(axis)));
  return !(bends(a) && outermost(b) < outermost(a)) && !(bends(b) && outermost(a) < outermost(b));
}

function mustAddUp(kit: Kit, id: Id, key: string, rows: BindingRow[]): void {
  const part = kit.parts[id];
  const other = Object.values(kit.bindings).find(
    (one) => one.part === id && leverKey(one.variable, one.index) !== key && !addUp(poses({ rows }), poses(one), turnAxes(part.turnOrder)),
  );
  if (!other) return;
  throw new DriveError(
    'drive-driven',
    `“${part.name}” follows ${leverKey(other.variable, other.index)} already, and the two would not add up. Put a carrier above it, and let that take one of them.`,
    id,
  );
}

/**
 * Lets a chain of parts share a turn: each gets a table for the variable with its part of it, bent about its pivot or an edge of its foot,
 * gaps closed. What tables they had for that variable are replaced.
 *
 * @throws {DriveError} where the parts are no chain, an axis lies askew, or a part follows something that this would not add up with
 */
export const driveChain = defineOperation<ChainDrive & { variable: string; index: number | null }>({
  id: 'wiring.drive-chain',
  title: (kit, { parts, variable }) => `Turn ${parts.map((id) => `“${kit.parts[id]?.name}”`).join(', ')} by ${variable}`,
  args: Joi.object({
    parts: Joi.array().items(idSchema).min(1).max(64).unique().required(),
    variable: Joi.string().min(1).max(120).required(),
    index: countSchema.allow(null).required(),
    axis: Joi.valid(0, 1, 2).required(),
    shares: Joi.array().items(Joi.number().positive()).min(1).max(64).required(),
    stops: Joi.array()
      .items(Joi.object({ value: Joi.number().required(), degrees: Joi.number().min(-3600).max(3600).required() }))
      .min(1)
      .max(64)
      .unique('value')
      .required()
      .messages({ 'array.unique': '{{#label}} has the value of an earlier one; there is one turn a value' }),
    neutral: Joi.number().required(),
    hinge: Joi.valid(...HINGES).required(),
    closed: Joi.boolean().required(),
  }),
  change(kit, { variable, index, ...drive }, blobs) {
    for (const id of drive.parts) partOf(kit, id);
    const tables = driveRows(asItIs(kit), blobs, drive);
    const key = leverKey(variable, index);
    drive.parts.forEach((id, i) => mustAddUp(kit, id, key, tables[i]));
    const bindings = drive.parts.map((part, i): Id => {
      const own = Object.values(kit.bindings).filter((one) => one.part === part && leverKey(one.variable, one.index) === key);
      for (const { id } of own.slice(1)) delete kit.bindings[id];
      const id = own[0]?.id ?? newId();
      kit.bindings[id] = { id, part, variable, index, rows: tables[i], outside: 'clamp' };
      kit.parts[part].role ??= 'driven';
      return id;
    });
    return { parts: drive.parts, binding: bindings[bindings.length - 1] };
  },
});
