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
