import type { Key } from '@itchkit/core/document';
import { easingShape } from '@itchkit/core/motion';

/** Places at which an easing is drawn between two beads. */
const PIECES = 14;

/** The thread between beads, as an SVG path: a step, a line, a wave, or the shape of the easing. */
export function threadPath(keys: readonly Pick<Key, 'time' | 'easing'>[], x: (seconds: number) => number, height: number): string {
  const middle = height / 2;
  const swing = height * 0.28;
  let path = '';
  for (let i = 0; i + 1 < keys.length; i++) {
    const a = x(keys[i].time);
    const b = x(keys[i + 1].time);
    const w = b - a;
    const { easing } = keys[i];
    if (easing === 'hold') path += `M${a} ${middle}V${middle + swing}H${b}V${middle}`;
    else if (easing === 'straight') path += `M${a} ${middle}H${b}`;
    else if (easing === 'curve')
      path += `M${a} ${middle}C${a + w * 0.35} ${middle + 2 * swing} ${b - w * 0.35} ${middle - 2 * swing} ${b} ${middle}`;
    else {
      // How far the easing is from the straight way, twice as large as life.
      const shape = easingShape(easing);
      path += `M${a} ${middle}`;
      for (let piece = 1; piece <= PIECES; piece++) {
        const u = piece / PIECES;
        path += `L${a + w * u} ${middle - Math.max(-1, Math.min(1, 2 * (shape(u) - u))) * swing}`;
      }
    }
  }
  return path;
}
