import type { Id, Kit } from '../document';
import { isEmptyBounds, meshCounts, type Bounds } from './vertices';

export interface TwinPair {
  left: Id;
  right: Id;
}

/**
 * Parts that are one another's mirror image across the plane x = 0: as many triangles, and bounds at rest that mirror each other to a
 * hundredth of the kit's size. In canonical space (+Y up, +Z forward) the left is +X. A part is in one pair at most, the nearest first.
 *
 * @param bounds World bounds at rest, by part.
 */
export function findTwins(kit: Kit, bounds: ReadonlyMap<Id, Bounds>): TwinPair[] {
  const boxes = [...bounds].filter(([, box]) => !isEmptyBounds(box));
  const extent = Math.max(...boxes.flatMap(([, { min, max }]) => [...min, ...max].map(Math.abs)), 1e-9);
  const near = 0.01 * extent;
  const middle = ({ min, max }: Bounds) => (min[0] + max[0]) / 2;
  const left = boxes.filter(([, box]) => middle(box) > near);
  const right = boxes.filter(([, box]) => middle(box) < -near);
  const candidates = left.flatMap(([a, box]) =>
    right.map(([b, other]) => ({ left: a, right: b, off: mirrorGap(box, other) })).filter(({ off }) => off <= near),
  );
  const used = new Set<Id>();
  return candidates
    .filter((pair) => meshCounts(kit, kit.parts[pair.left].mesh).triangles === meshCounts(kit, kit.parts[pair.right].mesh).triangles)
    .sort((a, b) => a.off - b.off)
    .flatMap(({ left: a, right: b }) => {
      if (used.has(a) || used.has(b)) return [];
      used.add(a).add(b);
      return [{ left: a, right: b }];
    });
}

/** The greatest distance between the faces of a box and those of another, mirrored. */
function mirrorGap(a: Bounds, b: Bounds): number {
  const mirrored = { min: [-b.max[0], b.min[1], b.min[2]], max: [-b.min[0], b.max[1], b.max[2]] };
  return Math.max(...[0, 1, 2].flatMap((axis) => [Math.abs(a.min[axis] - mirrored.min[axis]), Math.abs(a.max[axis] - mirrored.max[axis])]));
}
