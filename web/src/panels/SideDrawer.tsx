'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Drawer from '@mui/material/Drawer';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, type ReactNode } from 'react';

/** Something that lies over everything else and takes Esc for itself: a dialog, a menu, a list of choices. */
const OVER_ALL = '.MuiModal-root:not([aria-hidden=true])';

/**
 * A drawer at the side that lets the rest be used beside it: it takes the keyboard as it opens, and Esc closes it wherever the keyboard
 * is, before Esc lets go of anything else.
 */
export function SideDrawer({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const paper = useRef<HTMLDivElement>(null);
  const close = useRef(onClose);
  useEffect(() => {
    close.current = onClose;
  });
  useEffect(() => {
    paper.current?.focus();
    const escape = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.isComposing || document.querySelector(OVER_ALL)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      close.current();
    };
    window.addEventListener('keydown', escape, { capture: true });
    return () => window.removeEventListener('keydown', escape, { capture: true });
  }, []);
  return (
    <Drawer
      anchor="right"
      open
      onClose={onClose}
      hideBackdrop
      variant="persistent"
      slotProps={{
        paper: {
          ref: paper,
          tabIndex: -1,
          sx: { width: 340, p: 4, gap: 3, bgcolor: 'kit.sheet', outline: 0 },
          role: 'dialog',
          'aria-label': title,
        } as object,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {title}
        </Typography>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </Box>
      {children}
    </Drawer>
  );
}
