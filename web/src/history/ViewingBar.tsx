'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { formatAgo } from '../format';
import { useOpenKit, useSession } from '../session/context';

/** Says that an old revision is in view, and leads back or makes it the newest. */
export function ViewingBar() {
  const { session } = useOpenKit();
  const viewing = useSession((state) => state.viewing);
  if (!viewing) return null;
  return (
    <Box
      role="status"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 3,
        px: 4,
        py: 1,
        fontSize: 13.5,
        bgcolor: 'kit.card',
        borderBottom: 2,
        borderColor: 'kit.warn',
      }}
    >
      <Box sx={{ flex: 1 }}>
        Revision <span className="figures">{viewing.number}</span>, {formatAgo(viewing.at)}: {viewing.cause}. It is only looked at; nothing
        can be changed.
      </Box>
      <Button onClick={() => session.leaveView()}>Back to now</Button>
      <Button variant="contained" onClick={() => session.restoreViewed()}>
        Restore this revision
      </Button>
    </Box>
  );
}
