import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** Controls of a trial that belong together, below their title. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box role="group" aria-label={title} sx={{ display: 'grid', gap: 1.5, flex: 'none' }}>
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{title}</Box>
      {children}
    </Box>
  );
}
