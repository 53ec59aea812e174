import type { Id } from '../../document';
import type { Check, CheckContext, Mend, Said, Stage } from '../types';
import { figure } from '../wording';

export interface Measured {
  value: number;
  /** What makes most of it, for the message: a sentence. */
  more?: string;
  parts?: Id[];
  key?: string;
  mend?: Mend;
}

interface Budget {
  id: string;
  stage: Stage;
  about: string;
  /** Unit of the limit, as in “8,000 vertices”. */
  unit: string;
  title: string;
  /** What is counted, as the start of a sentence: “The kit draws”. */
  what: string;
  measure(context: CheckContext, limit: number): Measured | Measured[];
  /** How a value is written. */
  show?(value: number): string;
}

/** A check of one number against the rule's limit. */
export function budget({ id, stage, about, unit, title, what, measure, show }: Budget): Check {
  const say =
    show ??
    ((value: number) => `${figure(value, 2) === String(Math.round(value)) ? Math.round(value).toLocaleString('en') : figure(value, 2)}`);
  return {
    id,
    family: 'budgets',
    stage,
    about,
    limit: unit,
    run(context, rule) {
      const limit = rule.limit!;
      return [measure(context, limit)].flat().flatMap(({ value, more, parts = [], key, mend }): Said[] =>
        value <= limit
          ? []
          : [
              {
                key,
                title,
                message: `${what} ${say(value)} ${unit}, more than ${say(limit)}.${more ? ` ${more}` : ''}`,
                measured: say(value),
                limit: `${say(limit)} ${unit}`,
                share: limit > 0 ? value / limit : undefined,
                parts,
                mend,
              },
            ],
      );
    },
  };
}

/** Bytes for people: KiB or MiB. */
export function bytesText(bytes: number): string {
  return bytes < 1024 * 1024 ? `${figure(bytes / 1024, 1)} KiB` : `${figure(bytes / 1024 / 1024, 1)} MiB`;
}
