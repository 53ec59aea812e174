'use client';
import { addPassage, type ParameterRule, type Values } from '@itchkit/core/behaviour';
import { callOf, newId, type Id, type Layer } from '@itchkit/core/document';
import { foldGroups } from '../../../panels/route-map/fold-groups';
import type { Lit } from '../../../panels/route-map/map-graph';
import { mapWords } from '../../../panels/route-map/map-words';
import { RouteMap } from '../../../panels/route-map/RouteMap';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { NEW_PASSAGE } from './beginnings';
import { considered, stateIn } from './what-if';

/** The states of all layers and how one leads to another, lit as *What if* has it. */
export function BehaviourMap({
  layers,
  parameters,
  values,
}: {
  layers: readonly Layer[];
  parameters: readonly ParameterRule[];
  values: Values;
}) {
  const kit = useKit();
  const run = useRun();
  const own = useUi((state) => state.behaviour);
  const set = useSetSlice('behaviour');
  const now = Object.fromEntries(layers.map((layer) => [layer.id, stateIn(layer, own.in)]));
  const lit = new Map<Id, Lit>();
  for (const layer of layers)
    for (const { passage, verdict } of considered(layer, now[layer.id], values))
      if (verdict === 'taken' || verdict === 'waits') lit.set(passage.id, verdict);
  const folded = foldGroups(layers, mapWords(kit, parameters), new Set(own.folded));
  return (
    <RouteMap
      layers={folded.layers}
      words={folded.words}
      layer={own.layer ?? layers[0]?.id}
      now={Object.fromEntries(Object.entries(now).map(([layer, state]) => [layer, folded.haltOf(state)]))}
      lit={folded.lit(lit)}
      chosen={own.passage === null ? null : folded.lineOf(own.passage)}
      onState={(layer, halt) => {
        const group = folded.groupOf(halt);
        // What stands for several is opened.
        set(
          group === undefined ? { layer, in: { ...own.in, [layer]: halt } } : { layer, folded: own.folded.filter((one) => one !== group) },
        );
      }}
      onPassage={(layer, passage) => set({ layer, passage: own.passage === passage ? null : passage })}
      onLine={(layer, from, to) => {
        // A line to a group would be one to nobody knows which.
        if ([from, to].some((halt) => halt !== null && folded.groupOf(halt) !== undefined)) return;
        const id = newId();
        if (run(callOf(addPassage, { id, layer, from, to, ...NEW_PASSAGE }))) set({ layer, passage: id });
      }}
    />
  );
}
