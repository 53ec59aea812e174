import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { Arrival } from './use-arrivals';

export function Arrivals({
  list,
  onCancel,
  onDismiss,
}: {
  list: Arrival[];
  onCancel: (key: number) => void;
  onDismiss: (key: number) => void;
}) {
  if (list.length === 0) return null;
  return (
    <Box sx={{ display: 'grid', gap: 2, mb: 5 }}>
      {list.map((one) =>
        one.failure ? (
          <Alert key={one.key} severity="error" variant="outlined" onClose={() => onDismiss(one.key)} sx={{ bgcolor: 'kit.card' }}>
            {one.failure}
          </Alert>
        ) : (
          <Box key={one.key} sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
            <Box sx={{ flex: '0 0 240px', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{one.name}</Box>
            <LinearProgress
              variant={one.share < 1 ? 'determinate' : 'indeterminate'}
              value={100 * one.share}
              aria-label={`Taking in ${one.name}`}
              sx={{ flex: 1 }}
            />
            <Box sx={{ fontSize: 12, width: 80 }}>{one.share < 1 ? `${Math.round(100 * one.share)} % sent` : 'reading …'}</Box>
            <Button onClick={() => onCancel(one.key)}>Cancel</Button>
          </Box>
        ),
      )}
    </Box>
  );
}
