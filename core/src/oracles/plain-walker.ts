import type { Vec3 } from '../document';
import type { WalkRules } from '../grounds';

/** Places of the lattice stand this far apart, metres. */
const SPACING = 0.1;
/** A person is looked at every so much of their height. */
const SLICE = 0.09;

/**
 * A walker who knows triangles alone, and no columns: feet on what a plumb line meets, a round body that no triangle comes into, no step
 * too high, no nearer to a drop than half a person is wide.
 */
export class PlainWalker {
  private readonly boxes: number[][];

  /** @param triangles Nine numbers each. @param radius How wide a body is taken to be. */
  constructor(
    private readonly triangles: readonly number[],
    private readonly rules: WalkRules,
    private readonly radius: number,
    private readonly half: number,
  ) {
    this.boxes = [];
    for (let t = 0; t < triangles.length; t += 9) {
      const [xs, zs] = [0, 2].map((axis) => [triangles[t + axis], triangles[t + 3 + axis], triangles[t + 6 + axis]]);
      this.boxes.push([Math.min(...xs), Math.max(...xs), Math.min(...zs), Math.max(...zs)]);
    }
  }

  /** Heights of everything over a place, the ground among them, each with whether it is flat enough to stand on. */
  private *surfaces(x: number, z: number): Generator<[number, boolean]> {
    yield [0, true];
    for (let k = 0; k < this.boxes.length; k++) {
      const [x0, x1, z0, z1] = this.boxes[k];
      if (x < x0 - 1e-9 || x > x1 + 1e-9 || z < z0 - 1e-9 || z > z1 + 1e-9) continue;
      const t = this.triangles.slice(9 * k, 9 * k + 9);
      const e = [t[3] - t[0], t[4] - t[1], t[5] - t[2]];
      const f = [t[6] - t[0], t[7] - t[1], t[8] - t[2]];
      const d = e[0] * f[2] - f[0] * e[2];
      if (Math.abs(d) < 1e-12) continue;
      const u = ((x - t[0]) * f[2] - (z - t[2]) * f[0]) / d;
      const v = ((z - t[2]) * e[0] - (x - t[0]) * e[2]) / d;
      if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
      const normal = Math.hypot(e[1] * f[2] - e[2] * f[1], d, e[0] * f[1] - e[1] * f[0]);
      yield [t[1] + u * e[1] + v * f[1], Math.abs(d) / normal >= Math.cos((this.rules.slope * Math.PI) / 180)];
    }
  }

  /** Heights at which feet can be at a place. */
  stands(x: number, z: number): number[] {
    return [...this.surfaces(x, z)].flatMap(([y, flat]) => (flat && y > -1e-6 && this.fits(x, y, z) ? [y] : []));
  }

  /** Whether a body fits over some feet, and no drop is too near. */
  fits(x: number, y: number, z: number): boolean {
    const { step, height, drop } = this.rules;
    for (let k = 0; k < this.boxes.length; k++) {
      const [x0, x1, z0, z1] = this.boxes[k];
      if (x < x0 - this.radius || x > x1 + this.radius || z < z0 - this.radius || z > z1 + this.radius) continue;
      if (this.comesInto(9 * k, x, y + step, y + height, z)) return false;
    }
    for (let i = 0; i < 16; i++) {
      const [rx, rz] = [x + this.radius * Math.cos((i * Math.PI) / 8), z + this.radius * Math.sin((i * Math.PI) / 8)];
      let under = -Infinity;
      for (const [other] of this.surfaces(rx, rz)) if (other <= y + step + 1e-6) under = Math.max(under, other);
      if (y - under > drop) return false;
    }
    return true;
  }

  /** Whether a triangle comes into an upright round body: its nearest place to each slice's middle, on the slice's height. */
  private comesInto(t: number, x: number, low: number, high: number, z: number): boolean {
    const c = this.triangles;
    const ys = [c[t + 1], c[t + 4], c[t + 7]];
    const from = Math.max(low, Math.min(...ys));
    const to = Math.min(high, Math.max(...ys));
    if (from > to) return false;
    const slices = Math.max(1, Math.ceil((to - from) / SLICE));
    for (let i = 0; i <= slices; i++) if (this.sliceDistance(t, from + ((to - from) * i) / slices, x, z) < this.radius) return true;
    return false;
  }

