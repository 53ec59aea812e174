import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** A titled block of a panel. */
export function Section({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <Box component="section" sx={{ px: 3, py: 2.5, borderBottom: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 1.5 }}>
        <Typography variant="h3" component="h3" sx={{ flex: 1 }}>
          {title}
        </Typography>
        {aside}
      </Box>
      {children}
    </Box>
  );
}

/** A line of a list of facts. */
export function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 2, py: 0.5, fontSize: 13 }}>
      <Box component="span" sx={{ color: 'text.secondary', flex: '0 0 92px' }}>
        {name}
      </Box>
      <Box component="span" sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
        {children}
      </Box>
    </Box>
  );
}

export function Empty({ children }: { children: ReactNode }) {
  return <Box sx={{ px: 3, py: 3, color: 'text.secondary', fontSize: 13, lineHeight: 1.5 }}>{children}</Box>;
}
