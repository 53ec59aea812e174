/**
 * For every point the one that is its mirror image across a plane, or −1: itself where it lies in the plane.
 *
 * @param points 3 numbers each @param axis Across which the plane lies @param at Where, metres @param tolerance Metres.
 */
export function mirrorPlaces(points: ArrayLike<number>, axis: number, at: number, tolerance: number): Int32Array {
  const count = points.length / 3;
  const side = Math.max(tolerance, 1e-9) * 2;
  const cells = new Map<string, number[]>();
  const cellOf = (x: number, y: number, z: number) => `${Math.floor(x / side)}/${Math.floor(y / side)}/${Math.floor(z / side)}`;
  for (let i = 0; i < count; i++) {
    const key = cellOf(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  }
  const twin = new Int32Array(count).fill(-1);
  const want = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < 3; k++) want[k] = k === axis ? 2 * at - points[3 * i + k] : points[3 * i + k];
    let best = tolerance * tolerance;
    for (let c = 0; c < 27; c++) {
      const near = cells.get(cellOf(want[0] + ((c % 3) - 1) * tolerance, want[1] + ((Math.floor(c / 3) % 3) - 1) * tolerance, want[2] + (Math.floor(c / 9) - 1) * tolerance));
      for (const other of near ?? []) {
        const square = (points[3 * other] - want[0]) ** 2 + (points[3 * other + 1] - want[1]) ** 2 + (points[3 * other + 2] - want[2]) ** 2;
        if (square <= best && (square < best || twin[i] < 0)) [best, twin[i]] = [square, other];
      }
    }
  }
  // Only pairs that find one another: the image of the image is the point itself.
  for (let i = 0; i < count; i++) if (twin[i] >= 0 && twin[twin[i]] !== i) twin[i] = -1;
  return twin;
}
