import { SurfaceTree, weldedPlaces } from '../geometry';
import { FAR, Geodesics } from './geodesic';
import { mirrorPlaces } from './mirror-places';
import { surfaceRings, type Rings } from './surface-rings';
import { CORE, nearestSolid, OUTSIDE, THIN, voxelAt, voxelSolid, type VoxelSolid } from './voxel-solid';

/** A joint as lines through the body: from its head to each child's head, or to its tail. Nothing holds by a joint without any. */
export interface JointLines {
  /** Six numbers a line: from, to; metres. */
  lines: number[];
  /** Which joint of the list is above it; −1 for none. */
  parent: number;
}

export interface SolveOptions {
  /** Voxels along the longest side. */
  resolution: number;
  /** How fast a hold fades with the way: the exponent of the distance. 2 is soft, 4 sharp. */
  falloff: number;
  /** Rounds in which each place takes half of the mean of its neighbours. */
  smoothing: number;
  /** Joints a vertex, up to 4. */
  influences: number;
  /** Whether sides that mirror each other across x = 0 are to be held alike. */
  mirrored: boolean;
}

/** Voxels along the longest side, falloff of the power, rounds of smoothing, joints a vertex, and whether both sides are made alike. */
export const SOLVE_DEFAULTS: SolveOptions = { resolution: 96, falloff: 3.5, smoothing: 2, influences: 4, mirrored: true };

/** Share of the squared way (Dionne & de Lasa 2013, 3.3). */
const ALPHA = 0.8;

/**
 * How many times the way to a nearer joint the way to another one may be before that holds nothing: where they are neighbours in the
 * skeleton, two steps up or down, or neither. So a finger takes nothing from its neighbour by way of the palm.
 */
const REACH_NEXT = 5;
const REACH_SECOND = 3;
const REACH_OTHER = 1.5;

export interface SolvedWeights {
  /** Four a vertex, strongest first; 0 where there are fewer. */
  joints: Uint16Array;
  weights: Float32Array;
  /** Of the solid, metres. */
  cell: number;
  /** Joints none of whose lines runs through the solid: they hold from the nearest place in it. */
  outside: number[];
  /** Vertices in pieces that no joint reaches, held as the nearest surface that one does. */
  bridged: number;
}

/**
 * Weights of a skin by geodesic voxel binding (Dionne & de Lasa, “Geodesic voxel binding for production character meshes”, 2013): the
 * surface is filled with voxels, the way from each joint's line to each vertex is measured through them, and the weight is ((1−α)·d +
 * α·d²) to the minus falloff, d in lengths of the model, α = 0.8; it fades to nothing where other joints are much nearer. Ways go from the
 * middle of the nearest voxels on to the vertex itself. The four strongest are kept and made to add up to 1. Works on open, overlapping
 * and many-piece surfaces. The same input gives the same numbers.
 *
 * @param positions At rest, 3 numbers a vertex, metres @param indices 3 a triangle @param progress Told the share that is done, 0 to 1.
 */
export function solveWeights(
  positions: Float32Array,
  indices: Uint32Array,
  joints: readonly JointLines[],
  options: SolveOptions,
  progress: (share: number) => void = () => undefined,
): SolvedWeights {
  const vertices = positions.length / 3;
  const { placeOf, points, corners } = places(positions, indices);
  const count = points.length / 3;
  const solid = voxelSolid(positions, indices, options.resolution);
  progress(0.1);
  const reader = new WayReader(solid, points);
  const geodesics = new Geodesics(solid);
  const held = new Float32Array(count * joints.length);
  const outside: number[] = [];
  const size = Math.max(...solid.size.map((side) => (side - 3) * solid.cell));
  joints.forEach(({ lines }, j) => {
    const sources = sourcesOf(solid, lines);
    if (lines.length > 0 && sources.length === 0) {
      outside.push(j);
      const near = nearestSolid(solid, (lines[0] + lines[3]) / 2, (lines[1] + lines[4]) / 2, (lines[2] + lines[5]) / 2);
      if (near >= 0) sources.push(near);
    }
    if (sources.length > 0) {
      const distance = geodesics.from(sources);
      for (let p = 0; p < count; p++) {
        const way = reader.way(p, distance);
        if (way > 0) held[p * joints.length + j] = Math.max(way, 0.25 * solid.cell) / size;
      }
    }
    progress(0.1 + (0.75 * (j + 1)) / joints.length);
  });
  holdByWay(held, reaches(joints), joints.length, options.falloff);
  const bridged = bridge(held, joints, points, corners);
  smoothRows(held, joints.length, surfaceRings(corners, count), options.smoothing);
  if (options.mirrored) evenSides(held, joints, points, size);
  progress(0.95);
  return { ...keepStrongest(held, joints.length, placeOf, vertices, Math.min(4, options.influences)), cell: solid.cell, outside, bridged };
}

