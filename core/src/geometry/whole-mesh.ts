import { readArray, type Blobs, type Mesh } from '../document';

/** All triangles of a mesh in one list, primitive after primitive: what faces are counted by. */
export interface WholeMesh {
  positions: Float32Array;
  /** Into `positions`, 3 a triangle. */
  indices: Uint32Array;
  /** First triangle of each primitive; one more entry than primitives. */
  starts: number[];
  /** First vertex of each primitive; one more entry than primitives. */
  vertexStarts: number[];
}

const made = new WeakMap<Mesh, WholeMesh>();

/** Worked out once for each mesh of the document. */
export function wholeMesh(mesh: Mesh, blobs: Blobs): WholeMesh {
  let whole = made.get(mesh);
  if (!whole) made.set(mesh, (whole = gather(mesh, blobs)));
  return whole;
}

function gather({ primitives }: Mesh, blobs: Blobs): WholeMesh {
  const starts = [0];
  const vertexStarts = [0];
  for (const { indices, attributes } of primitives) {
    starts.push(starts.at(-1)! + Math.floor(indices.count / 3));
    vertexStarts.push(vertexStarts.at(-1)! + (attributes.POSITION?.count ?? 0));
  }
  const positions = new Float32Array(3 * vertexStarts.at(-1)!);
  const indices = new Uint32Array(3 * starts.at(-1)!);
  primitives.forEach((primitive, p) => {
    if (primitive.attributes.POSITION) positions.set(readArray<Float32Array>(blobs, primitive.attributes.POSITION), 3 * vertexStarts[p]);
    const own = readArray<Uint32Array>(blobs, primitive.indices).subarray(0, 3 * (starts[p + 1] - starts[p]));
    const [at, first] = [3 * starts[p], vertexStarts[p]];
    indices.set(own, at);
    if (first > 0) for (let i = at; i < at + own.length; i++) indices[i] += first;
  });
  return { positions, indices, starts, vertexStarts };
}

/** Numbers as runs of a first one and how many follow it: a choice of faces, short enough to be kept in the history. */
export type Runs = [first: number, count: number][];

/** Whole numbers as runs of first and last, sorted. */
export function runsOf(numbers: Iterable<number>): Runs {
  const sorted = Uint32Array.from(numbers).sort();
  const runs: Runs = [];
  for (const n of sorted) {
    const last = runs.at(-1);
    if (last && n < last[0] + last[1]) continue;
    if (last && n === last[0] + last[1]) last[1]++;
    else runs.push([n, 1]);
  }
  return runs;
}

/** One for each number below `size` that the runs hold, otherwise 0. */
export function markRuns(runs: Runs, size: number): Uint8Array {
  const marks = new Uint8Array(size);
  for (const [first, count] of runs) marks.fill(1, first, Math.min(size, first + count));
  return marks;
}
