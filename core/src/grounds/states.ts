import type { Clip, GroundsState, Kit } from '../document';
import type { GroundsRules, StateRule } from './rules';

/** What a kit does in a state, with all that it did not say. */
export interface StatePlay {
  rule: StateRule;
  /** Null where it stands as at rest. */
  clip: Clip | null;
  /** Seconds of the clip. */
  from: number;
  to: number;
  /** Seconds in which what came before goes over into it. */
  over: number;
}

/** What plays in each of the platform's states, in their order. */
export function statePlays(kit: Kit, rules: Pick<GroundsRules, 'states'>): StatePlay[] {
  const said = new Map((kit.grounds?.states ?? []).map((one): [string, GroundsState] => [one.state, one]));
  return rules.states.map((rule): StatePlay => {
    const one = said.get(rule.name);
    const clip = (one?.clip && kit.clips[one.clip]) || null;
    if (!one || !clip) return { rule, clip: null, from: 0, to: 0, over: one?.over ?? 0 };
    const to = Math.min(one.to ?? clip.lengthSeconds, clip.lengthSeconds);
    return { rule, clip, from: Math.min(one.from, to), to, over: one.over };
  });
}

/** The state in which visitors are carried. */
export const ridden = (plays: readonly StatePlay[]): StatePlay | undefined => plays.find(({ rule }) => rule.kind === 'rides');
/** The state in which they get on and off. */
export const waited = (plays: readonly StatePlay[]): StatePlay | undefined => plays.find(({ rule }) => rule.kind === 'waits');
