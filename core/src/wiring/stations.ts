import Joi from 'joi';
import { bindingRowSchema, defineOperation, idSchema, KitError, type Binding, type BindingRow, type Id } from '../document';
import { bindingOf, neutralFirst } from './binding-operations';
import { isPosed, withRows } from './table-rows';
import { neutralOf, partNameOf } from './table-tools';

/** A value of a variable at which parts are posed. */
export interface Station {
  /** In the variable's unit. */
  value: number;
  /** Bindings that have a row there. */
  bindings: Id[];
  /** Where everything that follows is at rest: it is neither moved nor written over. */
  neutral: boolean;
}

/** Stations of the bindings of one variable and index, ascending. */
export function stationsOf(bindings: readonly Binding[]): Station[] {
  const values = new Map<number, Station>();
  for (const binding of bindings) {
    binding.rows.forEach(({ value }, i) => {
      const station = values.get(value) ?? { value, bindings: [], neutral: false };
      station.bindings.push(binding.id);
      station.neutral ||= i === 0;
      values.set(value, station);
    });
  }
  return [...values.values()].sort((a, b) => a.value - b.value);
}

/** Something that can't be done to the neutral station, or to one that is not there. */
export class StationError extends KitError {}

const refuseNeutral = (binding: Binding, value: number, what: string) => {
  if (binding.rows.length > 0 && neutralOf(binding) === value)
    throw new StationError('station-neutral', `At ${value} everything is at rest: it is neutral. ${what}`, binding.id);
};

/** Poses parts at one value of their variable: a row in each table. Neutral is rest, and is not posed. */
export const poseStation = defineOperation<{ rows: { binding: Id; row: BindingRow }[] }>({
  id: 'wiring.pose-station',
  title: (kit, { rows }) => `Pose ${rows.map(({ binding }) => partNameOf(kit, binding)).join(', ')} at ${rows[0]?.row.value}`,
  args: Joi.object({
    rows: Joi.array()
      .items(Joi.object({ binding: idSchema.required(), row: bindingRowSchema.required() }))
      .min(1)
      .unique('binding')
      .required(),
  }),
  change(kit, { rows }) {
    for (const { binding, row } of rows) {
      const one = bindingOf(kit, binding);
      refuseNeutral(one, row.value, 'Move the lever to another value first.');
      const neutral = one.rows.length > 0 ? neutralOf(one) : row.value;
      if (one.rows.length > 1 && isPosed(one, row)) {
        one.rows = neutralFirst(withRows(one, [row.value]), neutral);
        continue;
      }
      one.rows = neutralFirst([...one.rows.filter(({ value }) => value !== row.value), row], neutral);
    }
  },
});

/** Moves a station to another value: the row that each of these has there. One that is there already is refused. */
export const moveStation = defineOperation<{ bindings: Id[]; from: number; to: number }>({
  id: 'wiring.move-station',
  title: (_, { from, to }) => `Move the station at ${from} to ${to}`,
  args: Joi.object({
    bindings: Joi.array().items(idSchema).min(1).required(),
    from: Joi.number().required(),
    to: Joi.number().required(),
  }),
  change(kit, { bindings, from, to }) {
    for (const id of bindings) {
      const one = bindingOf(kit, id);
      refuseNeutral(one, from, 'It stays where it is.');
      if (from === to || !one.rows.some(({ value }) => value === from)) continue;
      if (one.rows.some(({ value }) => value === to))
        throw new StationError(
          'station-taken',
          `${partNameOf(kit, id)} is posed at ${to} already. Move that station, or delete it, first.`,
          id,
        );
      one.rows = neutralFirst(
        one.rows.map((row) => (row.value === from ? { ...row, value: to } : row)),
        neutralOf(one),
      );
    }
  },
});

/** Deletes a station: the row that each of these has there. */
export const removeStation = defineOperation<{ bindings: Id[]; value: number }>({
  id: 'wiring.remove-station',
  title: (_, { value }) => `Delete the station at ${value}`,
  args: Joi.object({ bindings: Joi.array().items(idSchema).min(1).required(), value: Joi.number().required() }),
  change(kit, { bindings, value }) {
    for (const id of bindings) {
      const one = bindingOf(kit, id);
      refuseNeutral(one, value, 'It is not deleted.');
      one.rows = one.rows.filter((row) => row.value !== value);
    }
  },
});
