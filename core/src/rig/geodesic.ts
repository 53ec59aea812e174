import { neighbourhood, OUTSIDE, RIND, type VoxelSolid } from './voxel-solid';

/** Not reached. */
export const FAR = 0x7fffffff;
const BUCKETS = 256;

/**
 * May one go on from a voxel of one kind to a neighbour of another? Through the inside, along sheets, and from one to the other; not from
 * rind to rind.
 */
function passes(from: number, to: number): boolean {
  return to !== OUTSIDE && !(from === RIND && to === RIND) && from !== OUTSIDE;
}

/** Tables of `passes` by 4 · from + to. */
const THROUGH = Uint8Array.from({ length: 16 }, (_, i) => (passes(i >> 2, i & 3) ? 1 : 0));

/**
 * Distances through a solid from some voxels, in tenths of a cell: Dijkstra with a ring of buckets (Dial 1969) over 26 neighbours.
 * One object is used again and again for a solid, so that nothing is allocated for each source.
 */
export class Geodesics {
  /** One a voxel; FAR where it was not reached. */
  readonly distance: Int32Array;
  private readonly offsets: Int32Array;
  private readonly lengths: Uint8Array;
  private readonly buckets: Int32Array[] = [];
  private readonly fill = new Int32Array(BUCKETS);

  constructor(readonly solid: VoxelSolid) {
    this.distance = new Int32Array(solid.kind.length);
    const { offsets, lengths } = neighbourhood(solid);
    this.offsets = offsets;
    this.lengths = lengths;
    for (let b = 0; b < BUCKETS; b++) this.buckets.push(new Int32Array(256));
  }

  /**
   * @param sources Voxels at distance 0.
   * @param cost What entering a voxel costs, as a factor of the way, 1 to 15; all the same where left out.
   * @returns the distances, valid until the next call
   */
  from(sources: Iterable<number>, cost?: Float32Array): Int32Array {
    const { distance, offsets, lengths, fill } = this;
    const { kind } = this.solid;
    distance.fill(FAR);
    fill.fill(0);
    let waiting = 0;
    for (const source of sources) {
      if (kind[source] === OUTSIDE || distance[source] === 0) continue;
      distance[source] = 0;
      this.push(0, source);
      waiting++;
    }
    for (let now = 0; waiting > 0; now++) {
      const slot = now % BUCKETS;
      for (let i = 0; i < fill[slot]; i++) {
        const at = this.buckets[slot][i];
        waiting--;
        if (distance[at] !== now) continue;
        const row = 4 * kind[at];
        for (let k = 0; k < 26; k++) {
          const other = at + offsets[k];
          if (THROUGH[row + kind[other]] === 0) continue;
          const there = now + (cost ? Math.max(1, Math.round(lengths[k] * cost[other])) : lengths[k]);
          if (there >= distance[other]) continue;
          distance[other] = there;
          this.push(there % BUCKETS, other);
          waiting++;
        }
      }
      fill[slot] = 0;
    }
    return distance;
  }

  private push(slot: number, voxel: number): void {
    let bucket = this.buckets[slot];
    if (this.fill[slot] === bucket.length) {
      const larger = new Int32Array(2 * bucket.length);
      larger.set(bucket);
      this.buckets[slot] = bucket = larger;
    }
    bucket[this.fill[slot]++] = voxel;
  }

  /** The way back from a voxel to where the last distances began, that voxel first. */
  wayBack(from: number): number[] {
    const { distance, offsets } = this;
    const { kind } = this.solid;
    const way = [from];
    if (distance[from] === FAR) return way;
    let at = from;
    while (distance[at] > 0) {
      let best = at;
      for (let k = 0; k < 26; k++) {
        const other = at + offsets[k];
        if (kind[other] !== OUTSIDE && THROUGH[4 * kind[other] + kind[at]] === 1 && distance[other] < distance[best]) best = other;
      }
      if (best === at) break;
      way.push((at = best));
    }
    return way;
  }
}

/** How far each voxel is from the solid, in tenths of a cell; 0 inside (Borgefors 1986, two passes). The outermost layer is left at FAR. */
export function outwardDistances(solid: VoxelSolid): Int32Array {
  const { kind, size } = solid;
  const { offsets, lengths } = neighbourhood(solid);
  const out = new Int32Array(kind.length);
  for (let i = 0; i < kind.length; i++) out[i] = kind[i] === OUTSIDE ? FAR - 100 : 0;
  const pass = (from: number, to: number, backwards: boolean) => {
    for (let n = 0; n < kind.length; n++) {
      const i = backwards ? kind.length - 1 - n : n;
      if (out[i] === 0) continue;
      const x = i % size[0];
      const y = Math.floor(i / size[0]) % size[1];
      const z = Math.floor(i / (size[0] * size[1]));
      if (x === 0 || y === 0 || z === 0 || x === size[0] - 1 || y === size[1] - 1 || z === size[2] - 1) continue;
      for (let k = from; k < to; k++) out[i] = Math.min(out[i], out[i + offsets[k]] + lengths[k]);
    }
  };
  pass(0, 13, false);
  pass(13, 26, true);
  return out;
}

/**
 * How deep each voxel lies, in tenths of a cell from the outermost surface; surfaces within others do not count (Borgefors 1986, two
 * passes).
 */
export function depths(solid: VoxelSolid): Int32Array {
  const { kind } = solid;
  const { offsets, lengths } = neighbourhood(solid);
  const depth = new Int32Array(kind.length);
  for (let i = 0; i < kind.length; i++) depth[i] = kind[i] === OUTSIDE ? 0 : FAR - 100;
  const relax = (i: number, from: number, to: number) => {
    if (depth[i] === 0) return;
    for (let k = from; k < to; k++) depth[i] = Math.min(depth[i], depth[i + offsets[k]] + lengths[k]);
  };
  for (let i = 0; i < kind.length; i++) relax(i, 0, 13);
  for (let i = kind.length - 1; i >= 0; i--) relax(i, 13, 26);
  // The surface runs through the middle of the outermost solid voxels.
  for (let i = 0; i < depth.length; i++) depth[i] = Math.max(0, depth[i] - 5);
  return depth;
}
