'use client';
import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { callOf, type Binding } from '@itchkit/core/document';
import { outOfStep, setBinding } from '@itchkit/core/wiring';
import { TryButton } from '../../card/TryButton';
import { twinPairs } from '../../parts/twin-pairs';
import { useKit, useOpenKit } from '../../session/context';

/** Where the twin of what was changed no longer moves as its mirror image: that it does not, and a press that brings it along. */
export function TwinLine({ binding }: { binding: Binding }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const strays = useMemo(() => {
    // Without another part of the variable there is no twin to look for.
    const followed = Object.values(kit.bindings).some((one) => one.variable === binding.variable && one.part !== binding.part);
    try {
      return followed ? outOfStep(kit, binding, twinPairs(kit, session.blobs)) : null;
    } catch {
      return null;
    }
  }, [kit, binding, session]);
  if (!strays) return null;
  const { name } = kit.parts[strays.binding.part];
  return (
    <Box role="status" sx={{ px: 2.5, pb: 0.5, display: 'flex', gap: 1, alignItems: 'center', fontSize: 12.5, color: 'text.secondary' }}>
      Its twin {name} moves otherwise.
      <TryButton
        variant="outlined"
        calls={() => callOf(setBinding, { binding: strays.binding.id, rows: strays.rows, between: strays.between })}
        title={`${name} is to move as the mirror image`}
      >
        Bring it along
      </TryButton>
    </Box>
  );
}