  /** How far the line in which a level plane cuts a triangle is from a place on that plane; 0 within a triangle that lies in it. */
  private sliceDistance(t: number, y: number, x: number, z: number): number {
    const c = this.triangles;
    const ends: number[][] = [];
    for (let i = 0; i < 3; i++) {
      const [a, b] = [t + 3 * i, t + 3 * ((i + 1) % 3)];
      const [ya, yb] = [c[a + 1] - y, c[b + 1] - y];
      if (Math.abs(ya) < 1e-9) ends.push([c[a], c[a + 2]]);
      if (ya * yb < 0) ends.push([c[a] + ((c[b] - c[a]) * ya) / (ya - yb), c[a + 2] + ((c[b + 2] - c[a + 2]) * ya) / (ya - yb)]);
    }
    if (ends.length === 0) return Infinity;
    let least = Infinity;
    for (let i = 0; i < ends.length; i++) least = Math.min(least, toLine(ends[i], ends[(i + 1) % ends.length], x, z));
    if (ends.length === 3 && insideOf(ends, x, z)) return 0;
    return least;
  }

  /** Whether a walker comes from the rim to within reach of a seat. */
  reaches(seat: Vec3): boolean {
    const n = Math.round((2 * this.half) / SPACING);
    const at = (i: number) => -this.half + SPACING * i;
    const heights = new Map<number, number[]>();
    const standsAt = (i: number, k: number) => {
      const key = i + (n + 1) * k;
      let found = heights.get(key);
      if (!found) heights.set(key, (found = this.stands(at(i), at(k))));
      return found;
    };
    const seen = new Set<string>();
    const stack: [number, number, number][] = [];
    const visit = (i: number, k: number, y: number) => {
      const key = `${i} ${k} ${y.toFixed(4)}`;
      if (seen.has(key)) return;
      seen.add(key);
      stack.push([i, k, y]);
    };
    for (let i = 0; i <= n; i++)
      for (const k of [0, n])
        for (const [a, b] of [
          [i, k],
          [k, i],
        ])
          for (const y of standsAt(a, b)) if (Math.abs(y) <= this.rules.step) visit(a, b, y);
    while (stack.length > 0) {
      const [i, k, y] = stack.pop()!;
      const far = Math.hypot(at(i) - seat[0], at(k) - seat[2]);
      if (far <= this.rules.reach && seat[1] >= y - 0.05 && seat[1] <= y + this.rules.height) return true;
      for (const [di, dk] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        const [a, b] = [i + di, k + dk];
        if (a < 0 || b < 0 || a > n || b > n) continue;
        for (const other of standsAt(a, b)) if (Math.abs(other - y) <= this.rules.step + 1e-6) visit(a, b, other);
      }
    }
    return false;
  }

  /** Whether a walker can go straight from one place to another: feet found every few centimetres, none a step above the last. */
  walks(from: Vec3, to: Vec3): boolean {
    const looks = Math.max(1, Math.ceil(Math.hypot(to[0] - from[0], to[2] - from[2]) / 0.04));
    let last = from[1];
    for (let i = 0; i <= looks; i++) {
      const [x, , z] = from.map((value, axis) => value + ((to[axis] - value) * i) / looks);
      const next = this.stands(x, z).filter((y) => Math.abs(y - last) <= this.rules.step + 0.01);
      if (next.length === 0) return false;
      last = next.reduce((best, y) => (Math.abs(y - last) < Math.abs(best - last) ? y : best));
    }
    return Math.abs(last - to[1]) <= this.rules.step;
  }
}

function toLine([ax, az]: readonly number[], [bx, bz]: readonly number[], x: number, z: number): number {
  const [dx, dz] = [bx - ax, bz - az];
  const length = dx * dx + dz * dz;
  const u = length > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (z - az) * dz) / length)) : 0;
  return Math.hypot(x - ax - u * dx, z - az - u * dz);
}

function insideOf(points: readonly (readonly number[])[], x: number, z: number): boolean {
  const signs = points.map(([ax, az], i) => {
    const [bx, bz] = points[(i + 1) % points.length];
    return Math.sign((bx - ax) * (z - az) - (bz - az) * (x - ax));
  });
  return !(signs.includes(1) && signs.includes(-1));
}
