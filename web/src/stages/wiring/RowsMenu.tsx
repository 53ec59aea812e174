'use client';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import ArrowDropDown from '@mui/icons-material/ArrowDropDown';
import { useState } from 'react';
import type { Binding } from '@itchkit/core/document';
import { useTrying } from '../../card/TryButton';
import { useOpenKit, useRulebook, useRun } from '../../session/context';
import type { BoundLever } from './levers';
import { PasteRowsDialog } from './PasteRowsDialog';
import { tableTools } from './wiring-commands';

/** What can be done to a table as a whole; each is tried on the bench while the pointer rests on it. */
export function RowsMenu({ binding, lever }: { binding: Binding; lever: BoundLever }) {
  const { session, ui } = useOpenKit();
  const rulebook = useRulebook();
  const run = useRun();
  const { trying, stop } = useTrying();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [pasting, setPasting] = useState(false);
  const close = () => {
    setAnchor(null);
    stop();
  };
  return (
    <>
      <Button color="inherit" endIcon={<ArrowDropDown />} aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)}>
        Rows
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        {anchor !== null &&
          tableTools({ session, ui, rulebook, run }).map(({ id, title, blocked, calls, run: does }) => (
            <MenuItem
              key={id}
              dense
              disabled={!!blocked}
              {...(blocked || !calls ? {} : trying(calls))}
              onClick={() => {
                close();
                does();
              }}
            >
              {title}
            </MenuItem>
          ))}
        <Divider />
        <MenuItem
          dense
          onClick={() => {
            close();
            setPasting(true);
          }}
        >
          Paste rows …
        </MenuItem>
      </Menu>
      {pasting && <PasteRowsDialog binding={binding} lever={lever} onClose={() => setPasting(false)} />}
    </>
  );
}
