'use client';
import Box from '@mui/material/Box';
import type { PoseFigures } from '@itchkit/core/rig';

/** What a pose does to the body: the change of its volume, and how many pairs of triangles run through one another. */
export function PoseFigure({ figures }: { figures: PoseFigures | undefined }) {
  if (!figures) return null;
  const lost = Math.round(1000 * (figures.volume - 1)) / 10;
  return (
    <Box component="span" className="figures" sx={{ color: Math.abs(lost) > 10 ? 'kit.stop' : 'text.secondary' }}>
      {['−', '±', '+'][Math.sign(lost) + 1]}
      {Math.abs(lost).toFixed(1)} %{figures.crossings > 0 ? `, ${figures.crossings}×` : ''}
    </Box>
  );
}
