import type { Check, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, passageIn, stateName, valuesSaid } from './behaviour-shared';

/** No two passages are open at once to different states. */
export const behaviourBoth: Check = {
  id: 'behaviour.both',
  family: 'behaviour',
  stage: 'wiring',
  about: 'No two passages to different states are open at once',
  needs: needsBehaviours,
  run(context) {
    const { parameters } = context.rulebook.behaviours!;
    // Of one that is never taken that is said.
    const never = new Set(claimsOfKind(context, 'never').map(({ passage }) => passage));
    const open = claimsOfKind(context, 'both').filter(({ passages }) => !passages.some((one) => never.has(one)));
    return open.map(({ layer: id, state, passages: [a, b], values }): Said => {
      const layer = layerIn(context, id);
      const [first, second] = [a, b].map((one) => passageIn(layer, one));
      const [to, other] = [first, second].map((one) => stateName(layer, one.to));
      return {
        key: `${a}.${b}`,
        title: 'Two ways at once',
        message: `In “${stateName(layer, state)}”, with ${valuesSaid(values, [...first.when, ...second.when], parameters)}, both “${to}” and “${other}” are open: “${to}” is taken.`,
        measured: `“${to}”, “${other}”`,
        limit: 'one',
        parts: [],
        things: [state, a],
      };
    });
  },
};
