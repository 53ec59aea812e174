import type { Easing } from '@itchkit/core/document';
import { easingShape } from '@itchkit/core/motion';

/** Places at which an easing is drawn. */
const PIECES = 26;

/** How an easing goes from one value to the next, small. */
export function EasingSign({ easing }: { easing: Easing }) {
  const shape = easingShape(easing);
  const path =
    easing === 'hold'
      ? 'M1 11 H27 V3'
      : Array.from({ length: PIECES + 1 }, (_, i) => `${i === 0 ? 'M' : 'L'}${1 + i} ${(11 - 8 * shape(i / PIECES)).toFixed(2)}`).join('');
  return (
    <svg viewBox="0 0 28 14" width={28} height={14} aria-hidden style={{ overflow: 'visible' }}>
      <path d={path} fill="none" stroke="currentColor" strokeWidth={1.5} />
    </svg>
  );
}
