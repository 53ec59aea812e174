import Joi from 'joi';
import { KitError, type Blobs, type Kit, type SchemaOf } from '../document';
import { flattenParts, Poser } from '../geometry';
import { leverKey } from '../wiring';
import type { Lever } from './lever';
import { poseKit, REST } from './pose-kit';

/** What `format` says in a duty of this version. */
export const DUTY_FORMAT = 'itchkit.duty/1';

/** What one variable does in a duty: straight between points, and as at the first and last one outside of them. */
export interface DutyLine {
  variable: string;
  /** From 0; null where the variable has none. */
  index: number | null;
  /** Seconds, ascending, and values in the variable's unit. */
  points: { time: number; value: number }[];
}

/** A run of several variables over time. */
export interface Duty {
  format: typeof DUTY_FORMAT;
  name: string;
  about: string;
  seconds: number;
  lines: DutyLine[];
}

/** A duty that can't be read. */
export class DutyError extends KitError {
  constructor(message: string, where: string) {
    super('duty', `The duty can’t be played: ${message}.`, where);
  }
}

const dutySchema = Joi.object({
  format: Joi.valid(DUTY_FORMAT).required(),
  name: Joi.string().min(1).max(100).required(),
  about: Joi.string().allow('').max(500).required(),
  seconds: Joi.number().positive().max(3600).required(),
  lines: Joi.array()
    .items(
      Joi.object({
        variable: Joi.string().min(1).max(120).required(),
        index: Joi.number().integer().min(0).allow(null).required(),
        points: Joi.array()
          .items(Joi.object({ time: Joi.number().min(0).required(), value: Joi.number().required() }))
          .min(1)
          .max(10_000)
          .required(),
      } satisfies SchemaOf<DutyLine>),
    )
    .min(1)
    .max(500)
    .required(),
} satisfies SchemaOf<Duty>);

/**
 * A duty as it was written by hand or by another program.
 *
 * @throws {DutyError} naming the place
 */
export function checkDuty(value: unknown): Duty {
  const { error, value: duty } = dutySchema.validate(value, { convert: false, errors: { wrap: { label: false } } }) as {
    error?: Joi.ValidationError;
    value: Duty;
  };
  if (error) throw new DutyError(error.message, error.details[0].path.join('.'));
  for (const [i, { points }] of duty.lines.entries())
    for (let p = 1; p < points.length; p++)
      if (points[p].time <= points[p - 1].time)
        throw new DutyError(`lines.${i}.points.${p} is not later than the one before`, `lines.${i}`);
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

/** Whether a matrix leaves nothing of what it places. */
const isFlat = (world: ArrayLike<number>): boolean => [0, 1, 2, 4, 5, 6, 8, 9, 10].every((at) => world[at] === 0);

/** What a duty does with a package. */
export interface Played {
  /**
   * Seconds, the world matrix (16 numbers, column-major, the package’s axes and unit) of each part, by name, and which are not shown: those
   * are of no size.
   */
  frames: { time: number; parts: Record<string, number[]>; hidden: string[] }[];
  /** Lines that move nothing there, and why. */
  refused: { variable: string; why: string }[];
}

/**
 * Plays a duty on a package’s kit: where every part is at each time.
 *
 * @param rate Frames a second
 */
export function playDuty(kit: Kit, blobs: Blobs, levers: readonly Lever[], duty: Duty, rate: number): Played {
  const refused = duty.lines.flatMap((line) => {
    const key = leverKey(line.variable, line.index);
    const lever = levers.find((one) => one.key === key);
    if (!lever) return [{ variable: key, why: 'nothing of the package follows it' }];
    const beyond = line.points.find(({ value }) => value < lever.variable.min || value > lever.variable.max);
    return beyond
      ? [{ variable: key, why: `${beyond.value} at ${beyond.time} s is beyond its range, ${lever.variable.min} to ${lever.variable.max}` }]
      : [];
  });
  const poser = new Poser(flattenParts(kit));
  const variables = levers.map(({ variable }) => variable);
  const frames = Array.from({ length: Math.floor(duty.seconds * rate + 1e-9) + 1 }, (_, i) => {
    const time = i / rate;
    const values = dutyAt(duty, time);
    for (const { variable } of refused) delete values[variable];
    poseKit(poser, kit, blobs, { ...REST, levers: values }, variables);
    const parts = Object.fromEntries(poser.flat.ids.map((id) => [kit.parts[id].name, [...poser.worldOf(id)]]));
    const hidden = poser.flat.ids.filter((id) => isFlat(poser.worldOf(id))).map((id) => kit.parts[id].name);
    return { time, parts, hidden };
  });
  return { frames, refused };
}
