import type { Check, Mend, Said } from '../types';
import { count, nameList } from '../wording';
import { claimsOfKind, conditionSaid, layerIn, needsBehaviours, passageIn, takeAway, wayName } from './behaviour-shared';

/** Every passage can be taken. */
export const behaviourTaken: Check = {
  id: 'behaviour.taken',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Every passage can be taken: its conditions can hold, and no earlier one is always taken instead',
  needs: needsBehaviours,
  run(context) {
    const { parameters } = context.rulebook.behaviours!;
    const unknown = new Set(claimsOfKind(context, 'unknown').map(({ passage }) => passage));
    const unsure = claimsOfKind(context, 'unsure').map(({ layer }): Said => {
      const { name, passages } = layerIn(context, layer);
      return {
        key: `unsure.${layer}`,
        title: 'Too many ways to look at them all',
        message: `The conditions of the layer “${name}” combine in more ways than can be looked at, so nothing is proven of it. Part it into several layers.`,
        measured: count(passages.length, 'passage'),
        limit: 'fewer at once',
        parts: [],
        things: [layer],
      };
    });
    const never = claimsOfKind(context, 'never')
      .filter(({ passage }) => !unknown.has(passage))
      .map(({ layer: id, passage, because, by }): Said => {
        const layer = layerIn(context, id);
        const asked = passageIn(layer, passage).when.map((one) =>
          conditionSaid(
            one,
            parameters.find(({ name }) => name === one.parameter),
          ),
        );
        const why =
          because === 'contradicts'
            ? `its conditions never hold together: ${asked.join(', and ')}`
            : `whenever its conditions hold, an earlier one is taken: ${nameList(by.map((one) => wayName(layer, one)))}`;
        const first: Mend | undefined =
          because === 'earlier'
            ? {
                title: 'Let it go first',
                safe: false,
                call: { operation: 'behaviour.move-passage', args: { layer: id, passage, before: by[0] } },
                changes: [`the passage ${wayName(layer, passage)} is looked at before the one ${wayName(layer, by[0])}`],
              }
            : undefined;
        return {
          key: passage,
          title: 'A passage that is never taken',
          message: `The passage ${wayName(layer, passage)} is never taken: ${why}.`,
          measured: 'never',
          limit: 'some values',
          parts: [],
          things: [passage],
          mend: first ?? takeAway(layer, passage),
        };
      });
    return [...unsure, ...never];
  },
};