/** Vertices at one place are one: numbers of places by vertex, their points, and the places of the corners of triangles. */
export function places(
  positions: Float32Array,
  indices: ArrayLike<number>,
): { placeOf: Uint32Array; points: Float32Array; corners: Uint32Array } {
  const first = weldedPlaces(positions);
  const numberOf = new Int32Array(first.length).fill(-1);
  const placeOf = new Uint32Array(first.length);
  const points: number[] = [];
  for (let v = 0; v < first.length; v++) {
    if (numberOf[first[v]] < 0) {
      numberOf[first[v]] = points.length / 3;
      points.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
    }
    placeOf[v] = numberOf[first[v]];
  }
  return { placeOf, points: Float32Array.from(points), corners: Uint32Array.from(indices, (vertex) => placeOf[vertex]) };
}

/** Solid voxels along lines, two steps a cell. */
function sourcesOf(solid: VoxelSolid, lines: readonly number[]): number[] {
  const found = new Set<number>();
  for (let l = 0; l + 5 < lines.length; l += 6) {
    const within = insideGrid(solid, lines, l);
    if (!within) continue;
    const [from, to] = within;
    const way = [0, 1, 2].map((axis) => lines[l + 3 + axis] - lines[l + axis]);
    const steps = Math.max(1, Math.ceil((2 * (to - from) * Math.hypot(...way)) / solid.cell));
    for (let s = 0; s <= steps; s++) {
      const u = from + ((to - from) * s) / steps;
      const at = voxelAt(solid, lines[l] + u * way[0], lines[l + 1] + u * way[1], lines[l + 2] + u * way[2]);
      if (solid.kind[at] !== OUTSIDE) found.add(at);
    }
  }
  return [...found].sort((a, b) => a - b);
}

