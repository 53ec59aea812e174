import { partsInOrder, type Clip, type Id } from '../../document';
import { flattenParts, Poser, type Mat4 } from '../../geometry';
import { compileClip, sampleClip } from '../../motion';
import type { CheckContext } from '../types';

/** Where and by how much two poses of a clip differ. */
export interface PoseGap {
  /** How far the corner of a part's bounds is from where it was that went furthest, metres. */
  metres: number;
  part: Id | null;
}

/**
 * The greatest distance between a kit's parts in two poses, measured at the corners of their bounds at rest and at their pivots.
 *
 * @param from Seconds within the clip; null for rest.
 */
export function poseGap({ kit, blobs, bounds, rest }: CheckContext, clip: Clip, from: number | null, to: number): PoseGap {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  const worlds = (time: number | null): Float64Array => {
    poser.reset();
    if (time !== null) sampleClip(compiled, time, poser.pose);
    poser.update();
    return poser.world.slice();
  };
  const a = worlds(from);
  const b = worlds(to);
  const gap: PoseGap = { metres: 0, part: null };
  for (const part of partsInOrder(kit)) {
    const at = 16 * poser.flat.indexOf.get(part.id)!;
    const box = bounds().get(part.id);
    const points = [[0, 0, 0], ...(box && part.skin === null ? cornersIn(rest().worldOf(part.id), box) : [])];
    for (const [x, y, z] of points) {
      let square = 0;
      for (let row = 0; row < 3; row++) {
        const p = a[at + row] * x + a[at + 4 + row] * y + a[at + 8 + row] * z + a[at + 12 + row];
        const q = b[at + row] * x + b[at + 4 + row] * y + b[at + 8 + row] * z + b[at + 12 + row];
        square += (p - q) ** 2;
      }
      if (Math.sqrt(square) > gap.metres) {
        gap.metres = Math.sqrt(square);
        gap.part = part.id;
      }
    }
  }
  return gap;
}

/** Corners of a world box in a part's own axes, near enough for a part that is turned and moved. */
function cornersIn(world: Mat4, { min, max }: { min: number[]; max: number[] }): number[][] {
  const scale = [0, 4, 8].map((c) => Math.hypot(world[c], world[c + 1], world[c + 2]) || 1);
  return Array.from({ length: 8 }, (_, corner) => {
    const d = [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? max[axis] : min[axis]) - world[12 + axis]);
    return [0, 4, 8].map((c, i) => (world[c] * d[0] + world[c + 1] * d[1] + world[c + 2] * d[2]) / scale[i] ** 2);
  });
}
