'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { useEffect, useRef, useState, type ReactNode } from 'react';

const ROW = 40;

/** The tools of a stage in one row; what has no room there stands below in further rows, which a button opens over the bench. */
export function ToolRow({ children }: { children: ReactNode }) {
  const row = useRef<HTMLDivElement>(null);
  const [more, setMore] = useState(0);
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const own = row.current!;
    const measure = () => {
      const below = [...own.children].filter((child) => (child as HTMLElement).offsetTop >= ROW / 2).length;
      setMore(below);
      if (below === 0) setOpen(false);
    };
    const sizes = new ResizeObserver(measure);
    sizes.observe(own);
    const contents = new MutationObserver(measure);
    contents.observe(own, { childList: true, characterData: true, subtree: true });
    measure();
    return () => {
      sizes.disconnect();
      contents.disconnect();
    };
  }, []);
  return (
    <Box
      role="toolbar"
      aria-label="Tools of this stage"
      // What the keyboard comes to is seen.
      onFocus={({ target }) => target.offsetTop >= ROW / 2 && setOpen(true)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !open) return;
        event.stopPropagation();
        setOpen(false);
      }}
      sx={{ position: 'relative', height: ROW, flex: '0 0 auto', zIndex: open ? 3 : undefined }}
    >
      <Box
        sx={{
          position: 'absolute',
          inset: '0 0 auto 0',
          height: open ? 'auto' : ROW,
          overflow: 'hidden',
          display: 'flex',
          bgcolor: 'kit.sheet',
          borderBottom: 1,
          borderColor: 'divider',
          boxShadow: open ? 3 : 0,
        }}
      >
        <Box
          ref={row}
          sx={{
            position: 'relative',
            flex: 1,
            minWidth: 0,
            px: 1,
            display: 'flex',
            flexWrap: 'wrap',
            alignItems: 'center',
            alignContent: 'flex-start',
            columnGap: 0.5,
            '& > *': { minHeight: ROW - 1 },
            '& > span': { display: 'inline-flex', alignItems: 'center' },
          }}
        >
          {children}
        </Box>
        {more > 0 && (
          <Tooltip title={open ? 'Only the first row' : `${more} more`} describeChild>
            <IconButton
              aria-label="More tools"
              aria-expanded={open}
              onClick={() => setOpen(!open)}
              sx={{ width: ROW, height: ROW - 1, borderRadius: 0, flex: '0 0 auto' }}
            >
              <ExpandMore sx={{ fontSize: 20, transform: open ? 'rotate(180deg)' : 'none' }} />
            </IconButton>
          </Tooltip>
        )}
      </Box>
    </Box>
  );
}
