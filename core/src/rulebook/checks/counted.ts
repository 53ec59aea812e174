import type { Part } from '../../document';
import type { Check, CheckContext, Mend, Rule, Stage } from '../types';
import { count, nameList } from '../wording';
import { partsWith, type Measure } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

export interface Found {
  part: Part;
  figure: number;
}

interface Counted {
  id: string;
  family: string;
  stage: Stage;
  about: string;
  measure: Measure;
  title: string;
  /** What is counted: one, and many. */
  noun: [one: string, many: string];
  /** The sentence before the names of the parts. */
  say(total: number): string;
  /** Which parts are looked at; all where left out. */
  among?(context: CheckContext, rule: Rule): Part[];
  mend?(found: Found[], total: number): Mend;
}

/** A check that adds up a figure of each part's mesh, which should be 0. */
export function counted({ id, family, stage, about, measure, title, noun, say, among, mend }: Counted): Check {
  return {
    id,
    family,
    stage,
    about,
    run(context, rule) {
      const found = partsWith(context, measure, among?.(context, rule));
      if (found.length === 0) return [];
      const total = found.reduce((sum, { figure }) => sum + figure, 0);
      const wrong = found.map(({ part }) => part);
      return [
        {
          title,
          message: `${say(total)} ${nameList(namesOf(wrong))}.`,
          measured: count(total, ...noun),
          limit: '0',
          parts: idsOf(wrong),
          mend: mend?.(found, total),
        },
      ];
    },
  };
}

/** Parts that are deformed by joints. */
export const skinned = ({ parts }: CheckContext): Part[] => parts.filter((part) => part.skin !== null);
