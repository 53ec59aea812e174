'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { Empty } from '../../panels/Section';
import { useKit, useRulebook, useUi } from '../../session/context';
import { BehaviourStrip } from './behaviour/BehaviourStrip';
import { BindingHead } from './BindingHead';
import { BindingTable } from './BindingTable';
import { Definition } from './Definition';
import { GroundsStrip } from './grounds/GroundsStrip';
import { boundLevers, inView } from './levers';
import { LeverItem } from './LeverItem';
import { Stations } from './Stations';
import { TwinLine } from './TwinLine';
import { WayLine } from './WayLine';

/** The variables that parts follow with a lever each, and the stations or the table of the chosen part. */
export function WiringStrip() {
  const kit = useKit();
  const rulebook = useRulebook();
  const id = useUi((state) => state.binding);
  const view = useUi((state) => state.wiring.view);
  const levers = useMemo(() => boundLevers(kit, rulebook), [kit, rulebook]);
  const found = inView(levers, id);
  if (rulebook?.behaviours && levers.length === 0) return <BehaviourStrip rulebook={rulebook} />;
  if (rulebook?.grounds && levers.length === 0) return <GroundsStrip rulebook={rulebook} />;
  return (
    <Box component="section" aria-label="Bindings" sx={{ height: '100%', display: 'flex', bgcolor: 'kit.sheet', minWidth: 0 }}>
      {levers.length === 0 ? (
        <Empty>
          Nothing is bound yet. Choose a part, open a variable on the right, and bind it; its lever and its stations stand here.
        </Empty>
      ) : (
        <>
          <Box sx={{ flex: '1 1 32%', minWidth: 200, overflowY: 'auto', borderRight: 1, borderColor: 'divider' }}>
            {levers.map((one) => (
              <LeverItem key={one.key} lever={one} chosen={found?.binding.id} />
            ))}
          </Box>
          {found && (
            <Box sx={{ flex: '1 1 68%', minWidth: 0, overflow: 'auto', display: 'flex', flexDirection: 'column' }}>
              <BindingHead {...found} curves={rulebook?.tableCurves === true} />
              <WayLine {...found} />
              <TwinLine binding={found.binding} />
              {view === 'table' && <BindingTable key={found.binding.id} binding={found.binding} variable={found.lever.variable} />}
              {view === 'stations' && <Stations key={found.lever.key} {...found} />}
              {view === 'text' && rulebook && <Definition rulebook={rulebook} />}
            </Box>
          )}
        </>
      )}
    </Box>
  );
}
