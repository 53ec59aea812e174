'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';

/** How far a job is, and the way out of it. */
export function JobProgress({ label, share, onCancel }: { label: string; share: number; onCancel: () => void }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', alignItems: 'center', gap: 1.5 }}>
      <Box>
        <Box role="status" sx={{ fontSize: 12.5, mb: 0.5 }}>
          {label} <span className="figures">{Math.round(100 * share)} %</span>
        </Box>
        <LinearProgress variant="determinate" value={100 * share} aria-label={label} />
      </Box>
      <Button size="small" onClick={onCancel}>
        Cancel
      </Button>
    </Box>
  );
}
