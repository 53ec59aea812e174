/** Between turns further apart than this, as the cosine of half their angle, sines are worked out. */
const FAR = 0.97;
/** Nearer than this the straight way is within 10⁻⁵ radians of the arc. */
const NEAR = 0.999;

/**
 * Writes the turns between two rows of quaternions, each along the shorter arc (Shoemake 1985), of unit length. All in one loop: a call
 * for each would leave numbers on the heap.
 *
 * @param rows Quaternions, 4 numbers each. @param first Where the earlier row begins. @param second Where the later one does.
 * @param along How far it is from the one to the other, 0 to 1, at its first place. @param out Where they go, each at its place of `to`.
 */
export function blendTurns(
  rows: Float32Array,
  first: number,
  second: number,
  along: Float64Array,
  out: Float64Array,
  to: Int32Array,
): void {
  for (let t = 0; t < to.length; t++) {
    const a = first + 4 * t;
    const b = second + 4 * t;
    const o = to[t];
    const ax = rows[a];
    const ay = rows[a + 1];
    const az = rows[a + 2];
    const aw = rows[a + 3];
    const bx = rows[b];
    const by = rows[b + 1];
    const bz = rows[b + 2];
    const bw = rows[b + 3];
    const dot = ax * bx + ay * by + az * bz + aw * bw;
    const near = dot < 0 ? -dot : dot;
    let on = along[0];
    let from = 1 - on;
    if (near < FAR) {
      const angle = Math.acos(near);
      const sine = Math.sqrt(1 - near * near);
      from = Math.sin(from * angle) / sine;
      on = Math.sin(on * angle) / sine;
    } else if (near < NEAR) {
      // sin(t·θ) / sin θ without a sine, from cos θ − 1: the first terms of its series in it (Eberly 2011, "A fast and accurate algorithm
      // for computing SLERP"); from 0.97 on it is right to 3·10⁻⁸.
      const c = near - 1;
      const last = 1 - (3 / 7) * c;
      const s = from * from;
      const r = on * on;
      from *= 1 + (s - 1) * (1 / 3) * c * (1 + (0.1 * s - 0.4) * c * (last + (1 / 21) * c * s));
      on *= 1 + (r - 1) * (1 / 3) * c * (1 + (0.1 * r - 0.4) * c * (last + (1 / 21) * c * r));
    }
    if (dot < 0) on = -on;
    const x = from * ax + on * bx;
    const y = from * ay + on * by;
    const z = from * az + on * bz;
    const w = from * aw + on * bw;
    const square = x * x + y * y + z * z + w * w;
    // A step of Newton's is enough where it is nearly of unit length; what it leaves is below 4·10⁻⁷.
    const scale = square > 0.999 && square < 1.001 ? 1.5 - 0.5 * square : 1 / (Math.sqrt(square) || 1);
    out[o] = x * scale;
    out[o + 1] = y * scale;
    out[o + 2] = z * scale;
    out[o + 3] = w * scale;
  }
}
