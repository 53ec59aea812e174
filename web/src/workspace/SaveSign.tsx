'use client';
import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import { useSession } from '../session/context';

const WORDS = {
  saved: 'saved',
  saving: 'saving …',
  waiting: 'saving …',
  offline: 'not saved yet',
  conflict: 'not saved',
  refused: 'not saved',
} as const;

export function SaveSign() {
  const save = useSession((state) => state.save);
  const message = useSession((state) => state.saveMessage);
  const bad = save === 'offline' || save === 'conflict' || save === 'refused';
  return (
    <Tooltip title={message ?? (save === 'saved' ? 'Every change is on the server.' : '')}>
      <Box
        component="span"
        role="status"
        data-save={save}
        tabIndex={bad ? 0 : undefined}
        sx={{ fontSize: 12, whiteSpace: 'nowrap', color: bad ? 'kit.stop' : 'text.secondary', fontWeight: bad ? 600 : 400, minWidth: 52 }}
      >
        {WORDS[save]}
      </Box>
    </Tooltip>
  );
}
