'use client';
import Box from '@mui/material/Box';
import { count } from '@itchkit/core/document';
import type { PoseFigures } from '@itchkit/core/rig';

/** What a pose does to the body, in words: how much of its volume it loses or gains, and in how many places it runs through itself. */
export function poseInWords({ volume, crossings }: PoseFigures): string {
  const change = Math.round(1000 * (volume - 1)) / 10;
  const size = change === 0 ? 'keeps its volume' : `${change < 0 ? 'loses' : 'gains'} ${Math.abs(change).toFixed(1)} %`;
  return crossings === 0 ? size : `${size}, runs through itself in ${count(crossings, 'place')}`;
}

/** A pose's words beside its name. */
export function PoseFigure({ figures }: { figures: PoseFigures | undefined }) {
  if (!figures) return null;
  const lost = Math.round(1000 * (figures.volume - 1)) / 10;
  return (
    <Box component="span" className="figures" sx={{ fontSize: 12, color: Math.abs(lost) > 10 ? 'kit.stop' : 'text.secondary' }}>
      {poseInWords(figures)}
    </Box>
  );
}
