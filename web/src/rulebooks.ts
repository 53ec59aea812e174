import brinework from '@itchkit/rulebooks/brinework';
import { checkRulebook, type Rulebook } from '@itchkit/core';

/** The rulebooks that ship with the application. */
export const RULEBOOKS: Rulebook[] = [checkRulebook(brinework)];

export function rulebookById(id: string): Rulebook | undefined {
  return RULEBOOKS.find((rulebook) => rulebook.id === id);
}
