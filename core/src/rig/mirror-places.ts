/**
 * For every point the one that is its mirror image across a plane, or −1: itself where it lies in the plane.
 *
 * @param points 3 numbers each @param axis Across which the plane lies @param at Where, metres @param tolerance Metres.
 */
export function mirrorPlaces(points: ArrayLike<number>, axis: number, at: number, tolerance: number): Int32Array {
  const count = points.length / 3;
  const side = Math.max(tolerance, 1e-9) * 4;
  // Cells by a hash of their numbers: what shares one by chance is only looked at in vain.
  const hash = (x: number, y: number, z: number) => Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
  const cells = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const key = hash(Math.floor(points[3 * i] / side), Math.floor(points[3 * i + 1] / side), Math.floor(points[3 * i + 2] / side));
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  }
  const twin = new Int32Array(count).fill(-1);
  const want = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < 3; k++) want[k] = k === axis ? 2 * at - points[3 * i + k] : points[3 * i + k];
    let best = tolerance * tolerance;
    const [x0, x1] = [Math.floor((want[0] - tolerance) / side), Math.floor((want[0] + tolerance) / side)];
    const [y0, y1] = [Math.floor((want[1] - tolerance) / side), Math.floor((want[1] + tolerance) / side)];
    const [z0, z1] = [Math.floor((want[2] - tolerance) / side), Math.floor((want[2] + tolerance) / side)];
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++)
          for (const other of cells.get(hash(x, y, z)) ?? []) {
            const square =
              (points[3 * other] - want[0]) ** 2 + (points[3 * other + 1] - want[1]) ** 2 + (points[3 * other + 2] - want[2]) ** 2;
            if (square <= best && (square < best || twin[i] < 0)) [best, twin[i]] = [square, other];
          }
  }
  // Only pairs that find one another: the image of the image is the point itself.
  for (let i = 0; i < count; i++) if (twin[i] >= 0 && twin[twin[i]] !== i) twin[i] = -1;
  return twin;
}
