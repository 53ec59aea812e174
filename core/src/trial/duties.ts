import Joi from 'joi';
import { checkDutyLines, DUTY_FIELDS, KitError, type DutyLine, type OwnDuty, type SchemaOf } from '../document';
import { leverKey } from '../formula';

/** What `format` says in a duty of this version. */
export const DUTY_FORMAT = 'itchkit.duty/1';

/** A run of several variables over time. */
export interface Duty extends Omit<OwnDuty, 'id'> {
  format: typeof DUTY_FORMAT;
}

/** A duty that can't be read. */
export class DutyError extends KitError {
  constructor(message: string, where: string) {
    super('duty', `The duty can’t be played: ${message}.`, where);
  }
}

const schema = Joi.object({ format: Joi.valid(DUTY_FORMAT).required(), ...DUTY_FIELDS } satisfies SchemaOf<Duty>);

/**
 * A duty as it was written by hand or by another program.
 *
 * @throws {DutyError} naming the place
 */
export function checkDuty(value: unknown): Duty {
  const { error, value: duty } = schema.validate(value, { convert: false, errors: { wrap: { label: false } } }) as {
    error?: Joi.ValidationError;
    value: Duty;
  };
  if (error) throw new DutyError(error.message, error.details[0].path.join('.'));
  checkDutyLines(duty.lines, (what, where) => {
    throw new DutyError(what, where);
  });
  return duty;
}

/** The value of a line at a time, seconds. */
export function lineAt({ points }: Pick<DutyLine, 'points'>, time: number): number {
  const after = points.findIndex((point) => point.time > time);
  if (after < 0) return points[points.length - 1].value;
  if (after === 0) return points[0].value;
  const [from, to] = [points[after - 1], points[after]];
  return from.value + ((to.value - from.value) * (time - from.time)) / (to.time - from.time);
}

/** Values of all levers of a duty at a time, by `leverKey`. */
export function dutyAt(duty: Duty, time: number): Record<string, number> {
  return Object.fromEntries(duty.lines.map((line) => [leverKey(line.variable, line.index), lineAt(line, time)]));
}
