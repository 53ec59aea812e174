'use client';
import Box from '@mui/material/Box';
import type { MouseEvent, ReactNode } from 'react';

/** A line of a short list on the Card that can be chosen. */
export function ListRow({ chosen, onClick, children }: { chosen: boolean; onClick: (event: MouseEvent) => void; children: ReactNode }) {
  return (
    <Box
      component="button"
      type="button"
      aria-pressed={chosen}
      onClick={onClick}
      sx={{
        border: 0,
        bgcolor: chosen ? 'action.selected' : 'transparent',
        px: 0.75,
        py: 0.25,
        font: 'inherit',
        fontSize: 12.5,
        color: 'inherit',
        cursor: 'pointer',
        width: '100%',
        textAlign: 'left',
      }}
    >
      {children}
    </Box>
  );
}
