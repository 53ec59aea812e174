import { partsInOrder, type Id, type Kit, type Part, type Vec3 } from '../document';
import { flattenParts, Poser } from '../geometry';

/** Seats that one part carries: visitors board and leave them together. */
export interface SeatGroup {
  /** What carries them. */
  carrier: Id;
  seats: Id[];
}

/**
 * Seats by what carries them.
 *
 * @param isSeat By the platform's names and what a person said.
 */
export function seatGroups(kit: Kit, isSeat: (part: Part) => boolean): SeatGroup[] {
  const groups = new Map<Id, Id[]>();
  for (const part of partsInOrder(kit)) {
    if (!isSeat(part)) continue;
    const carrier = part.parent ?? part.id;
    groups.set(carrier, [...(groups.get(carrier) ?? []), part.id]);
  }
  return [...groups].map(([carrier, seats]) => ({ carrier, seats }));
}

/** Where seats are at rest, metres. */
export function seatPlaces(kit: Kit, seats: readonly Id[]): Vec3[] {
  const poser = new Poser(flattenParts(kit));
  return seats.map((id) => Array.from(poser.worldOf(id).subarray(12, 15)) as Vec3);
}

/** Rows whose breadth is more than this share of their length are rings, or nothing that has an order of its own. */
const ROW = 0.35;

/**
 * Seats in the order in which people would count them: group by group; along a row from its one end to the other (from the left, else from
 * the back), round a ring from what is ahead.
 */
export function seatOrder(kit: Kit, groups: readonly SeatGroup[]): Id[] {
  return groups.flatMap(({ seats }) => {
    const places = seatPlaces(kit, seats);
    const middle = [0, 2].map((axis) => places.reduce((sum, place) => sum + place[axis], 0) / places.length);
    const off = places.map((place): [number, number] => [place[0] - middle[0], place[2] - middle[1]]);
    const [xx, xz, zz] = off.reduce(([a, b, c], [x, z]) => [a + x * x, b + x * z, c + z * z], [0, 0, 0]);
    // The longer axis of the places on the ground: the greater eigenvector of their second moments.
    const angle = Math.atan2(2 * xz, xx - zz) / 2;
    let [ax, az] = [Math.cos(angle), Math.sin(angle)];
    // From the left of who looks ahead, which is +x, else from the back.
    if (Math.abs(ax) > 1e-6 ? ax > 0 : az < 0) [ax, az] = [-ax, -az];
    const along = off.map(([x, z]) => x * ax + z * az);
    const aside = off.map(([x, z]) => x * az - z * ax);
    const length = Math.max(...along) - Math.min(...along);
    const breadth = Math.max(...aside) - Math.min(...aside);
    const round = off.map(([x, z]) => (Math.atan2(x, z) + 2 * Math.PI - 1e-9) % (2 * Math.PI));
    const rank = breadth > ROW * length ? round : along;
    // Rows in two lines are counted line by line.
    return seats
      .map((id, i) => ({ id, rank: rank[i], i }))
      .sort((a, b) => a.rank - b.rank || a.i - b.i)
      .map(({ id }) => id);
  });
}
