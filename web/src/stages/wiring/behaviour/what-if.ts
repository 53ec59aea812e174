import { holdsOf, leadsFrom, type Values } from '@itchkit/core/behaviour';
import type { Condition, Id, Layer, Passage } from '@itchkit/core/document';

/** A passage as it stands under some values, while its layer is in a state. */
export interface Considered {
  passage: Passage;
  /** Whether it leads from that state at all. */
  leads: boolean;
  conditions: { condition: Condition; holds: boolean }[];
  /** The first that holds is `taken`; one `waits` for the end of the clip; of a `later` one an earlier is taken; `not` does not hold. */
  verdict: 'taken' | 'waits' | 'later' | 'not';
}

/** What becomes of each passage of a layer in a state, in their order: why one is taken, and why the others are not. */
export function considered({ passages }: Layer, state: Id, values: Values): Considered[] {
  let taken = false;
  let waiting = false;
  return passages.map((passage): Considered => {
    const leads = leadsFrom(passage, state);
    const conditions = passage.when.map((condition) => ({ condition, holds: holdsOf(condition, values[condition.parameter]) }));
    const holds = leads && conditions.every((one) => one.holds);
    const of = (verdict: Considered['verdict']) => ({ passage, leads, conditions, verdict });
    if (!holds) return of('not');
    if (taken || (waiting && passage.after === 'end')) return of('later');
    if (passage.after === 'end') {
      waiting = true;
      return of('waits');
    }
    taken = true;
    return of('taken');
  });
}
