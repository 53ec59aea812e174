'use client';
import Box from '@mui/material/Box';
import { partsInOrder } from '@itchkit/core/document';
import { Empty } from '../../panels/Section';
import { useKit, useRulebook, useUi } from '../../session/context';
import { BindingRowItem } from './BindingRowItem';
import { BindingTable } from './BindingTable';

/** The kit's bindings with a lever each, and the table of the chosen one. */
export function WiringStrip() {
  const kit = useKit();
  const rulebook = useRulebook();
  const chosen = useUi((state) => (state.binding === null ? undefined : kit.bindings[state.binding]));
  const order = new Map(partsInOrder(kit).map((part, i) => [part.id, i]));
  const bindings = Object.values(kit.bindings).sort(
    (a, b) => order.get(a.part)! - order.get(b.part)! || (a.variable < b.variable ? -1 : 1),
  );
  const binding = chosen ?? bindings[0];
  return (
    <Box component="section" aria-label="Bindings" sx={{ height: '100%', display: 'flex', bgcolor: 'kit.sheet', minWidth: 0 }}>
      {bindings.length === 0 ? (
        <Empty>Nothing is bound yet. Choose a part, open a variable on the right, and bind it; its lever and its table stand here.</Empty>
      ) : (
        <>
          <Box sx={{ flex: '1 1 38%', minWidth: 200, overflowY: 'auto', borderRight: 1, borderColor: 'divider' }}>
            {bindings.map((one) => (
              <BindingRowItem
                key={one.id}
                binding={one}
                variable={rulebook?.variables.find((variable) => variable.name === one.variable)}
                chosen={one.id === binding?.id}
              />
            ))}
          </Box>
          <Box sx={{ flex: '1 1 62%', minWidth: 0, overflow: 'auto' }}>
            {binding && (
              <BindingTable
                key={binding.id}
                binding={binding}
                variable={rulebook?.variables.find((variable) => variable.name === binding.variable)}
              />
            )}
          </Box>
        </>
      )}
    </Box>
  );
}
