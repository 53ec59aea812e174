import type { Check, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, takeAway, wayName } from './behaviour-shared';

/** Conditions ask about what the platform passes in. */
export const behaviourKnown: Check = {
  id: 'behaviour.known',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Conditions ask about what the platform passes in, and for values that it has',
  needs: needsBehaviours,
  run(context) {
    return claimsOfKind(context, 'unknown').map(({ layer: id, passage, parameter, value }): Said => {
      const layer = layerIn(context, id);
      const rule = context.rulebook.behaviours!.parameters.find(({ name }) => name === parameter);
      const what = value === null ? `“${parameter}”` : `“${value}” of ${rule!.title}`;
      return {
        key: `${passage}.${parameter}.${value ?? ''}`,
        title: 'It is never passed in',
        message: `The passage ${wayName(layer, passage)} asks for ${what}, which ${context.rulebook.title} does not ${value === null && rule ? 'have of that kind' : 'pass in'}.`,
        measured: what,
        limit: rule && value !== null && rule.kind === 'names' ? rule.values.join(', ') : 'what is passed in',
        parts: [],
        mend: takeAway(layer, passage),
      };
    });
  },
};
