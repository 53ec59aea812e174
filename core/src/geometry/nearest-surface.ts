import { cross, dot, subtract } from './vectors';

/** Triangles in a tree of boxes, asked for the point nearest to another (Ericson, “Real-Time Collision Detection”, 2005, 5.1.5). */
export interface NearestHit {
  triangle: number;
  /** Weights of the triangle's corners, summing up to 1. */
  barycentric: [number, number, number];
  squaredDistance: number;
}

const LEAF = 8;

/** A tree of boxes over triangles that answers which surface point is nearest to a place, in the positions' unit (Ericson 2005, 5.1.5). */
export class SurfaceTree {
  private readonly order: Uint32Array;
  private readonly boxes: Float64Array;
  /** Two numbers a node: start and count for a leaf, or the left child and 0. */
  private readonly nodes: Int32Array;
  private used = 1;

  /**
   * @param positions 3 numbers a vertex
   * @param indices 3 a triangle; at least one triangle
   */
  constructor(
    private readonly positions: ArrayLike<number>,
    private readonly indices: ArrayLike<number>,
  ) {
    const triangles = Math.floor(indices.length / 3);
    this.order = Uint32Array.from({ length: triangles }, (_, i) => i);
    const most = Math.max(1, 2 * triangles);
    this.boxes = new Float64Array(6 * most);
    this.nodes = new Int32Array(2 * most);
    this.build(0, 0, triangles);
  }

  private build(node: number, start: number, end: number): void {
    const stack = [[node, start, end]];
    while (stack.length > 0) {
      const [at, from, to] = stack.pop()!;
      this.fit(at, from, to);
      if (to - from <= LEAF) {
        this.nodes[2 * at] = from;
        this.nodes[2 * at + 1] = to - from;
        continue;
      }
      const extent = [0, 1, 2].map((axis) => this.boxes[6 * at + 3 + axis] - this.boxes[6 * at + axis]);
      const axis = extent.indexOf(Math.max(...extent));
      const middle = (from + to) >> 1;
      const centre = (t: number) => this.corner(t, 0, axis) + this.corner(t, 1, axis) + this.corner(t, 2, axis);
      this.order.subarray(from, to).sort((a, b) => centre(a) - centre(b));
      const left = this.used;
      this.used += 2;
      this.nodes[2 * at] = left;
      this.nodes[2 * at + 1] = 0;
      stack.push([left, from, middle], [left + 1, middle, to]);
    }
  }

  private corner(triangle: number, which: number, axis: number): number {
    return this.positions[3 * this.indices[3 * triangle + which] + axis];
  }

