import { expose } from 'comlink';
import { MemoryBlobs, type Id, type Kit } from '@itchkit/core/document';
import { findLoops, poseDistances, poseRows, SeamMeasure, type LoopPair, type SeamFigure } from '@itchkit/core/motion';

export interface LoopTask {
  clip: Id;
  from: number;
  to: number;
  rate: number;
  parts: Id[];
  root: Id | null;
}

export interface LoopsFound {
  pairs: (LoopPair & { fromSeconds: number; toSeconds: number; seam: SeamFigure })[];
  /** Square roots of the distances between every two of so many frames, thinned for a picture; metres. */
  map: Float32Array;
  side: number;
}

/** The side of the map, at most. */
const MOST = 240;

/** What Motion works out beside the interface. */
const mover = {
  loops(kit: Kit, entries: [string, Uint8Array][], task: LoopTask, told: (share: number) => void): LoopsFound {
    const blobs = new MemoryBlobs();
    for (const [sha, bytes] of entries) blobs.load(sha, bytes);
    const rows = poseRows(kit, kit.clips[task.clip], blobs, task);
    let said = 0;
    const distances = poseDistances(rows, (share) => {
      if (share - said > 0.05) told((said = share));
      return true;
    })!;
    const measure = new SeamMeasure(kit, kit.clips[task.clip], blobs, task.root);
    const pairs = findLoops(rows, distances).map((pair) => {
      const [fromSeconds, toSeconds] = [rows.times[pair.from], rows.times[pair.to]];
      return { ...pair, fromSeconds, toSeconds, seam: measure.between(toSeconds, fromSeconds, 1 / task.rate) };
    });
    const side = Math.min(MOST, rows.frames);
    const map = new Float32Array(side * side);
    const frame = (i: number) => Math.round((i * (rows.frames - 1)) / Math.max(1, side - 1));
    for (let i = 0; i < side; i++)
      for (let j = 0; j < side; j++) map[i * side + j] = Math.sqrt(distances[frame(i) * rows.frames + frame(j)]);
    return { pairs, map, side };
  },
};

export type Mover = typeof mover;

expose(mover);
