import { weldedPlaces } from '../geometry';

/** What a voxel is: nothing, cut by the surface with the inside beside it, cut by the surface of a sheet, or wholly inside. */
export const OUTSIDE = 0;
/** A voxel that the surface runs through, with inside beside it. */
export const RIND = 1;
/** A voxel that the surface runs through, with no inside beside it. */
export const THIN = 2;
/** A voxel inside. */
export const CORE = 3;

/**
 * A surface as solid cubes. A layer of outside lies all around, so that the 26 neighbours of a solid voxel are always there.
 *
 * Voxels cut by the surface (`RIND`) join only what is inside (`CORE`), not one another: two surfaces that lie nearer than two voxels, as
 * those of fingers, are not joined across the gap. Where there is no inside, as in cloth, the voxels of the surface (`THIN`) join one
 * another.
 */
export interface VoxelSolid {
  /** Corner of voxel 0, metres. */
  origin: [number, number, number];
  /** Side of a voxel, metres. */
  cell: number;
  /** Voxels along x, y, z. */
  size: [number, number, number];
  /** One a voxel, x fastest, then y, then z. */
  kind: Uint8Array;
}

/**
 * Fills a surface with voxels: those that triangles cut, found conservatively (Akenine-Möller, “Fast 3D triangle-box overlap testing”,
 * 2001), and those that a flood from outside does not reach. Rims of holes are closed by a fan for that, so that a glove open at the wrist
 * has an inside.
 *
 * @param positions 3 numbers a vertex, metres @param indices 3 a triangle @param resolution Voxels along the longest side.
 */
export function voxelSolid(positions: ArrayLike<number>, indices: ArrayLike<number>, resolution: number): VoxelSolid {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < indices.length; i++) {
    for (let axis = 0; axis < 3; axis++) {
      const value = positions[3 * indices[i] + axis];
      if (value < min[axis]) min[axis] = value;
      if (value > max[axis]) max[axis] = value;
    }
  }
  if (!(min[0] <= max[0])) return { origin: [0, 0, 0], cell: 1, size: [3, 3, 3], kind: new Uint8Array(27) };
  const longest = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2], 1e-6);
  const cell = longest / resolution;
  // The grid lies evenly about the middle of the bounds: what is the same on both sides is filled the same.
  const size = [0, 1, 2].map((axis) => Math.ceil((max[axis] - min[axis]) / cell + 1e-9) + 3) as [number, number, number];
  const origin = [0, 1, 2].map((axis) => (min[axis] + max[axis]) / 2 - (size[axis] * cell) / 2) as [number, number, number];
  const solid: VoxelSolid = { origin, cell, size, kind: new Uint8Array(size[0] * size[1] * size[2]) };
  markSurface(solid, positions, indices);
  const closing = rimFans(positions, indices);
  if (closing.indices.length > 0) markSurface(solid, closing.positions, closing.indices);
  floodOutside(solid);
  sortSurface(solid);
  return solid;
}

/** Triangles that reach over more cells than this are cut in two before their voxels are looked for. */
const SPAN = 6;

/** Sets every voxel that a triangle cuts to RIND. */
function markSurface(solid: VoxelSolid, positions: ArrayLike<number>, indices: ArrayLike<number>): void {
  const { origin, cell, size } = solid;
  // A face between two voxels would cut both, and the outer one have no inside beside it: everything is moved out by a hair, alike on both
  // sides.
  const hair = 1e-4 * cell;
  const middle = origin.map((value, axis) => value + (size[axis] * cell) / 2);
  const stack: number[] = [];
  const p = new Float64Array(9);
  const most = SPAN * cell;
  for (let t = 0; t + 2 < indices.length; t += 3) {
    for (let corner = 0; corner < 3; corner++) {
      const at = 3 * indices[t + corner];
      for (let axis = 0; axis < 3; axis++) {
        const value = positions[at + axis];
        p[3 * corner + axis] = value + (value < middle[axis] ? -hair : hair);
      }
    }
    if (!Number.isFinite(p[0] + p[1] + p[2] + p[3] + p[4] + p[5] + p[6] + p[7] + p[8])) continue;
    if (!halve(p, most, stack)) markTriangle(solid, p);
    while (stack.length > 0) {
      for (let i = 8; i >= 0; i--) p[i] = stack.pop()!;
      if (!halve(p, most, stack)) markTriangle(solid, p);
    }
  }
}

