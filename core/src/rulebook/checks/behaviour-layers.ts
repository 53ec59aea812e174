import { timelessIn } from '../../behaviour';
import { subtreeOf, type Id, type Kit, type Layer } from '../../document';
import type { Check, Said } from '../types';
import { needsBehaviours } from './behaviour-shared';

/** Parts that a layer moves, with all below them. */
function movedBy(kit: Kit, { parts }: Layer): Set<Id> {
  if (parts.length === 0) return new Set(Object.keys(kit.parts));
  return new Set(parts.flatMap((part) => [...subtreeOf(kit, part)]));
}

/** No layer is always replaced by a later one. */
export const behaviourLayers: Check = {
  id: 'behaviour.layers',
  family: 'behaviour',
  stage: 'wiring',
  about: 'No layer moves only what a later one always moves instead',
  needs: needsBehaviours,
  run({ kit }) {
    const layers = kit.behaviour?.layers ?? [];
    const timeless = timelessIn(kit);
    const always = ({ how, edge, weight, states }: Layer) =>
      how === 'replaces' && edge === undefined && !weight && !states.some(({ id }) => timeless(id));
    return layers.flatMap((layer, i): Said[] => {
      const moved = movedBy(kit, layer);
      const over = layers.slice(i + 1).find((later) => {
        if (!always(later)) return false;
        const instead = movedBy(kit, later);
        return [...moved].every((part) => instead.has(part));
      });
      if (!over) return [];
      return [
        {
          key: layer.id,
          title: 'A layer that is never seen',
          message: `All that the layer “${layer.name}” moves is moved by “${over.name}” instead, whatever its state.`,
          measured: `under “${over.name}”`,
          limit: 'seen in some state',
          parts: [],
          things: [layer.id],
        },
      ];
    });
  },
};
