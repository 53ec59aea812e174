import { callOf } from '@itchkit/core/document';
import { removeKnots } from '@itchkit/core/grounds';
import { setSlice } from '../../../session/context';
import type { CommandContext, StageKeys } from '../../stage';

/** Delete takes the chosen knots of the walkway away. */
export function groundsKeys({ session, ui, run }: CommandContext): StageKeys {
  const there = new Set(session.kit.walkway?.knots.map(({ id }) => id));
  const knots = ui.getState().grounds.knots.filter((id) => there.has(id));
  if (knots.length === 0) return {};
  return {
    remove: {
      title: knots.length === 1 ? 'Take the knot away' : `Take ${knots.length} knots away`,
      blocked: null,
      calls: () => callOf(removeKnots, { knots }),
      run: () => {
        if (run(callOf(removeKnots, { knots }))) setSlice(ui, 'grounds', { knots: [] });
      },
    },
  };
}
