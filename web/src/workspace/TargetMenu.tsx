'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import IconButton from '@mui/material/IconButton';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import Close from '@mui/icons-material/Close';
import NextLink from 'next/link';
import { useState } from 'react';
import { callOf, dropTarget, setTarget } from '@itchkit/core/document';
import { allRulebooks, newestOf, rulebookOf } from '../rulebooks';
import { MoveVersion } from './MoveVersion';
import { useKit, useRulebook, useRun } from '../session/context';

const SHOWN_AS = ['in view', 'a further target of this kit'];

/** Which platforms the kit is being prepared for; the one in view stands on the button. */
export function TargetMenu() {
  const rulebook = useRulebook();
  const { targets } = useKit();
  const run = useRun();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [moving, setMoving] = useState(false);
  const close = () => setAnchor(null);
  const others = allRulebooks().filter((one) => !targets.some((target) => target.rulebook === one.id));
  const newest = targets[0] && newestOf(targets[0].rulebook);
  const newer = newest && newest.version !== targets[0].version ? newest : undefined;
  return (
    <>
      <Button
        color="inherit"
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        sx={{ whiteSpace: 'nowrap' }}
      >
        {targets[0] ? `for ${rulebook?.title ?? targets[0].rulebook}` : 'Choose a target'} ▾
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close} slotProps={{ paper: { sx: { width: 390 } } }}>
        {targets.map((target, i) => (
          <MenuItem
            key={target.rulebook}
            selected={i === 0}
            onClick={() => {
              close();
              if (i > 0) run(callOf(setTarget, target));
            }}
          >
            <ListItemText
              primary={`${rulebookOf(target)?.title ?? target.rulebook} ${target.version}`}
              secondary={rulebookOf(target) ? SHOWN_AS[Math.min(i, 1)] : 'this rulebook is not here; import it again'}
              slotProps={{ secondary: { sx: { fontSize: 12 } } }}
            />
            <Tooltip title="No longer a target">
              <IconButton
                size="small"
                aria-label={`No longer prepare for ${rulebookOf(target)?.title ?? target.rulebook}`}
                onClick={(event) => {
                  event.stopPropagation();
                  close();
                  run(callOf(dropTarget, { rulebook: target.rulebook }));
                }}
              >
                <Close sx={{ fontSize: 15 }} />
              </IconButton>
            </Tooltip>
          </MenuItem>
        ))}
        {newer && (
          <MenuItem
            onClick={() => {
              close();
              setMoving(true);
            }}
            sx={{ color: 'kit.sea' }}
          >
            Version {newer.version} is there: see what changes …
          </MenuItem>
        )}
        {targets.length > 0 && <Divider />}
        {others.length > 0 && (
          <Box sx={{ px: 4, pt: 1, fontSize: 12, color: 'text.secondary' }}>
            {targets.length > 0 ? 'Prepare for another one too' : 'Prepare for'}
          </Box>
        )}
        {others.map((one) => (
          <MenuItem
            key={one.id}
            onClick={() => {
              close();
              run(callOf(setTarget, { rulebook: one.id, version: one.version }));
            }}
            sx={{ whiteSpace: 'normal' }}
          >
            <ListItemText
              primary={`${one.title} ${one.version}`}
              secondary={one.summary}
              slotProps={{ secondary: { sx: { fontSize: 12 } } }}
            />
          </MenuItem>
        ))}
        <Divider />
        <MenuItem component={NextLink} href={rulebook ? `/rulebooks/${rulebook.id}` : '/rulebooks'}>
          {rulebook ? `Read the rulebook of ${rulebook.title}` : 'All rulebooks'}
        </MenuItem>
      </Menu>
      {moving && newer && rulebook && <MoveVersion from={rulebook} to={newer} onClose={() => setMoving(false)} />}
    </>
  );
}
