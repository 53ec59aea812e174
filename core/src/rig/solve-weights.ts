import { SurfaceTree, weldedPlaces } from '../geometry';
import { FAR, Geodesics } from './geodesic';
import { mirrorPlaces } from './mirror-places';
import { surfaceRings, type Rings } from './surface-rings';
import { CORE, nearestSolid, neighbourhood, OUTSIDE, RIND, voxelAt, voxelSolid, type VoxelSolid } from './voxel-solid';

/** A joint as lines through the body: from its head to each child's head, or to its tail. Nothing holds by a joint without any. */
export interface JointLines {
  /** Six numbers a line: from, to; metres. */
  lines: number[];
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

export const SOLVE_DEFAULTS: SolveOptions = { resolution: 96, falloff: 3.5, smoothing: 2, influences: 4, mirrored: true };

/** Share of the squared way (Dionne & de Lasa 2013, 3.3). */
const ALPHA = 0.8;

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
 * Weights of a skin by geodesic voxel binding (Dionne & de Lasa, “Geodesic voxel binding for production character meshes”, 2013): the surface is
 * filled with voxels, the way from each joint's line to each vertex is measured through them, and the weight is ((1−α)·d + α·d²) to the minus
 * falloff, d in lengths of the model, α = 0.8. Ways go from the middle of the nearest voxels on to the vertex itself. The four strongest are kept and
 * made to add up to 1. Works on open, overlapping and many-piece surfaces. The same input gives the same numbers.
 *
 * @param positions At rest, 3 numbers a vertex, metres @param indices 3 a triangle @param progress Told the share that is done, 0 to 1.
 */
export function solveWeights(positions: Float32Array, indices: Uint32Array, joints: readonly JointLines[], options: SolveOptions, progress: (share: number) => void = () => undefined): SolvedWeights {
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
        if (way === Infinity) continue;
        const d = Math.max(way, 0.25 * solid.cell) / size;
        held[p * joints.length + j] = ((1 - ALPHA) * d + ALPHA * d * d) ** -options.falloff;
      }
    }
    progress(0.1 + (0.75 * (j + 1)) / joints.length);
  });
  sumToOne(held, joints.length);
  const bridged = bridge(held, joints, points, corners);
  const rings = surfaceRings(corners, count);
  smoothRows(held, joints.length, rings, options.smoothing);
  if (options.mirrored) evenSides(held, joints, points, size);
  progress(0.95);
  return { ...keepStrongest(held, joints.length, placeOf, vertices, Math.min(4, options.influences)), cell: solid.cell, outside, bridged };
}

/** Vertices at one place are one: numbers of places by vertex, their points, and the places of the corners of triangles. */
export function places(positions: Float32Array, indices: ArrayLike<number>): { placeOf: Uint32Array; points: Float32Array; corners: Uint32Array } {
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
    const length = Math.hypot(lines[l + 3] - lines[l], lines[l + 4] - lines[l + 1], lines[l + 5] - lines[l + 2]);
    const steps = Math.max(1, Math.ceil((2 * length) / solid.cell));
    for (let s = 0; s <= steps; s++) {
      const u = s / steps;
      const x = lines[l] + u * (lines[l + 3] - lines[l]);
      const y = lines[l + 1] + u * (lines[l + 4] - lines[l + 1]);
      const z = lines[l + 2] + u * (lines[l + 5] - lines[l + 2]);
      if (!contains(solid, x, y, z)) continue;
      const at = voxelAt(solid, x, y, z);
      if (solid.kind[at] !== OUTSIDE) found.add(at);
    }
  }
  return [...found].sort((a, b) => a - b);
}

function contains({ origin, cell, size }: VoxelSolid, x: number, y: number, z: number): boolean {
  return [x, y, z].every((value, axis) => value >= origin[axis] && value <= origin[axis] + size[axis] * cell);
}

/** Reads ways at points that lie in voxels of the surface: from the middles of the voxels around to the point itself. */
class WayReader {
  private readonly voxel: Int32Array;
  private readonly offsets: Int32Array;
  /** From the point to the middles of its own voxel and of its neighbours, metres; 27 a point would be too many: worked out when asked. */
  private readonly centre = new Float64Array(3);

  constructor(
    private readonly solid: VoxelSolid,
    private readonly points: ArrayLike<number>,
  ) {
    this.offsets = neighbourhood(solid).offsets;
    this.voxel = new Int32Array(points.length / 3);
    for (let p = 0; p < this.voxel.length; p++) this.voxel[p] = voxelAt(solid, points[3 * p], points[3 * p + 1], points[3 * p + 2]);
  }

