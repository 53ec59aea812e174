'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { Empty } from '../../panels/Section';
import { useKit, useRulebook, useUi } from '../../session/context';
import { BindingHead } from './BindingHead';
import { BindingTable } from './BindingTable';
import { boundLevers } from './levers';
import { LeverItem } from './LeverItem';
import { Stations } from './Stations';
import { WayLine } from './WayLine';

/** The variables that parts follow with a lever each, and the stations or the table of the chosen part. */
export function WiringStrip() {
  const kit = useKit();
  const rulebook = useRulebook();
  const id = useUi((state) => state.binding);
  const view = useUi((state) => state.wiring.view);
  const levers = useMemo(() => boundLevers(kit, rulebook), [kit, rulebook]);
  const lever = levers.find(({ bindings }) => bindings.some((one) => one.id === id)) ?? levers[0];
  const binding = lever?.bindings.find((one) => one.id === id) ?? lever?.bindings[0];
  return (
    <Box component="section" aria-label="Bindings" sx={{ height: '100%', display: 'flex', bgcolor: 'kit.sheet', minWidth: 0 }}>
      {!lever || !binding ? (
        <Empty>
          Nothing is bound yet. Choose a part, open a variable on the right, and bind it; its lever and its stations stand here.
        </Empty>
      ) : (
        <>
          <Box sx={{ flex: '1 1 32%', minWidth: 200, overflowY: 'auto', borderRight: 1, borderColor: 'divider' }}>
            {levers.map((one) => (
              <LeverItem key={one.key} lever={one} chosen={binding.id} />
            ))}
          </Box>
          <Box sx={{ flex: '1 1 68%', minWidth: 0, overflow: 'auto', display: 'flex', flexDirection: 'column' }}>
            <BindingHead lever={lever} binding={binding} />
            <WayLine lever={lever} binding={binding} />
            {view === 'table' ? (
              <BindingTable key={binding.id} binding={binding} variable={lever.variable} />
            ) : (
              <Stations key={lever.key} lever={lever} binding={binding} />
            )}
          </Box>
        </>
      )}
    </Box>
  );
}
