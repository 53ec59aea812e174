'use client';
import Button from '@mui/material/Button';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { callOf, setTarget } from '@itchkit/core';
import { RULEBOOKS } from '../rulebooks';
import { useRulebook, useRun } from '../session/context';

/** Which platform the kit is being prepared for. */
export function TargetMenu() {
  const rulebook = useRulebook();
  const run = useRun();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button color="inherit" onClick={(event) => setAnchor(event.currentTarget)} aria-haspopup="menu" aria-expanded={anchor !== null} sx={{ whiteSpace: 'nowrap' }}>
        {rulebook ? `for ${rulebook.title}` : 'Choose a target'} ▾
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {RULEBOOKS.map((one) => (
          <MenuItem
            key={one.id}
            selected={one.id === rulebook?.id}
            onClick={() => {
              setAnchor(null);
              if (one.id !== rulebook?.id) run(callOf(setTarget, { rulebook: one.id, version: one.version }));
            }}
            sx={{ maxWidth: 380, whiteSpace: 'normal' }}
          >
            <ListItemText primary={`${one.title} ${one.version}`} secondary={one.summary} slotProps={{ secondary: { sx: { fontSize: 12 } } }} />
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