  way(p: number, distance: Int32Array): number {
    const { kind, cell } = this.solid;
    const own = this.voxel[p];
    let best = this.through(p, own, distance);
    for (let k = 0; k < 26; k++) {
      const other = own + this.offsets[k];
      if (kind[other] === OUTSIDE || distance[other] === FAR || (kind[own] === RIND && kind[other] !== CORE)) continue;
      const way = this.through(p, other, distance);
      if (way < best) best = way;
    }
    return best === Infinity ? best : Math.max(best, 0.1 * cell);
  }

  private through(p: number, voxel: number, distance: Int32Array): number {
    if (distance[voxel] === FAR) return Infinity;
    const { origin, cell, size } = this.solid;
    const c = this.centre;
    c[0] = origin[0] + ((voxel % size[0]) + 0.5) * cell - this.points[3 * p];
    c[1] = origin[1] + ((Math.floor(voxel / size[0]) % size[1]) + 0.5) * cell - this.points[3 * p + 1];
    c[2] = origin[2] + (Math.floor(voxel / (size[0] * size[1])) + 0.5) * cell - this.points[3 * p + 2];
    return (distance[voxel] * cell) / 10 + Math.sqrt(c[0] * c[0] + c[1] * c[1] + c[2] * c[2]);
  }
}

function sumToOne(rows: Float32Array, width: number): void {
  for (let at = 0; at < rows.length; at += width) {
    let sum = 0;
    for (let j = 0; j < width; j++) sum += rows[at + j];
    if (sum > 0) for (let j = 0; j < width; j++) rows[at + j] /= sum;
  }
}

/** Gives places that nothing holds what holds the nearest point of a surface that is held; of the nearest line where there is none. Gives how many. */
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
  for (let t = 0; t + 2 < corners.length; t += 3) if (isHeld[corners[t]] && isHeld[corners[t + 1]] && isHeld[corners[t + 2]]) sound.push(corners[t], corners[t + 1], corners[t + 2]);
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
      const u = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - lines[l]) * d[0] + (y - lines[l + 1]) * d[1] + (z - lines[l + 2]) * d[2]) / square));
      const off = Math.hypot(x - lines[l] - u * d[0], y - lines[l + 1] - u * d[1], z - lines[l + 2] - u * d[2]);
      if (off < least) [least, best] = [off, j];
    }
  });
  return best;
}

/** Each row takes half of the mean of its neighbours', as many times. Rows stay as their sums are. @param strength 0 to 1 @param only Rows that may change; all where left out. */
export function smoothRows(rows: Float32Array, width: number, { at, neighbours }: Rings, rounds: number, strength = 0.5, only?: Uint8Array): void {
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
  const heads = joints.flatMap(({ lines }) => (lines.length > 0 ? [(lines[0] + lines[3]) / 2, (lines[1] + lines[4]) / 2, (lines[2] + lines[5]) / 2] : [1e9, 1e9, 1e9]));
  return mirrorPlaces(heads, 0, 0, tolerance).map((twin, j) => (joints[j].lines.length > 0 ? twin : j));
}

/** Makes places that mirror each other hold alike, joints exchanged with their twins: the mean of both. Nothing where the joints are not mirrored. */
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

/** The strongest of each row, made to add up to 1, for every vertex of the row's place. */
export function keepStrongest(rows: Float32Array, width: number, placeOf: ArrayLike<number>, vertices: number, most: number): { joints: Uint16Array; weights: Float32Array } {
  const count = width === 0 ? 0 : rows.length / width;
  const joints = new Uint16Array(4 * vertices);
  const weights = new Float32Array(4 * vertices);
  const bestJoint = new Uint16Array(4 * count);
  const bestWeight = new Float64Array(4 * count);
  for (let p = 0; p < count; p++) {
    for (let j = 0; j < width; j++) {
      const weight = rows[p * width + j];
      if (!(weight > 1e-4)) continue;
      // Insertion into four places; of equal ones the first joint.
      for (let k = 0; k < most; k++) {
        if (weight <= bestWeight[4 * p + k]) continue;
        for (let m = most - 1; m > k; m--) {
          bestWeight[4 * p + m] = bestWeight[4 * p + m - 1];
          bestJoint[4 * p + m] = bestJoint[4 * p + m - 1];
        }
        bestWeight[4 * p + k] = weight;
        bestJoint[4 * p + k] = j;
        break;
      }
    }
  }
  for (let v = 0; v < vertices; v++) {
    const p = 4 * placeOf[v];
    let sum = 0;
    for (let k = 0; k < 4; k++) sum += bestWeight[p + k];
    if (sum === 0) continue;
    for (let k = 0; k < 4; k++) {
      joints[4 * v + k] = bestWeight[p + k] > 0 ? bestJoint[p + k] : 0;
      weights[4 * v + k] = bestWeight[p + k] / sum;
    }
  }
  return { joints, weights };
}
