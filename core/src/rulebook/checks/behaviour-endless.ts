import type { Check, Said } from '../types';
import { claimsOfKind, layerIn, needsBehaviours, stateName, valuesSaid } from './behaviour-shared';

/** Passages do not lead round without end within a frame. */
export const behaviourEndless: Check = {
  id: 'behaviour.endless',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Passages of 0 seconds do not lead round without end within one frame',
  needs: needsBehaviours,
  run(context) {
    const { parameters, chain } = context.rulebook.behaviours!;
    return claimsOfKind(context, 'endless').map(({ layer: id, states, values }): Said => {
      const layer = layerIn(context, id);
      const names = states.map((state) => `“${stateName(layer, state)}”`);
      const within = layer.passages.filter(({ to }) => states.includes(to));
      const [first] = within.filter(({ from, over }) => over === 0 && (from === null || states.includes(from)));
      return {
        key: [...states].sort().join('.'),
        title: 'Round without end',
        message: `With ${valuesSaid(
          values,
          within.flatMap(({ when }) => when),
          parameters,
        )} the layer “${layer.name}” goes from ${names.join(' to ')} and back to ${names[0]} within one frame, and on.`,
        measured: 'no end',
        limit: `${chain} passages a frame`,
        parts: [],
        things: [first.id],
        mend: {
          title: 'Let one take a tenth of a second',
          safe: false,
          call: { operation: 'behaviour.set-passage', args: { layer: id, passage: first.id, over: 0.1 } },
          changes: [`the passage to “${stateName(layer, first.to)}” takes 0.1 s; the frame ends with it`],
        },
      };
    });
  },
};
