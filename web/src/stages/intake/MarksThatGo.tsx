'use client';
import Box from '@mui/material/Box';
import type { Clip } from '@itchkit/core/document';
import { marksThatGo } from '@itchkit/core/motion';

/** Says which cues and flags of a clip lie outside of the pieces that are kept. */
export function MarksThatGo({ clip, pieces }: { clip: Clip; pieces: readonly { from: number; to: number }[] }) {
  const said = marksThatGo(clip, pieces);
  return (
    <Box role="status" sx={{ mt: said ? 2 : 0, fontSize: 13, color: 'kit.warn' }}>
      {said}
    </Box>
  );
}
