'use client';
import Box from '@mui/material/Box';
import { useEffect } from 'react';
import { addLayer, addState } from '@itchkit/core/behaviour';
import { callOf, clipsInOrder, count, newId, type Call, type Kit } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { TryButton } from '../../../card/TryButton';
import { Buttons, Fold } from '../../../panels/Fold';
import { ListRow } from '../../../panels/ListRow';
import { useKit, useOpenKit, useSetSlice, useUi } from '../../../session/context';
import { OwnVariables } from '../OwnVariables';
import { BesideSection } from './BesideSection';
import { LayerFields } from './LayerFields';
import { MixSection } from './MixSection';
import { freshName } from './beginnings';
import { PassageSection } from './PassageSection';
import { showing } from './shown-things';
import { StatesSection } from './StatesSection';

const small = { fontSize: 12.5, color: 'text.secondary', lineHeight: 1.5 };

/** A state for each clip: the first is the one that stands still, what is played once comes back to it. */
function beginning(kit: Kit): Call[] {
  const clips = clipsInOrder(kit);
  const first = clips.find(({ name }) => /idle|stand/i.test(name)) ?? clips[0];
  const layer = newId();
  return [
    callOf(addLayer, { id: layer, name: 'Body', state: first?.name ?? 'still', clip: first?.id ?? null }),
    ...clips
      .filter((clip) => clip !== first)
      .map((clip) =>
        callOf(addState, { layer, name: clip.name, clip: clip.id, speed: 1, loop: clip.loop === 'loop' || clip.loop === 'ping-pong' }),
      ),
  ];
}

/** Layers, the states of the chosen one, and the passage that is worked on. */
export function BehaviourCard({ rulebook }: { rulebook: Rulebook }) {
  const kit = useKit();
  const set = useSetSlice('behaviour');
  const own = useUi((state) => state.behaviour);
  // What a finding is about, pressed in the Ledger.
  const { ui } = useOpenKit();
  const shown = useUi((state) => state.shown);
  useEffect(() => {
    const now = ui.getState().behaviour;
    if (shown.nonce !== now.shown) set({ ...showing(kit, shown.things, now), shown: shown.nonce });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each press, not at each change of the kit
  }, [shown]);
  const layers = kit.behaviour?.layers ?? [];
  const layer = layers.find(({ id }) => id === own.layer) ?? layers[0];
  return (
    <>
      <Fold title="Layers" opens={layers.length === 0} aside={layers.length === 0 ? 'none' : layers.length}>
        {layers.length === 0 && <Box sx={small}>What plays when is said in layers of states; passages lead from one to another.</Box>}
        {layers.length > 0 && (
          <Box component="ul" aria-label="Layers" sx={{ listStyle: 'none', m: 0, p: 0 }}>
            {layers.map((one) => (
              <li key={one.id}>
                <ListRow chosen={one === layer} onClick={() => set({ layer: one.id, passage: null })}>
                  {one.name}
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    , {count(one.states.length, 'state')}, {one.how === 'adds' ? 'on top of those before' : 'instead of those before'}
                  </Box>
                </ListRow>
              </li>
            ))}
          </Box>
        )}
        {layer && <LayerFields key={layer.id} layer={layer} parameters={rulebook.behaviours!.parameters} />}
        <Buttons>
          {layers.length === 0 ? (
            <TryButton variant="contained" calls={() => beginning(kit)} step="Begin with a state for each clip">
              Begin with a state for each clip
            </TryButton>
          ) : (
            <TryButton calls={() => callOf(addLayer, { name: freshName('Layer', layers), state: 'nothing', clip: null })}>
              Add a layer
            </TryButton>
          )}
        </Buttons>
      </Fold>
      {layer && <StatesSection layer={layer} parameters={rulebook.behaviours!.parameters} />}
      <MixSection parameters={rulebook.behaviours!.parameters} />
      {layer && <PassageSection layer={layer} parameters={rulebook.behaviours!.parameters} />}
      {rulebook.variables.length === 0 && <OwnVariables rulebook={rulebook} />}
      <BesideSection parameters={rulebook.behaviours!.parameters} />
    </>
  );
}
