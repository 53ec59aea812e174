import { parse, type ParseError } from 'jsonc-parser';
import { checkRulebook, RulebookError, type Rulebook } from '@itchkit/core/rulebook';

export interface Draft {
  /** What the text says; null where it is no JSON object. It may not hold together. */
  value: Rulebook | null;
  /** The first thing that is wrong, and where: a path, or a place in the text. */
  error: { message: string; path: string | null; offset: number | null } | null;
}

/** Reads the text of a rulebook that is being written. */
export function readDraft(text: string): Draft {
  const faults: ParseError[] = [];
  const value: unknown = parse(text, faults, { disallowComments: true });
  if (faults.length > 0) {
    const message = 'This is not JSON. A comma or a bracket is missing, or one too many.';
    return { value: null, error: { message, path: null, offset: faults[0].offset } };
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return { value: null, error: { message: 'A rulebook is a JSON object.', path: null, offset: 0 } };
  try {
    return { value: checkRulebook(value), error: null };
  } catch (error) {
    if (error instanceof RulebookError)
      return { value: isWhole(value) ? value : null, error: { message: sentence(error.detail), path: error.where ?? '', offset: null } };
    throw error;
  }
}

const sentence = (detail: string) => `${detail[0].toUpperCase()}${detail.slice(1).replace(/\.?$/, '.')}`;

/** Whether there is enough of it for the forms. */
function isWhole(value: object): value is Rulebook {
  const { naming, rules } = value as Partial<Rulebook>;
  return (
    Array.isArray(rules) &&
    rules.every((rule) => typeof rule === 'object' && rule !== null) &&
    typeof naming === 'object' &&
    naming !== null &&
    Array.isArray(naming.patterns) &&
    naming.patterns.every((one) => typeof one === 'object' && one !== null && Array.isArray(one.examples))
  );
}
