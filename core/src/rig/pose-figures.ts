/**
 * Volume that a surface encloses: the sum of the tetrahedra from the origin to each triangle. Of an open surface it is a figure that can
 * be compared with itself in another pose, measured about `centre`.
 *
 * @param positions 3 numbers a vertex, metres @param indices 3 a triangle @returns cubic metres, negative where the surface is inside out
 */
export function enclosedVolume(positions: ArrayLike<number>, indices: ArrayLike<number>, centre: ArrayLike<number> = [0, 0, 0]): number {
  let six = 0;
  const [cx, cy, cz] = [centre[0], centre[1], centre[2]];
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const a = 3 * indices[i];
    const b = 3 * indices[i + 1];
    const c = 3 * indices[i + 2];
    const ax = positions[a] - cx;
    const ay = positions[a + 1] - cy;
    const az = positions[a + 2] - cz;
    const bx = positions[b] - cx;
    const by = positions[b + 1] - cy;
    const bz = positions[b + 2] - cz;
    const dx = positions[c] - cx;
    const dy = positions[c + 1] - cy;
    const dz = positions[c + 2] - cz;
    six += ax * (by * dz - bz * dy) + ay * (bz * dx - bx * dz) + az * (bx * dy - by * dx);
  }
  return six / 6;
}
