'use client';
import Box from '@mui/material/Box';
import { useKit, useUi } from '../session/context';
import type { BenchStage } from './bench-stage';

/**
 * Says on the bench whether a drag changes the model or a clip, and what is tried there.
 * @param says What the tried operation would change.
 */
export function BenchSign({ stage, says }: { stage: BenchStage; says: string }) {
  const kit = useKit();
  const text = useUi((state) => stage.sign({ kit, state, says }));
  if (!text) return null;
  return (
    <Box
      sx={{
        position: 'absolute',
        top: 8,
        left: 8,
        px: 2,
        py: 0.75,
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'kit.signal',
        borderRadius: 1,
        fontSize: 12,
        pointerEvents: 'none',
      }}
      role="status"
    >
      {text}
    </Box>
  );
}
