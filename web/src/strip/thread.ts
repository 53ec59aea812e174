import type { Key } from '@itchkit/core';

/** The thread between beads, as an SVG path: a step, a line, a wave or hops. */
export function threadPath(keys: readonly Key[], x: (seconds: number) => number, height: number): string {
  const middle = height / 2;
  const swing = height * 0.28;
  let path = '';
  for (let i = 0; i + 1 < keys.length; i++) {
    const a = x(keys[i].time);
    const b = x(keys[i + 1].time);
    const w = b - a;
    if (keys[i].easing === 'hold') path += `M${a} ${middle}V${middle + swing}H${b}V${middle}`;
    else if (keys[i].easing === 'straight') path += `M${a} ${middle}H${b}`;
    else if (keys[i].easing === 'curve') path += `M${a} ${middle}C${a + w * 0.35} ${middle + 2 * swing} ${b - w * 0.35} ${middle - 2 * swing} ${b} ${middle}`;
    else
      path += `M${a} ${middle}Q${a + w * 0.18} ${middle - 2.6 * swing} ${a + w * 0.36} ${middle}Q${a + w * 0.54} ${middle - 1.9 * swing} ${a + w * 0.72} ${middle}Q${a + w * 0.86} ${middle - 1.1 * swing} ${b} ${middle}`;
  }
  return path;
}
