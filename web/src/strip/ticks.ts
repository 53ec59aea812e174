/** Short upright lines at places along a row, as an SVG path; those that fall on the same pixel once. @param share Of the row's height. */
export function tickPath(xs: readonly number[], height: number, share = 0.5): string {
  const [top, bottom] = [(height * (1 - share)) / 2, (height * (1 + share)) / 2];
  let path = '';
  let before = -Infinity;
  for (const x of xs) {
    const at = Math.round(x);
    if (at === before) continue;
    before = at;
    path += `M${at} ${top}V${bottom}`;
  }
  return path;
}

/** Pixels that a bead wants to itself. */
const ROOM = 9;
/** So few are always drawn one by one. */
const FEW = 24;

/** Whether so many keys in view would lie on one another. */
export function isCrowded(keys: number, { from, to, pixelsPerSecond }: { from: number; to: number; pixelsPerSecond: number }): boolean {
  return keys > FEW && ((to - from) * pixelsPerSecond) / keys < ROOM;
}
