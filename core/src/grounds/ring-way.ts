import { newId, type Footprint, type Id, type Knot, type Rope, type Vec3, type Walkway } from '../document';
import { tilesAcross } from './tiles';
import { ropeFault } from './walk-check';
import type { Floors } from './walk-floors';

/** Knots nearer than this to the rim lie on it, metres. */
const ON_RIM = 0.05;
/** No new knot is put nearer than this share of a tile to one that is there. */
const APART = 0.25;

/** New knots and ropes of a ring, and at how many stretches it is open. */
export interface RingWay {
  knots: Knot[];
  ropes: Rope[];
  open: number;
}

/**
 * A ring along the rim of the tiles: a knot in each corner, one that is joined to the park in the middle of each tile's outer side, and
 * what lies on the rim already. Only what a visitor can walk is in it.
 *
 * @param tile The side of a tile, metres.
 */
export function ringWay(floors: Floors, footprint: Footprint, tile: number, walkway: Walkway | undefined): RingWay {
  const there = walkway?.knots ?? [];
  const around = length(footprint);
  const old = there.flatMap((knot) => {
    const at = alongRim(footprint, knot.at);
    return at === null ? [] : [{ at, knot }];
  });
  const isFar = (at: number) =>
    old.every((one) => {
      const off = Math.abs(one.at - at);
      return Math.min(off, around - off) >= APART * tile;
    });
  const fresh = rimPlaces(footprint, tile)
    .filter(({ at }) => isFar(at))
    .map(({ at, place, edge }) => ({ at, knot: { id: newId(), name: '', at: place, edge, boards: [], leaves: [] } satisfies Knot }));
  const standing = (knot: Knot) => ropeFault(floors, { id: '', from: '', to: '', oneWay: false, rail: false }, knot, knot) === null;
  const blocked = new Set<Knot>(fresh.map(({ knot }) => knot).filter((knot) => !standing(knot)));
  const all = [...old, ...fresh].sort((a, b) => a.at - b.at);
  const joined = new Set((walkway?.ropes ?? []).flatMap(({ from, to }) => [`${from} ${to}`, `${to} ${from}`]));
  const ropes: Rope[] = [];
  const isOpen = all.map(({ knot }, i) => {
    const next = all[(i + 1) % all.length].knot;
    if (blocked.has(knot) || blocked.has(next)) return true;
    if (joined.has(`${knot.id} ${next.id}`)) return false;
    const rope: Rope = { id: newId(), from: knot.id, to: next.id, oneWay: false, rail: false };
    if (ropeFault(floors, rope, knot, next) !== null) return true;
    ropes.push(rope);
    return false;
  });
  const open = isOpen.filter((here, i) => here && !isOpen[(i + isOpen.length - 1) % isOpen.length]).length;
  const used = new Set<Id>(ropes.flatMap(({ from, to }) => [from, to]));
  return { knots: fresh.map(({ knot }) => knot).filter(({ id }) => used.has(id)), ropes, open };
}

const sidesOf = ({ low, high }: Footprint): [number, number] => [high[0] - low[0], high[2] - low[2]];
const length = (footprint: Footprint): number => 2 * sidesOf(footprint).reduce((a, b) => a + b);

/** How far along the rim a place lies, from the lowest corner towards +x and on round, metres; null where it is not on it. */
function alongRim(footprint: Footprint, [x, , z]: Vec3): number | null {
  const [wide, deep] = sidesOf(footprint);
  const [u, v] = [x - footprint.low[0], z - footprint.low[2]];
  const within = (value: number, most: number) => value >= -ON_RIM && value <= most + ON_RIM;
  if (!within(u, wide) || !within(v, deep)) return null;
  if (Math.abs(v) <= ON_RIM) return Math.max(0, u);
  if (Math.abs(u - wide) <= ON_RIM) return wide + v;
  if (Math.abs(v - deep) <= ON_RIM) return wide + deep + (wide - u);
  if (Math.abs(u) <= ON_RIM) return 2 * wide + deep + (deep - v);
  return null;
}

/** Corners, and middles of the outer sides of tiles, in their order round the rim. */
function rimPlaces(footprint: Footprint, tile: number): { at: number; place: Vec3; edge: boolean }[] {
  const { low, high } = footprint;
  const [across, deep] = tilesAcross(footprint, tile);
  const middles = (n: number) => Array.from({ length: n }, (_, i) => tile * (i + 0.5));
  const corners: Vec3[] = [low, [high[0], 0, low[2]], [high[0], 0, high[2]], [low[0], 0, high[2]]].map(([x, , z]): Vec3 => [x, 0, z]);
  const sides: Vec3[] = [
    ...middles(across).flatMap((off): Vec3[] => [low, high].map(({ 2: z }): Vec3 => [low[0] + off, 0, z])),
    ...middles(deep).flatMap((off): Vec3[] => [low, high].map(({ 0: x }): Vec3 => [x, 0, low[2] + off])),
  ];
  return [...corners.map((place) => ({ place, edge: false })), ...sides.map((place) => ({ place, edge: true }))].map((one) => ({
    ...one,
    at: alongRim(footprint, one.place)!,
  }));
}
