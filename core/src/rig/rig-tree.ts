import { childrenOf, jointsOf, partsInOrder, type Id, type Kit, type Part, type Vec3 } from '../document';
import { dot, invertMatrix, restWorlds, subtract, transformPoint } from '../geometry';
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

const distance = (a: Vec3, b: Vec3) => Math.hypot(...subtract(a, b));

/** Where a joint begins: the place of its matrix, metres. */
export function headOf(worlds: ReadonlyMap<Id, Float64Array>, id: Id): Vec3 {
  const world = worlds.get(id)!;
  return [world[12], world[13], world[14]];
}

/** So many last joints below one are looked at as a list without chains. */
const FLAT = 4;
/** Cosine of how far aside of the way from the one above a next joint may lie. */
const ONWARD = 0.5;

/**
 * The joint above each joint, as lines through the body go: that of the tree, but where many last joints hang side by side below one, as
 * capture hardware writes hands, chains are found by place. Each goes on from the one among them that lies nearer to the joint above and
 * to which it is nearest, ways that bend aside counting up to twice as long.
 */
export function parentsByPlace(kit: Kit, joints: readonly Id[], worlds: ReadonlyMap<Id, Float64Array>): Map<Id, Id | null> {
  const all = new Set(joints);
  const out = new Map<Id, Id | null>();
  for (const id of joints) {
    const { parent } = kit.parts[id];
    out.set(id, parent !== null && all.has(parent) ? parent : null);
  }
  for (const above of joints) {
    const list = jointChildren(kit, above, all).filter(({ id }) => jointChildren(kit, id, all).length === 0);
    if (list.length < FLAT) continue;
    const root = headOf(worlds, above);
    const heads = list.map(({ id }) => ({ id, at: headOf(worlds, id), from: distance(headOf(worlds, id), root) }));
    for (const joint of heads) {
      let best = joint.from;
      for (const other of heads) {
        const way = distance(joint.at, other.at);
        if (other.from >= joint.from || other.from < 1e-9 || way < 1e-9) continue;
        const cosine = dot(subtract(joint.at, other.at), subtract(other.at, root)) / (way * other.from);
        const cost = way * (2 - cosine);
        if (cosine > ONWARD && cost < best) {
          best = cost;
          out.set(joint.id, other.id);
        }
      }
    }
  }
  return out;
}

/**
 * Where joints run through the body: from each head to the heads below it, or to the tail.
 *
 * @param off Joints that are to hold nothing.
 */
export function jointLines(kit: Kit, joints: readonly Id[], off: ReadonlySet<Id> = new Set()): JointLines[] {
  const worlds = restWorlds(kit);
  const above = parentsByPlace(kit, joints, worlds);
  const below = new Map<Id, Id[]>();
  for (const [id, parent] of above) if (parent !== null) below.set(parent, [...(below.get(parent) ?? []), id]);
  return joints.map((id) => {
    const parent = above.get(id) ?? null;
    const at = parent === null ? -1 : joints.indexOf(parent);
    if (off.has(id)) return { lines: [], parent: at };
    const head = headOf(worlds, id);
    const { tail } = kit.parts[id];
    const children = below.get(id) ?? [];
    const ends = tail || children.length === 0 ? [endOf(worlds, id, parent, tail)] : children.map((child) => headOf(worlds, child));
    return { parent: at, lines: ends.flatMap((end) => [...head, ...end]) };
  });
}

/** The end of a joint with nothing below it: as it says, else a way on in the direction it came, else its head. */
function endOf(worlds: ReadonlyMap<Id, Float64Array>, id: Id, parent: Id | null, tail: Vec3 | undefined): Vec3 {
  if (tail) return transformPoint(worlds.get(id)!, tail);
  const head = headOf(worlds, id);
  if (parent === null) return head;
  const way = subtract(head, headOf(worlds, parent));
  return head.map((value, axis) => value + LAST * way[axis]) as Vec3;
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
