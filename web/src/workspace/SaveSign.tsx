'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import { useOpenKit, useSession } from '../session/context';

const WORDS = {
  saved: 'saved',
  saving: 'saving …',
  waiting: 'saving …',
  offline: 'not saved yet',
  conflict: 'not saved',
  refused: 'not saved',
} as const;

/** How the latest changes stand with the server. While it is away, a click tries at once. */
export function SaveSign() {
  const { session } = useOpenKit();
  const save = useSession((state) => state.save);
  const message = useSession((state) => state.saveMessage);
  const bad = save === 'offline' || save === 'conflict' || save === 'refused';
  const hint = save === 'offline' ? `${message} Click to try now.` : message;
  const sign = (
    <Box
      component="span"
      role="status"
      data-save={save}
      tabIndex={bad && save !== 'offline' ? 0 : undefined}
      sx={{ fontSize: 12, whiteSpace: 'nowrap', color: bad ? 'kit.stop' : 'text.secondary', fontWeight: bad ? 600 : 400, minWidth: 52 }}
    >
      {WORDS[save]}
    </Box>
  );
  return (
    <Tooltip title={hint ?? (save === 'saved' ? 'Every change is on the server.' : '')}>
      {save === 'offline' ? (
        <ButtonBase aria-label="Not saved yet: try now" onClick={() => void session.flush()}>
          {sign}
        </ButtonBase>
      ) : (
        sign
      )}
    </Tooltip>
  );
}
