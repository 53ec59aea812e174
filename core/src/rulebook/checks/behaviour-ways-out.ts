import type { Check, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, stateName } from './behaviour-shared';

/** Something leads out of every state. */
export const behaviourWaysOut: Check = {
  id: 'behaviour.ways-out',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Something leads out of every state that is come to',
  needs: needsBehaviours,
  run(context) {
    return claimsOfKind(context, 'stuck').map(({ layer: id, state }): Said => {
      const layer = layerIn(context, id);
      const [name, first] = [state, layer.first].map((one) => stateName(layer, one));
      const back = state !== layer.first;
      return {
        key: state,
        title: 'No way out',
        message: `Whatever is passed in, the layer “${layer.name}” never leaves “${name}” again.`,
        measured: 'none',
        limit: 'some way out',
        parts: [],
        things: [state],
        ...(back && {
          mend: {
            title: `Go on to “${first}” at its end`,
            safe: false,
            call: {
              operation: 'behaviour.add-passage',
              args: { layer: id, from: state, to: layer.first, when: [], after: 'end', over: 0.2 },
            },
            changes: [`a passage from “${name}” to “${first}” once its clip has ended, over 0.2 s`],
          },
        }),
      };
    });
  },
};
