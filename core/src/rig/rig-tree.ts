import { childrenOf, jointsOf, partsInOrder, type Id, type Kit, type Part, type Vec3 } from '../document';
import { invertMatrix, restWorlds, transformPoint } from '../geometry';
import type { JointLines } from './solve-weights';

/** How long a last joint is taken to be, as a share of the one before it, where nobody said. */
const LAST = 0.6;

/** Every joint of the kit, parents before children. */
export function jointsInOrder(kit: Kit): Id[] {
  const joints = jointsOf(kit);
  return partsInOrder(kit)
    .filter((part) => joints.has(part.id))
    .map((part) => part.id);
}

/** Joints below a joint, seen through parts that are none. */
function jointChildren(kit: Kit, id: Id, joints: ReadonlySet<Id>): Part[] {
  return childrenOf(kit, id).filter((part) => joints.has(part.id));
}

/**
 * The end of a joint in the world: as it says, else its only child's head, else a way on in the direction it came. Null where that is
 * nowhere.
 */
export function tailOf(kit: Kit, id: Id, joints: ReadonlySet<Id>, worlds: ReadonlyMap<Id, Float64Array>): Vec3 | null {
  const part = kit.parts[id];
  const world = worlds.get(id)!;
  if (part.tail) return transformPoint(world, part.tail);
  const children = jointChildren(kit, id, joints);
  if (children.length === 1) return headOf(worlds, children[0].id);
  if (children.length > 1 || part.parent === null || !joints.has(part.parent)) return null;
  const [from, head] = [headOf(worlds, part.parent), headOf(worlds, id)];
  const way = head.map((value, axis) => value - from[axis]) as Vec3;
  return Math.hypot(...way) < 1e-9 ? null : (head.map((value, axis) => value + LAST * way[axis]) as Vec3);
}

/** Where a joint begins: the place of its matrix, metres. */
export function headOf(worlds: ReadonlyMap<Id, Float64Array>, id: Id): Vec3 {
  const world = worlds.get(id)!;
  return [world[12], world[13], world[14]];
}

/**
 * Where joints run through the body: from each head to the heads below it, or to the tail.
 *
 * @param off Joints that are to hold nothing.
 */
export function jointLines(kit: Kit, joints: readonly Id[], off: ReadonlySet<Id> = new Set()): JointLines[] {
  const worlds = restWorlds(kit);
  const all = new Set(joints);
  return joints.map((id) => {
    const above = kit.parts[id].parent;
    const parent = above === null ? -1 : joints.indexOf(above);
    if (off.has(id)) return { lines: [], parent };
    const head = headOf(worlds, id);
    const children = jointChildren(kit, id, all);
    const tail = tailOf(kit, id, all, worlds);
    const ends = kit.parts[id].tail || children.length === 0 ? [tail ?? head] : children.map((child) => headOf(worlds, child.id));
    return { parent, lines: ends.flatMap((end) => [...head, ...end]) };
  });
}

/**
 * Joints that hold nothing unless asked to: the topmost ones that carry a single joint and stand on the ground, as one that places the
 * whole.
 */
export function placingJoints(kit: Kit, joints: readonly Id[]): Set<Id> {
  const worlds = restWorlds(kit);
  const all = new Set(joints);
  const highest = Math.max(0, ...joints.map((id) => headOf(worlds, id)[1]));
  return new Set(
    joints.filter((id) => {
      const { parent } = kit.parts[id];
      return (
        (parent === null || !all.has(parent)) &&
        jointChildren(kit, id, all).length === 1 &&
        headOf(worlds, id)[1] < 0.02 * highest &&
        Math.hypot(headOf(worlds, id)[0], headOf(worlds, id)[2]) < 0.05 * highest
      );
    }),
  );
}

/** Puts a part at a point of the world; what hangs below comes along unless it is said to stay. Turns and scales stay. */
export function placeHead(kit: Kit, id: Id, at: Vec3, below: 'follow' | 'stay'): void {
  const part = kit.parts[id];
  const worlds = restWorlds(kit);
  const children = childrenOf(kit, id).map((child) => ({ child, at: headOf(worlds, child.id) }));
  const tail = part.tail && below === 'stay' ? transformPoint(worlds.get(id)!, part.tail) : null;
  const above = part.parent === null ? null : invertMatrix(worlds.get(part.parent)!);
  part.translation = tidy(above ? transformPoint(above, at) : at);
  if (below === 'follow') return;
  const inverse = invertMatrix(restWorlds(kit).get(id)!);
  if (!inverse) return;
  for (const { child, at: stood } of children) child.translation = tidy(transformPoint(inverse, stood));
  if (tail) part.tail = tidy(transformPoint(inverse, tail));
}

/** Without the tail that arithmetic leaves: a nanometre. */
export const tidy = (point: Vec3) => point.map((value) => Number(value.toFixed(9)) + 0) as Vec3;
