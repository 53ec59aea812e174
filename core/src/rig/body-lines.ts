import type { Vec3 } from '../document';
import { depths, FAR, Geodesics } from './geodesic';
import type { SkeletonTemplate, TemplateEnd } from './templates';
import { CORE, nearestSolid, OUTSIDE, voxelAt, voxelCentre, type VoxelSolid } from './voxel-solid';

/** Geodesic extremes that are looked at beyond those a template asks for. */
const SPARE = 4;
/** The dearest step along the middle, beside the skin. */
const DEAREST = 15;
/** An extreme that stands further than this from where an end is expected is not that end: it is looked for at its place instead. */
const NOWHERE = 0.4;
/** The seat above the fork of the legs, as a share of the height. */
const SEAT = 0.04;

/** The solid with what is asked of it again and again. */
export class BodyLines {
  readonly depth: Int32Array;
  readonly middle: number;
  private readonly geodesics: Geodesics;
  private readonly cost: Float32Array;
  private readonly min: Vec3;
  private readonly max: Vec3;

  constructor(readonly solid: VoxelSolid) {
    this.depth = depths(solid);
    this.geodesics = new Geodesics(solid);
    // A step near the skin costs up to fifteen times one in the middle of a limb as thick as the twelfth part of the body.
    const thick = 0.4 * Math.max(...solid.size);
    this.cost = Float32Array.from(this.depth, (depth) =>
      depth === 0 ? DEAREST : Math.min(DEAREST, Math.max(1, (thick / depth) * (thick / depth))),
    );
    const [sum, min, max] = [
      [0, 0, 0],
      [Infinity, Infinity, Infinity],
      [-Infinity, -Infinity, -Infinity],
    ];
    let filled = 0;
    for (let i = 0; i < solid.kind.length; i++) {
      if (solid.kind[i] === OUTSIDE) continue;
      filled++;
      voxelCentre(solid, i).forEach((value, axis) => {
        sum[axis] += value;
        min[axis] = Math.min(min[axis], value);
        max[axis] = Math.max(max[axis], value);
      });
    }
    this.min = min as Vec3;
    this.max = max as Vec3;
    const [x, y, z] = sum.map((value) => value / Math.max(1, filled));
    this.middle = nearestSolid(solid, x, y, z);
  }

  /**
   * The voxel of each end: geodesic extremes, each the farthest from those before it and from the middle (Mortara & Patanè 2002), given to
   * the ends so that all together stand nearest to where they are expected. Paired ends are named with a + for the left (+X) and a − for
   * the right.
   */
  ends(template: SkeletonTemplate): Map<string, number> {
    const wanted = template.ends.flatMap((end) => (end.paired ? [side(end, 1), side(end, -1)] : [end]));
    const found: number[] = [];
    for (let i = 0; i < wanted.length + SPARE; i++) {
      const distance = this.geodesics.from([this.middle, ...found]);
      let best = -1;
      for (let v = 0; v < distance.length; v++)
        if (distance[v] !== FAR && distance[v] > 0 && (best < 0 || distance[v] > distance[best])) best = v;
      if (best < 0) break;
      found.push(best);
    }
    const off = wanted.map(({ place }) => found.map((voxel) => this.offPlace(voxel, place)));
    const chosen = leastSum(off, NOWHERE);
    return new Map(wanted.map((end, e) => [end.id, chosen[e] < 0 ? this.nearestTo(end.place) : found[chosen[e]]]));
  }

  /** Of the bounds: −1 to 1, 0 to 1, −1 to 1. */
  private placeOf(voxel: number): Vec3 {
    const at = voxelCentre(this.solid, voxel);
    return at.map((value, axis) => {
      const size = Math.max(1e-9, this.max[axis] - this.min[axis]);
      const share = (value - this.min[axis]) / size;
      return axis === 1 ? share : 2 * share - 1;
    }) as Vec3;
  }

  /** Heights count double: they run over half as far. An axis along which the body is thin says little. */
  private offPlace(voxel: number, wanted: Vec3): number {
    const longest = Math.max(...[0, 1, 2].map((axis) => this.max[axis] - this.min[axis]));
    return Math.hypot(
      ...this.placeOf(voxel).map(
        (value, axis) => (value - wanted[axis]) * (axis === 1 ? 2 : 1) * Math.min(1, (2 * (this.max[axis] - this.min[axis])) / longest),
      ),
    );
  }

