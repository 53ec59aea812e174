import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react';
import type { Id } from '@itchkit/core/document';

/** The bead that had the keyboard as it went away: its track, and which of the chosen ones it was. */
let went: { track: Id; order: number } | null = null;

/**
 * A key that is moved is another bead: the keyboard goes along with it.
 *
 * @param order Which of the chosen keys it is; -1 where it is not chosen
 */
export function useFocusAlong(bead: RefObject<HTMLElement | null>, track: Id, order: number): void {
  const last = useRef(order);
  useEffect(() => {
    last.current = order;
  });
  useLayoutEffect(() => {
    const own = bead.current;
    return () => {
      // Read as it is then: a bead that goes is told by where it stood among the chosen ones.
      if (own === document.activeElement && last.current >= 0) went = { track, order: last.current };
    };
  }, [bead, track]);
  useLayoutEffect(() => {
    if (order < 0 || went?.track !== track || went.order !== order) return;
    went = null;
    if (document.activeElement === document.body) bead.current?.focus({ preventScroll: true });
  }, [bead, track, order]);
}