  private fit(node: number, from: number, to: number): void {
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        for (let which = 0; which < 3; which++) {
          const value = this.corner(this.order[i], which, axis);
          if (value < low) low = value;
          if (value > high) high = value;
        }
      }
      this.boxes[6 * node + axis] = low;
      this.boxes[6 * node + 3 + axis] = high;
    }
  }

  private boxDistance(node: number, x: number, y: number, z: number): number {
    const { boxes } = this;
    const at = 6 * node;
    const out = (axis: number, value: number) => Math.max(0, boxes[at + axis] - value, value - boxes[at + 3 + axis]);
    return out(0, x) ** 2 + out(1, y) ** 2 + out(2, z) ** 2;
  }

  /**
   * The point of the surface nearest to a place.
   *
   * @param within Only what is nearer than this is looked for, in the positions' unit; where nothing is, the distance is Infinity.
   */
  nearest(x: number, y: number, z: number, within = Infinity): NearestHit {
    let best: NearestHit = { triangle: 0, barycentric: [1, 0, 0], squaredDistance: Infinity };
    let most = within * within;
    const stack = [0];
    while (stack.length > 0) {
      const node = stack.pop()!;
      if (this.boxDistance(node, x, y, z) >= most) continue;
      const [first, count] = [this.nodes[2 * node], this.nodes[2 * node + 1]];
      if (count > 0) {
        for (let i = first; i < first + count; i++) {
          const hit = this.onTriangle(this.order[i], x, y, z);
          if (hit.squaredDistance < most) [best, most] = [hit, hit.squaredDistance];
        }
      } else if (this.boxDistance(first, x, y, z) < this.boxDistance(first + 1, x, y, z)) stack.push(first + 1, first);
      else stack.push(first, first + 1);
    }
    return best;
  }

  /**
   * Triangles that a ray meets in front of its origin, told one after another in no order; what gives false ends the search.
   *
   * @param origin @param way In the positions' unit; the way need not be of length 1.
   */
  eachOnRay(origin: readonly number[], way: readonly number[], told: (triangle: number, along: number) => boolean): void {
    const stack = [0];
    while (stack.length > 0) {
      const node = stack.pop()!;
      if (!this.boxOnRay(node, origin, way)) continue;
      const [first, count] = [this.nodes[2 * node], this.nodes[2 * node + 1]];
      if (count === 0) {
        stack.push(first, first + 1);
        continue;
      }
      for (let i = first; i < first + count; i++) {
        const along = this.alongRay(this.order[i], origin, way);
        if (along > 0 && !told(this.order[i], along)) return;
      }
    }
  }

  private boxOnRay(node: number, origin: readonly number[], way: readonly number[]): boolean {
    let [near, far] = [0, Infinity];
    for (let axis = 0; axis < 3; axis++) {
      const [low, high] = [this.boxes[6 * node + axis] - origin[axis], this.boxes[6 * node + 3 + axis] - origin[axis]];
      if (way[axis] === 0) {
        if (low > 0 || high < 0) return false;
        continue;
      }
      const [a, b] = [low / way[axis], high / way[axis]];
      near = Math.max(near, Math.min(a, b));
      far = Math.min(far, Math.max(a, b));
    }
    return near <= far;
  }

  /** How far along a ray it meets a triangle, in lengths of the way; 0 where it does not (Möller & Trumbore 1997). */
  private alongRay(triangle: number, origin: readonly number[], way: readonly number[]): number {
    const point = (which: number) => [this.corner(triangle, which, 0), this.corner(triangle, which, 1), this.corner(triangle, which, 2)];
    const a = point(0);
    const [ab, ac] = [subtract(point(1), a), subtract(point(2), a)];
    const p = cross(way, ac);
    const det = dot(ab, p);
    if (det === 0) return 0;
    const from = subtract(origin, a);
    const u = dot(from, p) / det;
    if (u < 0 || u > 1) return 0;
    const q = cross(from, ab);
    const v = dot(way, q) / det;
    if (v < 0 || u + v > 1) return 0;
    return Math.max(0, dot(ac, q) / det);
  }

  private onTriangle(triangle: number, x: number, y: number, z: number): NearestHit {
    const point = (which: number) => [this.corner(triangle, which, 0), this.corner(triangle, which, 1), this.corner(triangle, which, 2)];
    const [a, b, c] = [point(0), point(1), point(2)];
    const p = [x, y, z];
    const [ab, ac] = [subtract(b, a), subtract(c, a)];
    const [ap, bp, cp] = [subtract(p, a), subtract(p, b), subtract(p, c)];
    const [d1, d2, d3, d4, d5, d6] = [dot(ab, ap), dot(ac, ap), dot(ab, bp), dot(ac, bp), dot(ab, cp), dot(ac, cp)];
    const [va, vb, vc] = [d3 * d6 - d5 * d4, d5 * d2 - d1 * d6, d1 * d4 - d3 * d2];
    let barycentric: [number, number, number];
    if (d1 <= 0 && d2 <= 0) barycentric = [1, 0, 0];
    else if (d3 >= 0 && d4 <= d3) barycentric = [0, 1, 0];
    else if (d6 >= 0 && d5 <= d6) barycentric = [0, 0, 1];
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) barycentric = along(d1 / (d1 - d3), 0, 1);
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) barycentric = along(d2 / (d2 - d6), 0, 2);
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) barycentric = along((d4 - d3) / (d4 - d3 + (d5 - d6)), 1, 2);
    else {
      const whole = va + vb + vc;
      barycentric = whole === 0 ? [1, 0, 0] : [va / whole, vb / whole, vc / whole];
    }
    const distance = [0, 1, 2].map((axis) => barycentric[0] * a[axis] + barycentric[1] * b[axis] + barycentric[2] * c[axis] - p[axis]);
    return { triangle, barycentric, squaredDistance: dot(distance, distance) };
  }
}

function along(share: number, from: number, to: number): [number, number, number] {
  const out: [number, number, number] = [0, 0, 0];
  out[from] = 1 - share;
  out[to] = share;
  return out;
}
