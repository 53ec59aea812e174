import type { Axis, Id, Kit } from '../document';

export interface MotionKinds {
  /** Sparse offset tracks: each holds one axis, so they can't be mixed. */
  offsetKeys: boolean;
  sizes: boolean;
  /** Dense rotations about any axis. */
  spins: boolean;
  turnAxes: Set<Axis>;
}

/** What kinds of motion a part has, over all clips and bindings. */
export function motionOf(kit: Kit, part: Id): MotionKinds {
  const kinds: MotionKinds = { offsetKeys: false, sizes: false, spins: false, turnAxes: new Set() };
  for (const clip of Object.values(kit.clips)) {
    for (const track of clip.tracks) {
      if (track.part !== part) continue;
      if (track.property === 'size') kinds.sizes = true;
      else if (track.property === 'rotation') kinds.spins = true;
      else if (track.kind !== 'samples' && track.property === 'turn') kinds.turnAxes.add(track.axis as Axis);
      else if (track.kind !== 'samples' && track.property === 'offset') kinds.offsetKeys = true;
    }
  }
  for (const binding of Object.values(kit.bindings)) {
    if (binding.part !== part) continue;
    for (const row of binding.rows) {
      row.turn.forEach((value, axis) => value !== 0 && kinds.turnAxes.add(axis as Axis));
      if (row.size.some((value) => value !== 1)) kinds.sizes = true;
    }
  }
  return kinds;
}