/** Cuts a triangle across its longest side, where that is longer than `most`, and puts both halves onto the stack. */
function halve(p: Float64Array, most: number, stack: number[]): boolean {
  let longest = 0;
  let side = 0;
  for (let s = 0; s < 3; s++) {
    const a = 3 * s;
    const b = s === 2 ? 0 : a + 3;
    const x = p[a] - p[b];
    const y = p[a + 1] - p[b + 1];
    const z = p[a + 2] - p[b + 2];
    const square = x * x + y * y + z * z;
    if (square > longest) {
      longest = square;
      side = s;
    }
  }
  if (longest <= most * most) return false;
  const [a, b, c] = [3 * side, 3 * ((side + 1) % 3), 3 * ((side + 2) % 3)];
  const m = [0, 1, 2].map((axis) => (p[a + axis] + p[b + axis]) / 2);
  stack.push(p[a], p[a + 1], p[a + 2], m[0], m[1], m[2], p[c], p[c + 1], p[c + 2]);
  stack.push(m[0], m[1], m[2], p[b], p[b + 1], p[b + 2], p[c], p[c + 1], p[c + 2]);
  return true;
}

function markTriangle({ origin, cell, size, kind }: VoxelSolid, p: Float64Array): void {
  const half = cell * 0.5 * (1 + 1e-7);
  const x0 = lowest(p, 0, origin[0], cell);
  const x1 = highest(p, 0, origin[0], cell, size[0]);
  const y0 = lowest(p, 1, origin[1], cell);
  const y1 = highest(p, 1, origin[1], cell, size[1]);
  const z0 = lowest(p, 2, origin[2], cell);
  const z1 = highest(p, 2, origin[2], cell, size[2]);
  for (let z = z0; z <= z1; z++) {
    for (let y = y0; y <= y1; y++) {
      for (let x = x0; x <= x1; x++) {
        const at = x + size[0] * (y + size[1] * z);
        if (kind[at] === RIND) continue;
        if (triangleCutsBox(p, origin[0] + (x + 0.5) * cell, origin[1] + (y + 0.5) * cell, origin[2] + (z + 0.5) * cell, half))
          kind[at] = RIND;
      }
    }
  }
}

function lowest(p: Float64Array, axis: number, origin: number, cell: number): number {
  return Math.max(1, Math.floor((Math.min(p[axis], p[3 + axis], p[6 + axis]) - origin) / cell - 1e-6));
}

function highest(p: Float64Array, axis: number, origin: number, cell: number, size: number): number {
  return Math.min(size - 2, Math.floor((Math.max(p[axis], p[3 + axis], p[6 + axis]) - origin) / cell + 1e-6));
}

/** Separating axes of a triangle and a cube. @param p Nine numbers. */
function triangleCutsBox(p: Float64Array, cx: number, cy: number, cz: number, half: number): boolean {
  const ax = p[0] - cx;
  const ay = p[1] - cy;
  const az = p[2] - cz;
  const bx = p[3] - cx;
  const by = p[4] - cy;
  const bz = p[5] - cz;
  const dx = p[6] - cx;
  const dy = p[7] - cy;
  const dz = p[8] - cz;
  if (Math.min(ax, bx, dx) > half || Math.max(ax, bx, dx) < -half) return false;
  if (Math.min(ay, by, dy) > half || Math.max(ay, by, dy) < -half) return false;
  if (Math.min(az, bz, dz) > half || Math.max(az, bz, dz) < -half) return false;
  const ux = bx - ax;
  const uy = by - ay;
  const uz = bz - az;
  const vx = dx - bx;
  const vy = dy - by;
  const vz = dz - bz;
  const wx = ax - dx;
  const wy = ay - dy;
  const wz = az - dz;
  const nx = uy * vz - uz * vy;
  const ny = uz * vx - ux * vz;
  const nz = ux * vy - uy * vx;
  if (Math.abs(nx * ax + ny * ay + nz * az) > half * (Math.abs(nx) + Math.abs(ny) + Math.abs(nz))) return false;
  return (
    edgeMeets(uy, uz, ay, az, dy, dz, half) &&
    edgeMeets(uz, ux, az, ax, dz, dx, half) &&
    edgeMeets(ux, uy, ax, ay, dx, dy, half) &&
    edgeMeets(vy, vz, ay, az, by, bz, half) &&
    edgeMeets(vz, vx, az, ax, bz, bx, half) &&
    edgeMeets(vx, vy, ax, ay, bx, by, half) &&
    edgeMeets(wy, wz, ay, az, by, bz, half) &&
    edgeMeets(wz, wx, az, ax, bz, bx, half) &&
    edgeMeets(wx, wy, ax, ay, bx, by, half)
  );
}