  private nearestTo(place: Vec3): number {
    const at = place.map((value, axis) => this.min[axis] + (axis === 1 ? value : (value + 1) / 2) * (this.max[axis] - this.min[axis]));
    return nearestSolid(this.solid, at[0], at[1], at[2]);
  }

  /** Where the trunk rests: straight below the middle of the body, a little above the lowest of the solid there. */
  seat(): number {
    const [x, y, z] = voxelCentre(this.solid, this.middle);
    let at = voxelAt(this.solid, (this.min[0] + this.max[0]) / 2, y, z);
    if (this.solid.kind[at] === OUTSIDE) at = voxelAt(this.solid, x, y, z);
    const down = this.solid.size[0];
    while (at - down > 0 && this.solid.kind[at - down] === CORE) at -= down;
    const up = Math.round((SEAT * (this.max[1] - this.min[1])) / this.solid.cell);
    for (let i = 0; i < up && this.solid.kind[at + down] === CORE; i++) at += down;
    return at;
  }

  /** A way through the middle from some voxels to another, the first first: steps near the skin are dear. */
  way(from: readonly number[], to: number): number[] {
    this.geodesics.from(from, this.cost);
    const back = this.geodesics.wayBack(to);
    return back.reverse();
  }

  /** Is a point inside the solid, or in its skin? */
  holds(point: Vec3): boolean {
    const { origin, cell, size, kind } = this.solid;
    if (point.some((value, axis) => value < origin[axis] || value > origin[axis] + size[axis] * cell)) return false;
    return kind[voxelAt(this.solid, ...point)] !== OUTSIDE;
  }
}

function side(end: TemplateEnd, sign: 1 | -1): TemplateEnd {
  return { id: `${end.id}${sign > 0 ? '+' : '-'}`, place: [sign * end.place[0], end.place[1], end.place[2]] };
}

/**
 * The choice of one column a row, each once or −1 at a cost of `none`, with the least sum: tried depth first, branches that are too dear
 * left out.
 */
function leastSum(costs: readonly number[][], none: number): number[] {
  let best = Infinity;
  let chosen: number[] = costs.map(() => -1);
  const used = new Set<number>();
  const pick: number[] = [];
  const search = (row: number, sum: number) => {
    if (sum >= best) return;
    if (row === costs.length) {
      best = sum;
      chosen = [...pick];
      return;
    }
    const order = costs[row].map((_, c) => c).sort((a, b) => costs[row][a] - costs[row][b]);
    for (const column of order) {
      if (used.has(column) || costs[row][column] > none) continue;
      used.add(column);
      pick.push(column);
      search(row + 1, sum + costs[row][column]);
      pick.pop();
      used.delete(column);
    }
    pick.push(-1);
    search(row + 1, sum + none);
    pick.pop();
  };
  search(0, 0);
  return chosen;
}

/**
 * Where the solid that a line of sight crosses has its middle: of the stretch that lies nearest to a depth, or the first one.
 *
 * @param from Metres @param direction Unit vector @param near Metres along the line.
 * @returns metres along the line, or null where it misses
 */
export function middleAlong(solid: VoxelSolid, from: Vec3, direction: Vec3, near: number | null): number | null {
  const { cell, origin, size, kind } = solid;
  const far =
    Math.hypot(...size.map((side) => side * cell)) +
    Math.hypot(...origin.map((value, axis) => value + (size[axis] * cell) / 2 - from[axis]));
  const stretches: [number, number][] = [];
  let begun: number | null = null;
  for (let t = 0; t <= far; t += cell / 2) {
    const at = from.map((value, axis) => value + t * direction[axis]);
    const inside =
      at.every((value, axis) => value > origin[axis] && value < origin[axis] + size[axis] * cell) &&
      kind[voxelAt(solid, at[0], at[1], at[2])] !== OUTSIDE;
    if (inside && begun === null) begun = t;
    if (!inside && begun !== null) {
      stretches.push([begun, t]);
      begun = null;
    }
  }
  if (stretches.length === 0) return null;
  const middles = stretches.map(([a, b]) => (a + b) / 2);
  return near === null ? middles[0] : middles.reduce((best, one) => (Math.abs(one - near) < Math.abs(best - near) ? one : best));
}
