import Joi from 'joi';
import { countSchema, idSchema, nameSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { count } from '../wording';
import { compareRecords, said } from './compare';
import { nothing, STAYS, type Refuse, type Section } from './section';

/** What one variable does in a duty: straight between points, and as at the first and last one outside of them. */
export interface DutyLine {
  variable: string;
  /** From 0; null where the variable has none. */
  index: number | null;
  /** Seconds, ascending, and values in the variable's unit. */
  points: { time: number; value: number }[];
}

/** A run of several variables over time that was made for this kit. */
export interface OwnDuty {
  id: Id;
  name: string;
  about: string;
  seconds: number;
  lines: DutyLine[];
}

declare module '../kit' {
  interface Kit {
    /** Absent where there are none. */
    duties?: OwnDuty[];
  }
}

/** What a duty is made of, its identity apart. */
export const DUTY_FIELDS = {
  name: nameSchema.required(),
  about: Joi.string().allow('').max(500).required(),
  seconds: Joi.number().positive().max(3600).required(),
  lines: Joi.array()
    .items(
      Joi.object({
        variable: Joi.string().min(1).max(120).required(),
        index: countSchema.allow(null).required(),
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
} satisfies SchemaOf<Omit<OwnDuty, 'id'>>;

/** A duty of the kit: name, length in seconds, and what each variable does. */
export const dutySchema = Joi.object({ ...DUTY_FIELDS, id: idSchema.required() } satisfies SchemaOf<OwnDuty>);

/** Points of each line come one after the other. */
export function checkDutyLines(lines: readonly DutyLine[], refuse: (what: string, where: string) => void): void {
  for (const [i, { points }] of lines.entries())
    for (let p = 1; p < points.length; p++)
      if (points[p].time <= points[p - 1].time) refuse(`lines.${i}.points.${p} is not later than the one before`, `lines.${i}`);
}

/** Duties that were made for this kit, to try it by. They stay with it, and go into no package. */
export const dutiesSection: Section<'duties'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(dutySchema).unique('name').max(200).messages({ 'array.unique': '{{#label}} has the name of an earlier one' }),
  fields: [],
  sound(list, refuse: Refuse) {
    for (const { id, lines } of list) checkDutyLines(lines, (what, where) => refuse(what, `duties.${id}.${where}`));
  },
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.duties ?? [],
      after.duties ?? [],
      ({ name }) => `Duty “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said(a.seconds, b.seconds, `${a.seconds} → ${b.seconds} s`),
        ...said(a.lines, b.lines, 'other lines'),
      ],
    ),
  pack: {
    model: false,
    manifest: null,
    leftOut: ({ duties }) => (duties?.length ? [{ what: count(duties.length, 'duty', 'duties'), why: 'kept with the kit' }] : []),
  },
  newVersion: STAYS,
};
