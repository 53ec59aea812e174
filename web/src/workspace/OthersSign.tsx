'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';
import { useOpenKit, useSession } from '../session/context';

/** Who else has the kit in view, by the names of their windows; a click shows this window's own name, to be changed. */
export function OthersSign() {
  const others = useSession((state) => state.others);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (others.length === 0 && anchor === null) return null;
  const names = others.map(({ name }) => name).join(', ');
  return (
    <>
      <Tooltip title={names === '' ? '' : `Also here: ${names}`}>
        <ButtonBase
          aria-label={`Also here: ${names}`}
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={{
            fontSize: 12,
            px: 1.5,
            py: 0.25,
            borderRadius: 4,
            bgcolor: 'kit.paper',
            border: 1,
            borderColor: 'kit.sea',
            whiteSpace: 'nowrap',
          }}
        >
          {others.length === 1 ? `with ${others[0].name}` : `with ${others.length} others`}
        </ButtonBase>
      </Tooltip>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Names onDone={() => setAnchor(null)} />
      </Popover>
    </>
  );
}

function Names({ onDone }: { onDone: () => void }) {
  const { session } = useOpenKit();
  const others = useSession((state) => state.others);
  const [name, setName] = useState(session.windowName);
  const keep = () => {
    if (name.trim() !== session.windowName) session.renameWindow(name);
    onDone();
  };
  return (
    <Box component="form" onSubmit={(event) => (event.preventDefault(), keep())} sx={{ p: 3, width: 280, fontSize: 13 }}>
      <Box sx={{ mb: 1, color: 'text.secondary' }}>Windows with this kit in view</Box>
      <Box component="ul" aria-label="Other windows" sx={{ listStyle: 'none', m: 0, p: 0, mb: 3 }}>
        {others.map(({ window, name: other }) => (
          <li key={window}>{other}</li>
        ))}
        {others.length === 0 && <li>none but this one</li>}
      </Box>
      <TextField
        label="This one’s name"
        size="small"
        fullWidth
        value={name}
        onChange={(event) => setName(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 40 } }}
      />
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', mt: 2 }}>
        <Button type="submit" size="small" variant="contained">
          Done
        </Button>
      </Box>
    </Box>
  );
}
