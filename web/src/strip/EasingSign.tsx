import type { Easing } from '@itchkit/core';

const PATHS: Record<Easing, string> = {
  hold: 'M1 11 H15 V3 H27',
  straight: 'M1 11 L27 3',
  curve: 'M1 11 C12 11 16 3 27 3',
  bounce: 'M1 11 Q7 -3 11 3 Q15 9 18 3 Q21 7 23 3 Q25 5 27 3',
};

/** The thread between two beads, as the strip draws it. */
export function EasingSign({ easing }: { easing: Easing }) {
  return (
    <svg viewBox="0 0 28 14" width={28} height={14} aria-hidden>
      <path d={PATHS[easing]} fill="none" stroke="currentColor" strokeWidth={1.5} />
    </svg>
  );
}
