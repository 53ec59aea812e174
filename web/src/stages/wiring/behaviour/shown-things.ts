import type { Id, Kit } from '@itchkit/core/document';
import type { BehaviourUi } from './behaviour-state';

/** What is to be chosen so that layers, states, passages and mixes of these ids are in view; null where none of them is there. */
export function showing({ behaviour, mixes = [] }: Kit, ids: readonly Id[], now: BehaviourUi): Partial<BehaviourUi> | null {
  const wanted = new Set(ids);
  const layer = behaviour?.layers.find(
    ({ id, states, passages }) => wanted.has(id) || [...states, ...passages].some((one) => wanted.has(one.id)),
  );
  const mix = mixes.find(({ id, pegs }) => wanted.has(id) || pegs.some((peg) => wanted.has(peg.id)));
  if (layer) {
    const state = layer.states.find(({ id }) => wanted.has(id));
    const passage = layer.passages.find(({ id }) => wanted.has(id));
    // The table is left where it is of use: the route map stays, a picture of a mix goes.
    const view = now.view === 'map' ? 'map' : 'passages';
    const inNow = state ? { ...now.in, [layer.id]: state.id } : now.in;
    return { layer: layer.id, passage: passage?.id ?? null, view, search: '', in: inNow };
  }
  return mix ? { mix: mix.id, peg: mix.pegs.find(({ id }) => wanted.has(id))?.id ?? null, view: 'mixes' } : null;
}
