import { voxelSolid, type JointLines } from '@itchkit/core/rig';

/** The peer of the solve: ways through the same solid from each joint, by Dijkstra with a binary heap as the textbooks have it. */
export function heapDistances(positions: Float32Array, indices: Uint32Array, joints: readonly JointLines[], resolution: number): number {
  const { origin, cell, size, kind } = voxelSolid(positions, indices, resolution);
  const distance = new Float64Array(kind.length);
  const steps: [number, number][] = [];
  for (let z = -1; z <= 1; z++)
    for (let y = -1; y <= 1; y++)
      for (let x = -1; x <= 1; x++) if (x !== 0 || y !== 0 || z !== 0) steps.push([x + size[0] * (y + size[1] * z), Math.hypot(x, y, z)]);
  let sum = 0;
  for (const { lines } of joints) {
    distance.fill(Infinity);
    const heap: [number, number][] = [];
    for (let s = 0; s <= 40; s++) {
      const at = [0, 1, 2].map((axis) => Math.floor((lines[axis] + ((lines[3 + axis] - lines[axis]) * s) / 40 - origin[axis]) / cell));
      const voxel = at[0] + size[0] * (at[1] + size[1] * at[2]);
      if (kind[voxel] === 0 || distance[voxel] === 0) continue;
      distance[voxel] = 0;
      push(heap, [0, voxel]);
    }
    while (heap.length > 0) {
      const [far, voxel] = pop(heap);
      if (far > distance[voxel]) continue;
      for (const [step, length] of steps) {
        const other = voxel + step;
        if (kind[other] === 0 || far + length >= distance[other]) continue;
        distance[other] = far + length;
        push(heap, [far + length, other]);
      }
    }
    for (const far of distance) if (far < Infinity) sum += far;
  }
  return sum;
}

function push(heap: [number, number][], item: [number, number]): void {
  heap.push(item);
  for (let i = heap.length - 1; i > 0;) {
    const up = (i - 1) >> 1;
    if (heap[up][0] <= heap[i][0]) break;
    [heap[up], heap[i]] = [heap[i], heap[up]];
    i = up;
  }
}

function pop(heap: [number, number][]): [number, number] {
  const [top] = heap;
  const last = heap.pop()!;
  if (heap.length === 0) return top;
  heap[0] = last;
  for (let i = 0; ;) {
    let least = 2 * i + 1;
    if (least >= heap.length) break;
    if (least + 1 < heap.length && heap[least + 1][0] < heap[least][0]) least++;
    if (heap[i][0] <= heap[least][0]) break;
    [heap[i], heap[least]] = [heap[least], heap[i]];
    i = least;
  }
  return top;
}
