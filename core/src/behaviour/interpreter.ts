import type { BehaviourState, Id, Layer, Passage } from '../document';
import { holdsOf } from './boxes';
import type { Values } from './rules';

/** Where a layer is: its state, and for how long, seconds. */
export interface LayerAt {
  state: Id;
  seconds: number;
}

/** Whether a passage leads from a state, whatever its conditions say. */
export const leadsFrom = ({ from, except, to }: Passage, state: Id): boolean =>
  from === null ? to !== state && !except.includes(state) : from === state;

/** Whether all conditions of a passage hold. */
export function holds({ when }: Passage, values: Values): boolean {
  for (const one of when) if (!holdsOf(one, values[one.parameter])) return false;
  return true;
}

/**
 * The passage that is taken out of a state: of those that lead from it the first whose conditions hold. Allocates nothing.
 *
 * @param at Where the layer is at the frame's beginning @param passed Seconds until its end.
 */
export function openPassage(
  { passages }: Layer,
  state: BehaviourState,
  at: LayerAt,
  passed: number,
  values: Values,
  lengthOf: (state: BehaviourState) => number,
): Passage | null {
  let ended: boolean | null = null;
  for (const one of passages) {
    if (!leadsFrom(one, state.id)) continue;
    if (one.after !== 'any' && !(ended ??= hasEnded(state, at, passed, lengthOf))) continue;
    if (holds(one, values)) return one;
  }
  return null;
}

/** A frame of a layer: where it is then, the passages that were taken in their order, and whether they would go on without end. */
export interface LayerStep {
  at: LayerAt;
  taken: Id[];
  endless: boolean;
}

/**
 * Plays one layer on by a frame, as the platform does: of the passages that lead from its state the first whose conditions hold is taken;
 * one of 0 seconds is followed by the next within the frame, any other ends it. What it leads to counts as played as far as the passage
 * says that it begins.
 *
 * @param lengthOf Seconds that a state takes, 0 where it has no time of its own. @param chain How many passages are taken in a frame.
 */
export function playLayer(
  layer: Layer,
  from: LayerAt,
  values: Values,
  passed: number,
  { lengthOf, chain }: { lengthOf(state: BehaviourState): number; chain: number },
): LayerStep {
  const states = new Map(layer.states.map((one) => [one.id, one]));
  const taken: Id[] = [];
  let at = from;
  let left = passed;
  for (;;) {
    const here = { ...at, seconds: at.seconds + left };
    const next = openPassage(layer, states.get(here.state)!, at, left, values, lengthOf);
    if (!next) return { at: here, taken, endless: false };
    if (taken.length >= chain) return { at: here, taken, endless: true };
    taken.push(next.id);
    at = { state: next.to, seconds: secondsAt(next, here, states, lengthOf) };
    left = 0;
    if (next.over > 0) return { at, taken, endless: false };
  }
}

/** How long what a passage leads to has been played when it begins, seconds; what has no time begins at its beginning. */
function secondsAt(
  { begins = 0, to }: Passage,
  from: LayerAt,
  states: ReadonlyMap<Id, BehaviourState>,
  lengthOf: (state: BehaviourState) => number,
): number {
  if (begins === 0) return 0;
  const length = lengthOf(states.get(to)!);
  if (begins !== 'along') return begins * length;
  const left = lengthOf(states.get(from.state)!);
  // At the very end of what is played once, that too is at its end.
  return left > 0 ? length * (states.get(from.state)!.loop ? (from.seconds / left) % 1 : Math.min(1, from.seconds / left)) : 0;
}

/** Whether a state's clip came to its end, or to the end of a round, within a frame; what has no time has always ended. */
function hasEnded(state: BehaviourState, { seconds }: LayerAt, passed: number, lengthOf: (state: BehaviourState) => number): boolean {
  const now = seconds + passed;
  const length = lengthOf(state);
  if (length <= 0) return true;
  return state.loop ? Math.floor(now / length) > Math.floor(seconds / length) : now >= length;
}
