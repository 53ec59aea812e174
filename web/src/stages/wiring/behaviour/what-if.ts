import { holdsOf, leadsFrom, type ParameterRule, type Values } from '@itchkit/core/behaviour';
import { playsOf, type Condition, type Id, type Kit, type Layer, type Passage } from '@itchkit/core/document';
import { conditionSaid } from '@itchkit/core/rulebook';

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

/** The state that a layer is in as *What if* has it: where it begins, unless another was chosen that is still there. */
export function stateIn(layer: Layer, chosen: Readonly<Record<Id, Id>>): Id {
  return layer.states.some(({ id }) => id === chosen[layer.id]) ? chosen[layer.id] : layer.first;
}

/** Names of all that a state plays: clips, mixes and the clips in them. */
function playedNames({ clips, mixes = [] }: Kit, layer: Layer, id: Id | null): string[] {
  const state = layer.states.find((one) => one.id === id);
  if (!state) return [];
  return playsOf(state).flatMap((one) => {
    const mix = mixes.find((each) => each.id === one.mix);
    const names = [one.clip, ...(mix?.pegs.map((peg) => peg.clip) ?? [])].map((clip) => (clip === null ? '' : (clips[clip]?.name ?? '')));
    return [state.name, mix?.name ?? '', ...names];
  });
}

/**
 * Passages of a layer in which each of some words stands: in the names of the states, of what they play, or in what is asked.
 *
 * @returns Their ids; all where no word is given
 */
export function found(kit: Kit, layer: Layer, rules: readonly ParameterRule[], words: string): Set<Id> {
  const sought = words.toLowerCase().split(/\s+/).filter(Boolean);
  const byName = new Map(rules.map((rule) => [rule.name, rule]));
  const text = ({ from, to, when }: Passage) =>
    [
      ...(from === null ? ['anywhere'] : playedNames(kit, layer, from)),
      ...playedNames(kit, layer, to),
      ...when.flatMap((one) => [one.parameter, conditionSaid(one, byName.get(one.parameter))]),
    ]
      .join(' ')
      .toLowerCase();
  return new Set(layer.passages.filter((one) => sought.every((word) => text(one).includes(word))).map(({ id }) => id));
}
