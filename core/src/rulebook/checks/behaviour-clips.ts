import { playedClips, timelessIn } from '../../behaviour';
import { clipsInOrder } from '../../document';
import type { Check, Said } from '../types';
import { needsBehaviours } from './behaviour-shared';

/** Every clip is played by some state, and every state plays one. */
export const behaviourClips: Check = {
  id: 'behaviour.clips',
  family: 'behaviour',
  stage: 'wiring',
  about: 'Every clip is played by some state, and every state plays one',
  needs: needsBehaviours,
  run({ kit }) {
    const { behaviour } = kit;
    if (!behaviour) return [];
    const states = behaviour.layers.flatMap((layer) => layer.states.map((state) => ({ layer, state })));
    const played = playedClips(kit);
    const timeless = timelessIn(kit);
    const unplayed = clipsInOrder(kit)
      .filter(({ id }) => !played.has(id))
      .map(({ id, name }): Said => ({
        key: `clip.${id}`,
        title: 'A clip that nothing plays',
        message: `No state plays the clip “${name}”.`,
        measured: 'in none',
        limit: 'in some state',
        parts: [],
      }));
    const empty = states
      .filter(({ layer, state }) => timeless(state.id) && layer.how === 'replaces' && layer.parts.length === 0)
      .map(({ layer, state }): Said => ({
        key: `state.${state.id}`,
        title: 'A state that plays nothing',
        message: `“${state.name}” of the layer “${layer.name}” plays no clip: the body stands as it was built.`,
        measured: 'nothing',
        limit: 'a clip',
        parts: [],
        things: [state.id],
      }));
    return [...unplayed, ...empty];
  },
};
