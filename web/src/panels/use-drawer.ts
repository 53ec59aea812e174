'use client';
import { useEffect, useRef, type RefObject } from 'react';

/** Something that lies over everything else and takes Esc for itself: a dialog, a menu, a list of choices. */
const OVER_ALL = '.MuiModal-root:not([aria-hidden=true])';

/**
 * A drawer that lets the rest be used beside it: it takes the keyboard as it opens, and Esc closes it wherever the keyboard is, before Esc
 * lets go of anything else.
 */
export function useDrawer(onClose: () => void): RefObject<HTMLDivElement | null> {
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
  return paper;
}