/** Along the axis across one edge and one side of the cube: whether the two corners that differ there reach into the cube. */
function edgeMeets(e: number, f: number, ae: number, af: number, be: number, bf: number, half: number): boolean {
  const one = e * af - f * ae;
  const two = e * bf - f * be;
  const reach = half * (Math.abs(e) + Math.abs(f));
  return Math.min(one, two) <= reach && Math.max(one, two) >= -reach;
}

/** Fans from the middle of each rim of open edges. */
function rimFans(positions: ArrayLike<number>, indices: ArrayLike<number>): { positions: number[]; indices: number[] } {
  const places = weldedPlaces(positions instanceof Float32Array ? positions : Float32Array.from(positions));
  const out = { positions: [] as number[], indices: [] as number[] };
  const vertexOf = new Map<number, number>();
  // Edges by a number of their two places, sorted: those that come an odd number of times have a triangle on one side alone.
  const edges = new Float64Array(3 * Math.floor(indices.length / 3));
  let used = 0;
  for (let t = 0; t + 2 < indices.length; t += 3) {
    for (let side = 0; side < 3; side++) {
      const a = places[indices[t + side]];
      const b = places[indices[side === 2 ? t : t + side + 1]];
      if (a !== b) edges[used++] = a < b ? a * places.length + b : b * places.length + a;
    }
  }
  const sorted = edges.subarray(0, used).sort();
  const open: number[] = [];
  for (let i = 0; i < used;) {
    let next = i + 1;
    while (next < used && sorted[next] === sorted[i]) next++;
    if ((next - i) % 2 === 1) open.push(sorted[i]);
    i = next;
  }
  if (open.length === 0) return out;
  for (let i = 0; i < indices.length; i++) vertexOf.set(places[indices[i]], indices[i]);
  const next = new Map<number, number[]>();
  for (const key of open) {
    const ends = [Math.floor(key / places.length), key % places.length];
    for (const [from, to] of [ends, [ends[1], ends[0]]]) {
      const list = next.get(from);
      if (list) list.push(to);
      else next.set(from, [to]);
    }
  }
  const seen = new Set<number>();
  for (const start of next.keys()) {
    if (seen.has(start)) continue;
    const rim: number[] = [];
    const stack = [start];
    const pairs: [number, number][] = [];
    while (stack.length > 0) {
      const here = stack.pop()!;
      if (seen.has(here)) continue;
      seen.add(here);
      rim.push(here);
      for (const other of next.get(here)!) {
        if (here < other) pairs.push([here, other]);
        if (!seen.has(other)) stack.push(other);
      }
    }
    const middle = [0, 1, 2].map((axis) => rim.reduce((sum, place) => sum + positions[3 * vertexOf.get(place)! + axis], 0) / rim.length);
    for (const [a, b] of pairs) {
      const first = out.positions.length / 3;
      for (const place of [a, b]) for (let axis = 0; axis < 3; axis++) out.positions.push(positions[3 * vertexOf.get(place)! + axis]);
      out.positions.push(...middle);
      out.indices.push(first, first + 1, first + 2);
    }
  }
  return out;
}

/** Marks as CORE what the outside does not reach across faces. */
function floodOutside({ size, kind }: VoxelSolid): void {
  const FLOODED = 4;
  const [nx, ny, nz] = size;
  const stack = new Int32Array(kind.length);
  let top = 0;
  const reach = (at: number) => {
    if (kind[at] !== OUTSIDE) return;
    kind[at] = FLOODED;
    stack[top++] = at;
  };
  for (let z = 0; z < nz; z++)
    for (let y = 0; y < ny; y++)
      for (let x = 0; x < nx; x++)
        if (x === 0 || y === 0 || z === 0 || x === nx - 1 || y === ny - 1 || z === nz - 1) reach(x + nx * (y + ny * z));
  while (top > 0) {
    const at = stack[--top];
    const x = at % nx;
    const y = Math.floor(at / nx) % ny;
    const z = Math.floor(at / (nx * ny));
    if (x > 0) reach(at - 1);
    if (x < nx - 1) reach(at + 1);
    if (y > 0) reach(at - nx);
    if (y < ny - 1) reach(at + nx);
    if (z > 0) reach(at - nx * ny);
    if (z < nz - 1) reach(at + nx * ny);
  }
  for (let i = 0; i < kind.length; i++) {
    if (kind[i] === FLOODED) kind[i] = OUTSIDE;
    else if (kind[i] === OUTSIDE) kind[i] = CORE;
  }
}

