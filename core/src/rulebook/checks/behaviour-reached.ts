import type { Check, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, stateName } from './behaviour-shared';

/** Every state can be come to. */
export const behaviourReached: Check = {
  id: 'behaviour.reached',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Every state can be come to',
  needs: needsBehaviours,
  run(context) {
    return claimsOfKind(context, 'unreached').map(({ layer: id, state }): Said => {
      const layer = layerIn(context, id);
      const name = stateName(layer, state);
      return {
        key: state,
        title: 'A state that nothing leads to',
        message: `Whatever is passed in, the layer “${layer.name}” never comes to “${name}”.`,
        measured: 'never',
        limit: 'some way there',
        parts: [],
        things: [state],
        mend: {
          title: 'Take it away',
          safe: false,
          call: { operation: 'behaviour.remove-state', args: { layer: id, state } },
          changes: [`the state “${name}” goes, with the passages to it and from it`],
        },
      };
    });
  },
};
