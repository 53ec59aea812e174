import { statePlays } from '../../grounds';
import type { Check, Said } from '../types';
import { nameList } from '../wording';
import { movesNothing } from './clips-required';
import { needsGrounds } from './grounds-shared';

/** Every clip is played in one of the platform's states, and one of them plays something where there is something to play. */
export const groundsStates: Check = {
  id: 'grounds.states',
  family: 'grounds',
  stage: 'wiring',
  about: 'Every clip is played in one of the platform’s states',
  needs: needsGrounds,
  run(context) {
    const { kit, rulebook } = context;
    const rules = rulebook.grounds!;
    const plays = statePlays(kit, rules);
    const played = new Set(plays.map(({ clip }) => clip?.id));
    const left = Object.values(kit.clips).filter(({ id, overlay }) => !played.has(id) && !overlay);
    const still = plays.filter(({ clip, rule }) => clip !== null && rule.kind === 'rides' && movesNothing(context, clip));
    const known = new Set(rules.states.map(({ name }) => name));
    const strange = (kit.grounds?.states ?? []).filter(({ state }) => !known.has(state));
    const free = plays.filter(({ clip }) => clip === null);
    const proposed =
      left.length === 1
        ? (free.find(({ rule }) => rule.name === left[0].name.toLowerCase()) ?? free.find(({ rule }) => rule.kind === 'rides'))
        : undefined;
    return [
      ...left.map((clip): Said => ({
        key: clip.id,
        title: 'A clip that no state plays',
        message: `“${clip.name}” is played in none of ${nameList(rules.states.map(({ title }) => title))}: it stays behind.`,
        measured: 'in none',
        limit: 'in one',
        parts: [],
        ...(proposed && {
          mend: {
            title: `Play it in “${proposed.rule.title}”`,
            safe: false,
            call: { operation: 'grounds.set-state', args: { state: proposed.rule.name, clip: clip.id, from: 0, to: null, over: 0 } },
            changes: [`“${clip.name}” plays in “${proposed.rule.title}”`],
          },
        }),
      })),
      ...still.map(({ rule, clip }): Said => ({
        key: `still ${rule.name}`,
        title: 'A ride that moves nothing',
        message: `“${rule.title}” plays “${clip!.name}”, which leaves everything at rest.`,
        measured: 'nothing moves',
        limit: 'something moves',
        parts: [],
      })),
      ...strange.map(({ state, clip }): Said => ({
        key: `state ${state}`,
        title: 'A state that there is not',
        message: `The kit says what it plays in “${state}”, which the platform does not have${clip && kit.clips[clip] ? `: “${kit.clips[clip].name}” is not played there` : ''}.`,
        measured: state,
        limit: [...known].join(', '),
        parts: [],
        mend: {
          title: `Play nothing in “${state}”`,
          safe: false,
          call: { operation: 'grounds.set-state', args: { state, clip: null, from: 0, to: null, over: 0 } },
          changes: [`nothing is said of “${state}” any more`],
        },
      })),
    ];
  },
};