/** Which shares of a line lie within the grid (Liang & Barsky 1984); null for none. */
function insideGrid({ origin, cell, size }: VoxelSolid, lines: readonly number[], l: number): [number, number] | null {
  let [from, to] = [0, 1];
  for (let axis = 0; axis < 3; axis++) {
    const start = lines[l + axis];
    const way = lines[l + 3 + axis] - start;
    const [low, high] = [origin[axis], origin[axis] + size[axis] * cell];
    if (Math.abs(way) < 1e-12) {
      if (start < low || start > high) return null;
      continue;
    }
    const [a, b] = [(low - start) / way, (high - start) / way];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  return from <= to ? [from, to] : null;
}

/** How far about a point voxels count, in cells: a voxel of the surface has the inside within this of any point in it. */
const REACH_CELLS = 2.65;

/**
 * Reads ways at points of the surface. The voxels of the inside around a point count by a bump that falls to nothing at the reach, so that
 * the grid is not felt; from their middle the way goes straight on to the point. Only voxels that hang together with the point's own
 * count: not those across a gap.
 */
class WayReader {
  /** Where the voxels of each point begin; one more entry than points. */
  private readonly at: Uint32Array;
  private readonly voxels: number[] = [];
  private readonly shares: number[] = [];
  /** From the middle of a point's voxels to the point, metres. */
  private readonly rest: Float64Array;

  constructor(
    private readonly solid: VoxelSolid,
    points: ArrayLike<number>,
  ) {
    const count = points.length / 3;
    this.at = new Uint32Array(count + 1);
    this.rest = new Float64Array(count);
    for (let p = 0; p < count; p++) {
      this.rest[p] = this.gather(points[3 * p], points[3 * p + 1], points[3 * p + 2]);
      this.at[p + 1] = this.voxels.length;
    }
  }

  private gather(x: number, y: number, z: number): number {
    const { kind, size, origin, cell } = this.solid;
    const own = voxelAt(this.solid, x, y, z);
    const first = this.voxels.length;
    // A sheet has no inside: its own voxels count, nearer ones.
    const thin = kind[own] === THIN || kind[own] === OUTSIDE;
    const steps = thin ? 1 : 2;
    const reach = thin ? 1.75 : REACH_CELLS;
    const [ox, oy, oz] = [own % size[0], Math.floor(own / size[0]) % size[1], Math.floor(own / (size[0] * size[1]))];
    let total = 0;
    let [mx, my, mz] = [0, 0, 0];
    for (let dz = -steps; dz <= steps; dz++) {
      for (let dy = -steps; dy <= steps; dy++) {
        for (let dx = -steps; dx <= steps; dx++) {
          const [ix, iy, iz] = [ox + dx, oy + dy, oz + dz];
          if (ix < 0 || iy < 0 || iz < 0 || ix >= size[0] || iy >= size[1] || iz >= size[2]) continue;
          const voxel = ix + size[0] * (iy + size[1] * iz);
          if (
            thin
              ? kind[voxel] === OUTSIDE
              : kind[voxel] !== CORE || kind[own + near(dx) + size[0] * (near(dy) + size[1] * near(dz))] !== CORE
          )
            continue;
          const [cx, cy, cz] = [origin[0] + (ix + 0.5) * cell - x, origin[1] + (iy + 0.5) * cell - y, origin[2] + (iz + 0.5) * cell - z];
          const share = bump((cx * cx + cy * cy + cz * cz) / (cell * reach) ** 2);
          if (share <= 0) continue;
          this.voxels.push(voxel);
          this.shares.push(share);
          total += share;
          mx += share * cx;
          my += share * cy;
          mz += share * cz;
        }
      }
    }
    if (total === 0) {
      this.voxels.push(own);
      this.shares.push(1);
      return 0.5 * cell;
    }
    for (let i = first; i < this.shares.length; i++) this.shares[i] /= total;
    return Math.hypot(mx, my, mz) / total;
  }

  /** Metres; 0 where the point is not reached. */
  way(p: number, distance: Int32Array): number {
    let sum = 0;
    let met = 0;
    for (let i = this.at[p]; i < this.at[p + 1]; i++) {
      const d = distance[this.voxels[i]];
      if (d === FAR) continue;
      sum += this.shares[i] * d;
      met += this.shares[i];
    }
    if (met === 0) return 0;
    return (sum / met) * (this.solid.cell / 10) + this.rest[p];
  }
}

const near = (step: number) => Math.max(-1, Math.min(1, step));
const bump = (square: number) => (square >= 1 ? 0 : (1 - square) ** 2);

/** For each pair of joints how many times the way to the one the way to the other may be. */
function reaches(joints: readonly JointLines[]): Float64Array {
  const width = joints.length;
  const out = new Float64Array(width * width).fill(REACH_OTHER);
  const set = (a: number, b: number, reach: number) => {
    if (a < 0 || b < 0) return;
    out[a * width + b] = Math.max(out[a * width + b], reach);
    out[b * width + a] = Math.max(out[b * width + a], reach);
  };
  joints.forEach(({ parent }, j) => {
    set(j, parent, REACH_NEXT);
    if (parent >= 0) set(j, joints[parent].parent, REACH_SECOND);
  });
  return out;
}

/** Rows of ways (0 where there is none) become rows of weights that add up to 1. */
function holdByWay(rows: Float32Array, reach: Float64Array, width: number, falloff: number): void {
  const ways = new Float64Array(width);
  for (let at = 0; at < rows.length; at += width) {
    let least = Infinity;
    for (let j = 0; j < width; j++) {
      ways[j] = rows[at + j];
      if (ways[j] > 0 && ways[j] < least) least = ways[j];
    }
    if (least === Infinity) continue;
    const own = (1 - ALPHA) * least + ALPHA * least * least;
    let sum = 0;
    for (let j = 0; j < width; j++) {
      const d = ways[j];
      if (d === 0) continue;
      let fade = 1;
      for (let i = 0; i < width && fade > 0; i++) {
        if (ways[i] === 0 || ways[i] >= d) continue;
        const most = reach[i * width + j];
        fade = Math.min(fade, Math.max(0, (most - d / ways[i]) / (most - 1)));
      }
      rows[at + j] = fade === 0 ? 0 : fade * (((1 - ALPHA) * d + ALPHA * d * d) / own) ** -falloff;
      sum += rows[at + j];
    }
    for (let j = 0; j < width; j++) rows[at + j] /= sum;
  }
}

/**
 * Gives places that nothing holds what holds the nearest point of a surface that is held; of the nearest line where there is none. Gives
 * how many.
 */
function bridge(held: Float32Array, joints: readonly JointLines[], points: Float32Array, corners: Uint32Array): number {
  const width = joints.length;
  const count = points.length / 3;
  const isHeld = new Uint8Array(count);
  const loose: number[] = [];
  for (let p = 0; p < count; p++) {
    let sum = 0;
    for (let j = 0; j < width; j++) sum += held[p * width + j];
    if (sum > 0) isHeld[p] = 1;
    else loose.push(p);
  }
  if (loose.length === 0 || width === 0) return 0;
  const sound: number[] = [];
  for (let t = 0; t + 2 < corners.length; t += 3)
    if (isHeld[corners[t]] && isHeld[corners[t + 1]] && isHeld[corners[t + 2]]) sound.push(corners[t], corners[t + 1], corners[t + 2]);
  const tree = sound.length > 0 ? new SurfaceTree(points, sound) : null;
  for (const p of loose) {
    const [x, y, z] = [points[3 * p], points[3 * p + 1], points[3 * p + 2]];
    if (!tree) {
      held[p * width + nearestLine(joints, x, y, z)] = 1;
      continue;
    }
    const { triangle, barycentric } = tree.nearest(x, y, z);
    for (let corner = 0; corner < 3; corner++) {
      const from = sound[3 * triangle + corner] * width;
      for (let j = 0; j < width; j++) held[p * width + j] += barycentric[corner] * held[from + j];
    }
  }
  return loose.length;
}

function nearestLine(joints: readonly JointLines[], x: number, y: number, z: number): number {
  let best = 0;
  let least = Infinity;
  joints.forEach(({ lines }, j) => {
    for (let l = 0; l + 5 < lines.length; l += 6) {
      const d = [lines[l + 3] - lines[l], lines[l + 4] - lines[l + 1], lines[l + 5] - lines[l + 2]];
      const square = d[0] ** 2 + d[1] ** 2 + d[2] ** 2;
      const u =
        square === 0
          ? 0
          : Math.min(1, Math.max(0, ((x - lines[l]) * d[0] + (y - lines[l + 1]) * d[1] + (z - lines[l + 2]) * d[2]) / square));
      const off = Math.hypot(x - lines[l] - u * d[0], y - lines[l + 1] - u * d[1], z - lines[l + 2] - u * d[2]);
      if (off < least) [least, best] = [off, j];
    }
  });
  return best;
}

/**
 * Each row takes half of the mean of its neighbours', as many times. Rows stay as their sums are.
 * @param strength 0 to 1
 * @param only Rows that may change; all where left out.
 */
export function smoothRows(
  rows: Float32Array,
  width: number,
  { at, neighbours }: Rings,
  rounds: number,
  strength = 0.5,
  only?: Uint8Array,
): void {
  const before = new Float32Array(rows.length);
  const count = at.length - 1;
  for (let round = 0; round < rounds; round++) {
    before.set(rows);
    for (let p = 0; p < count; p++) {
      const degree = at[p + 1] - at[p];
      if (degree === 0 || (only && only[p] === 0)) continue;
      for (let j = 0; j < width; j++) {
        let sum = 0;
        for (let i = at[p]; i < at[p + 1]; i++) sum += before[neighbours[i] * width + j];
        rows[p * width + j] = (1 - strength) * before[p * width + j] + (strength * sum) / degree;
      }
    }
  }
}

/** Middles of the heads of joints, mirrored: which joint is which one's twin across x = 0. */
export function twinJoints(joints: readonly JointLines[], tolerance: number): Int32Array {
  const heads = joints.flatMap(({ lines }) =>
    lines.length > 0 ? [(lines[0] + lines[3]) / 2, (lines[1] + lines[4]) / 2, (lines[2] + lines[5]) / 2] : [1e9, 1e9, 1e9],
  );
  return mirrorPlaces(heads, 0, 0, tolerance).map((twin, j) => (joints[j].lines.length > 0 ? twin : j));
}

/**
 * Makes places that mirror each other hold alike, joints exchanged with their twins: the mean of both. Nothing where the joints are not
 * mirrored.
 */
function evenSides(held: Float32Array, joints: readonly JointLines[], points: Float32Array, size: number): void {
  const width = joints.length;
  const twins = twinJoints(joints, 0.01 * size);
  if (twins.some((twin) => twin < 0)) return;
  const mirror = mirrorPlaces(points, 0, 0, 1e-3 * size);
  for (let p = 0; p < mirror.length; p++) {
    const other = mirror[p];
    if (other < p && other !== p) continue;
    for (let j = 0; j < width; j++) {
      const a = p * width + j;
      const b = other * width + twins[j];
      if (a > b && other === p) continue;
      held[a] = held[b] = (held[a] + held[b]) / 2;
    }
  }
}

/** The strongest of one row, made to add up to 1, strongest first; of equal ones the first joint. Writes four numbers each. */
export function strongestOfRow(rows: Float32Array, at: number, width: number, joints: Uint16Array, weights: Float32Array, most = 4): void {
  joints.fill(0);
  weights.fill(0);
  for (let j = 0; j < width; j++) {
    const weight = rows[at + j];
    if (!(weight > 1e-4)) continue;
    for (let k = 0; k < most; k++) {
      if (weight <= weights[k]) continue;
      for (let m = most - 1; m > k; m--) {
        weights[m] = weights[m - 1];
        joints[m] = joints[m - 1];
      }
      weights[k] = weight;
      joints[k] = j;
      break;
    }
  }
  const sum = weights[0] + weights[1] + weights[2] + weights[3];
  if (sum > 0) for (let k = 0; k < 4; k++) weights[k] /= sum;
}

/** The strongest of each row, made to add up to 1, for every vertex of the row's place. */
export function keepStrongest(
  rows: Float32Array,
  width: number,
  placeOf: ArrayLike<number>,
  vertices: number,
  most: number,
): { joints: Uint16Array; weights: Float32Array } {
  const count = width === 0 ? 0 : rows.length / width;
  const joints = new Uint16Array(4 * vertices);
  const weights = new Float32Array(4 * vertices);
  const bestJoint = new Uint16Array(4 * count);
  const bestWeight = new Float32Array(4 * count);
  for (let p = 0; p < count; p++)
    strongestOfRow(rows, p * width, width, bestJoint.subarray(4 * p, 4 * p + 4), bestWeight.subarray(4 * p, 4 * p + 4), most);
  for (let v = 0; v < vertices; v++) {
    const p = 4 * placeOf[v];
    for (let k = 0; k < 4; k++) {
      joints[4 * v + k] = bestJoint[p + k];
      weights[4 * v + k] = bestWeight[p + k];
    }
  }
  return { joints, weights };
}
