'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import ChevronRight from '@mui/icons-material/ChevronRight';
import ExpandMore from '@mui/icons-material/ExpandMore';
import { createContext, useContext, useEffect, useRef, useState, type ReactNode } from 'react';

/** Folds that are open, by title: they stay so when another part is chosen. */
const open = new Set<string>();

/** Closes the fold around. */
const Closing = createContext<() => void>(() => undefined);
export const useCloseFold = () => useContext(Closing);

const ASKED = 'itchkit:unfold';

/** Opens the fold of that title, where there is one, and brings it into view with the keyboard in it. */
export function unfold(title: string): void {
  window.dispatchEvent(new CustomEvent<string>(ASKED, { detail: title }));
}

/**
 * A titled block of a panel that can be closed; what is in it is only there while it is open.
 * @param passing Closed again when another part is chosen: it tries something on the bench.
 * @param opens Open at first: nothing else is to be done here.
 */
export function Fold({
  title,
  aside,
  passing = false,
  opens = false,
  children,
}: {
  title: string;
  aside?: ReactNode;
  passing?: boolean;
  opens?: boolean;
  children: ReactNode;
}) {
  const [shown, setShown] = useState(() => opens || (!passing && open.has(title)));
  const toggle = () => {
    if (shown) open.delete(title);
    else if (!passing) open.add(title);
    setShown(!shown);
  };
  const head = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const onAsked = (event: Event) => {
      if ((event as CustomEvent<string>).detail !== title) return;
      if (!passing) open.add(title);
      setShown(true);
      head.current?.focus();
      head.current?.scrollIntoView({ block: 'start' });
    };
    window.addEventListener(ASKED, onAsked);
    return () => window.removeEventListener(ASKED, onAsked);
  }, [title, passing]);
  return (
    <Box component="section" sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <ButtonBase
        ref={head}
        onClick={toggle}
        aria-expanded={shown}
        sx={{ width: '100%', px: 3, py: 1.75, display: 'flex', gap: 1, alignItems: 'center', textAlign: 'left' }}
      >
        <Typography variant="h3" component="h3" sx={{ flex: 1 }}>
          {title}
        </Typography>
        <Box component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {aside}
        </Box>
        {shown ? (
          <ExpandMore sx={{ fontSize: 18, color: 'text.secondary' }} />
        ) : (
          <ChevronRight sx={{ fontSize: 18, color: 'text.secondary' }} />
        )}
      </ButtonBase>
      {shown && (
        <Closing.Provider value={toggle}>
          <Box sx={{ px: 3, pb: 2.5, pt: 0.5, display: 'grid', gap: 2 }}>{children}</Box>
        </Closing.Provider>
      )}
    </Box>
  );
}

/** Buttons side by side, wrapping. */
export function Buttons({ children }: { children: ReactNode }) {
  return <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>{children}</Box>;
}