/** Voxels of the surface with no inside beside them are THIN. */
function sortSurface(solid: VoxelSolid): void {
  const { kind } = solid;
  const { offsets } = neighbourhood(solid);
  const thin: number[] = [];
  for (let i = 0; i < kind.length; i++) {
    if (kind[i] !== RIND) continue;
    let lone = true;
    for (let k = 0; lone && k < 26; k++) lone = kind[i + offsets[k]] !== CORE;
    if (lone) thin.push(i);
  }
  for (const i of thin) kind[i] = THIN;
}

/** The 26 neighbours of a voxel as steps in the array, and how far each is: 10, 14 or 17 tenths of a cell (Borgefors 1986, rounded). */
export function neighbourhood({ size }: VoxelSolid): { offsets: Int32Array; lengths: Uint8Array } {
  const offsets = new Int32Array(26);
  const lengths = new Uint8Array(26);
  let k = 0;
  for (let z = -1; z <= 1; z++) {
    for (let y = -1; y <= 1; y++) {
      for (let x = -1; x <= 1; x++) {
        if (x === 0 && y === 0 && z === 0) continue;
        offsets[k] = x + size[0] * (y + size[1] * z);
        lengths[k++] = [0, 10, 14, 17][Math.abs(x) + Math.abs(y) + Math.abs(z)];
      }
    }
  }
  return { offsets, lengths };
}

/** The voxel that a point lies in; points beyond the grid are taken at its border. */
export function voxelAt({ origin, cell, size }: VoxelSolid, x: number, y: number, z: number): number {
  const ix = Math.min(size[0] - 2, Math.max(1, Math.floor((x - origin[0]) / cell)));
  const iy = Math.min(size[1] - 2, Math.max(1, Math.floor((y - origin[1]) / cell)));
  const iz = Math.min(size[2] - 2, Math.max(1, Math.floor((z - origin[2]) / cell)));
  return ix + size[0] * (iy + size[1] * iz);
}

/** Middle of a voxel, metres. */
export function voxelCentre({ origin, cell, size }: VoxelSolid, at: number): [number, number, number] {
  return [
    origin[0] + ((at % size[0]) + 0.5) * cell,
    origin[1] + ((Math.floor(at / size[0]) % size[1]) + 0.5) * cell,
    origin[2] + (Math.floor(at / (size[0] * size[1])) + 0.5) * cell,
  ];
}

/** The solid voxel whose middle is nearest to a point, looked for in growing shells; −1 where the solid is empty. */
export function nearestSolid(
  solid: VoxelSolid,
  x: number,
  y: number,
  z: number,
  wanted: (kind: number) => boolean = (kind) => kind !== OUTSIDE,
): number {
  const { kind, size } = solid;
  const start = voxelAt(solid, x, y, z);
  if (wanted(kind[start])) return start;
  const at = [start % size[0], Math.floor(start / size[0]) % size[1], Math.floor(start / (size[0] * size[1]))];
  const furthest = Math.max(...size);
  let best = -1;
  let bestSquare = Infinity;
  for (let shell = 1; shell <= furthest; shell++) {
    // A voxel of this shell is at least so far off.
    if (best >= 0 && ((shell - 1) * solid.cell) ** 2 > bestSquare) break;
    for (let dz = -shell; dz <= shell; dz++) {
      for (let dy = -shell; dy <= shell; dy++) {
        const step = Math.abs(dz) === shell || Math.abs(dy) === shell ? 1 : 2 * shell;
        for (let dx = -shell; dx <= shell; dx += step) {
          const [ix, iy, iz] = [at[0] + dx, at[1] + dy, at[2] + dz];
          if (ix < 0 || iy < 0 || iz < 0 || ix >= size[0] || iy >= size[1] || iz >= size[2]) continue;
          const i = ix + size[0] * (iy + size[1] * iz);
          if (!wanted(kind[i])) continue;
          const [cx, cy, cz] = voxelCentre(solid, i);
          const square = (cx - x) ** 2 + (cy - y) ** 2 + (cz - z) ** 2;
          if (square < bestSquare) [best, bestSquare] = [i, square];
        }
      }
    }
  }
  return best;
}
