import FlatQueue from 'flatqueue';
import { newId, type Id, type Knot, type Rope, type Vec3, type Walkway } from '../document';
import { columnBeside, floorsOf, hasRoom, neighbours, NONE, ontoPlot, placeUnder, type Floors } from './walk-floors';
import type { WalkWorld } from './walk-spans';

/** What a way is found to: the places of seats that one part carries. */
export interface WayGoal {
  carrier: Id;
  places: Vec3[];
}

/** A way that was found, and what it does not reach. */
export interface FoundWay {
  walkway: Walkway;
  /** Carriers whose seats no visitor comes to. */
  unreached: Id[];
}

/** How much longer a way may be for being in the middle: a place without room to spare counts this much more. */
const SQUEEZE = 2;
/** Heights along a rope may be off the straight line by this share of a step. */
const OFF_LINE = 0.9;
/** Looks along a rope stand this share of a column apart. */
const LOOKS = 0.15;

/**
 * The walkway of a plot: from its edge to each group of seats, over what can be walked on, in the middle of it where there is room.
 * Shortest ways over the floors of the filled columns (Dijkstra 1959, by length and room to spare) from the edge to each boarding place,
 * joined where they come together, and pulled straight as far as a visitor can walk straight on.
 */
export function findWay(world: WalkWorld, goals: readonly WayGoal[]): FoundWay {
  const floors = floorsOf(world);
  const free = freePlaces(floors);
  const from = edgePlaces(floors, free);
  const { cost, before } = waysFrom(floors, from, free);
  const ends = new Map<number, Id[]>();
  const unreached: Id[] = [];
  for (const { carrier, places } of goals) {
    const place = boardingPlace(floors, cost, places);
    if (place === NONE) unreached.push(carrier);
    else ends.set(place, [...(ends.get(place) ?? []), carrier]);
  }
  return { walkway: asKnots(floors, { before, free }, ends), unreached };
}

/**
 * Places between two that a visitor can walk by in straight lines, the two themselves left out; null where no way leads from the one to
 * the other. They need not have room to spare themselves: a foot may stand at the very edge of a stair.
 */
export function findBetween(floors: Floors, from: Vec3, to: Vec3): Vec3[] | null {
  const { step } = floors.world.rules;
  const [start, end] = [from, to].map((at) => placeUnder(floors, ...ontoPlot(floors, at), step + 1e-6));
  if (start === NONE || end === NONE) return null;
  const free = freePlaces(floors);
  free[start] = free[end] = 1;
  const { cost, before } = waysFrom(floors, [start], free);
  if (cost[end] === Infinity) return null;
  const chain = [end];
  while (chain[chain.length - 1] !== start) chain.push(before[chain[chain.length - 1]]);
  return pulledStraight(floors, free, chain)
    .slice(1, -1)
    .reverse()
    .map((place): Vec3 => {
      const [x, z] = floors.world.spans.middleOf(floors.column[place]);
      return [x, floors.height[place], z];
    });
}

/** Heights closer than this are one floor, metres. */
const LEVEL = 0.01;

/**
 * Places that a way is led over: a visitor fits there, no border of what is stood on is under the very feet, and where it goes up or down
 * beside it, the visitor fits there too. A column is as high as the highest place in it: the feet may be on the lower one.
 */
function freePlaces(floors: Floors): Uint8Array {
  const { height, toLedge, world } = floors;
  return Uint8Array.from(height, (here, place) => {
    if (!hasRoom(floors, place) || toLedge[place] <= world.spans.cell) return 0;
    for (const [other] of neighbours(floors, place)) if (Math.abs(height[other] - here) > LEVEL && !hasRoom(floors, other)) return 0;
    return 1;
  });
}

/** Places at the rim of the plot that are as high as the ground about it, as far as a step goes. */
function edgePlaces(floors: Floors, free: Uint8Array): number[] {
  const { world, column, height } = floors;
  return Array.from(column, (_, place) => place).filter(
    (place) =>
      Math.abs(height[place]) <= world.rules.step &&
      free[place] === 1 &&
      [0, 1, 2, 3].some((direction) => columnBeside(floors, column[place], direction) === NONE),
  );
}

function waysFrom(floors: Floors, from: readonly number[], free: Uint8Array): { cost: Float64Array; before: Int32Array } {
  const { radius } = floors.world.rules;
  const places = floors.column.length;
  const cost = new Float64Array(places).fill(Infinity);
  const before = new Int32Array(places).fill(NONE);
  const queue = new FlatQueue<number>();
  for (const place of from) {
    cost[place] = 0;
    queue.push(place, 0);
  }
  while (queue.length > 0) {
    const reached = queue.peekValue()!;
    const place = queue.pop()!;
    if (reached > cost[place]) continue;
    for (const [other, way] of neighbours(floors, place)) {
      if (free[other] === 0) continue;
      const room = Math.min(floors.toWall[other], floors.toDrop[other]) / radius;
      const there = cost[place] + way * (1 + SQUEEZE / (room * room));
      if (there >= cost[other]) continue;
      cost[other] = there;
      before[other] = place;
      queue.push(other, there);
    }
  }
  return { cost, before };
}

/** Where visitors get on: of the places with a seat in reach that a way leads to, the one nearest to any of them, then to all. */
function boardingPlace(floors: Floors, cost: Float64Array, seats: readonly Vec3[]): number {
  const { world, column, height } = floors;
  let best = NONE;
  let least = Infinity;
  for (let place = 0; place < column.length; place++) {
    if (cost[place] === Infinity) continue;
    const [x, z] = world.spans.middleOf(column[place]);
    let nearest = Infinity;
    let sum = 0;
    for (const seat of seats) {
      const far = reachOf(seat, x, height[place], z, world.rules.height);
      nearest = Math.min(nearest, far);
      sum += Math.hypot(seat[0] - x, seat[2] - z);
    }
    if (nearest > world.rules.reach) continue;
    // Among places as near as one another, the one in the midst of the seats.
    const worth = nearest + (0.25 * sum) / seats.length;
    if (worth < least) [best, least] = [place, worth];
  }
  return best;
}

/** How far a seat is from some feet, metres on the ground; Infinity where it is below them or above the head. */
export const reachOf = (seat: ArrayLike<number>, x: number, y: number, z: number, height: number): number =>
  seat[1] >= y - 0.05 && seat[1] <= y + height ? Math.hypot(seat[0] - x, seat[2] - z) : Infinity;

/** The tree of ways as knots and ropes: a knot at each end, each place where ways part, and as few between as keep ropes on the floor. */
function asKnots(floors: Floors, { before, free }: { before: Int32Array; free: Uint8Array }, ends: ReadonlyMap<number, Id[]>): Walkway {
  const branches = new Map<number, Set<number>>();
  const starts = new Set<number>();
  for (const end of ends.keys())
    for (let place = end; ; place = before[place]) {
      if (before[place] === NONE) {
        starts.add(place);
        break;
      }
      branches.set(before[place], (branches.get(before[place]) ?? new Set()).add(place));
    }
  const knots = new Map<number, Knot>();
  const ropes: Rope[] = [];
  const knotAt = (place: number): Knot => {
    const made = knots.get(place);
    if (made) return made;
    const [x, z] = floors.world.spans.middleOf(floors.column[place]);
    const carriers = ends.get(place) ?? [];
    const edge = starts.has(place);
    const at: Vec3 = edge ? atRim(floors, x, floors.height[place], z) : [x, floors.height[place], z];
    const knot: Knot = { id: newId(), name: '', at, edge, boards: [...carriers], leaves: [...carriers] };
    knots.set(place, knot);
    return knot;
  };
  const isKept = (place: number) => ends.has(place) || starts.has(place) || (branches.get(place)?.size ?? 0) > 1;
  for (const end of [...ends.keys(), ...[...branches.keys()].filter((place) => isKept(place) && !ends.has(place))]) {
    if (before[end] === NONE) {
      knotAt(end);
      continue;
    }
    const chain = [end];
    do chain.push(before[chain[chain.length - 1]]);
    while (!isKept(chain[chain.length - 1]));
    const kept = pulledStraight(floors, free, chain);
    for (let i = 1; i < kept.length; i++)
      ropes.push({ id: newId(), from: knotAt(kept[i]).id, to: knotAt(kept[i - 1]).id, oneWay: false, rail: false });
  }
  return { knots: [...knots.values()], ropes };
}

/** A place put onto the line of the plot's rim that is nearest to it. */
function atRim({ world: { spans } }: Floors, x: number, y: number, z: number): Vec3 {
  const [lx, lz] = spans.low;
  const [hx, hz] = [lx + spans.across * spans.cell, lz + spans.deep * spans.cell];
  const rims: [number, Vec3][] = [
    [x - lx, [lx, y, z]],
    [hx - x, [hx, y, z]],
    [z - lz, [x, y, lz]],
    [hz - z, [x, y, hz]],
  ];
  return rims.reduce((best, one) => (one[0] < best[0] ? one : best))[1];
}

/** Of a chain of places as few as a visitor can walk between in straight lines. */
function pulledStraight(floors: Floors, free: Uint8Array, chain: readonly number[]): number[] {
  const kept = [chain[0]];
  for (let at = 0; at < chain.length - 1;) {
    let far = at + 1;
    // Doubling, then halving: a line is looked at a few times for each knot, not once for each place.
    let stride = 1;
    while (far + stride < chain.length && goesStraight(floors, free, chain[at], chain[far + stride])) {
      far += stride;
      stride *= 2;
    }
    for (; stride >= 1; stride = Math.floor(stride / 2))
      while (far + stride < chain.length && goesStraight(floors, free, chain[at], chain[far + stride])) far += stride;
    at = far;
    kept.push(chain[at]);
  }
  return kept;
}

function goesStraight(floors: Floors, free: Uint8Array, a: number, b: number): boolean {
  const { world, column, height } = floors;
  const [ax, az] = world.spans.middleOf(column[a]);
  const [bx, bz] = world.spans.middleOf(column[b]);
  return lineIsFree(floors, free, [ax, height[a], az], [bx, height[b], bz]);
}

/** Whether a visitor can walk a straight line: room all along, no step too high, and the floor never further from the line than a step. */
function lineIsFree(floors: Floors, free: Uint8Array, a: Vec3, b: Vec3): boolean {
  const { world, height } = floors;
  const { step } = world.rules;
  const looks = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[2] - a[2]) / (LOOKS * world.spans.cell)));
  let last = NaN;
  for (let i = 0; i <= looks; i++) {
    const [x, y, z] = a.map((value, axis) => value + ((b[axis] - value) * i) / looks);
    const place = placeUnder(floors, x, y, z, OFF_LINE * step);
    if (place === NONE || free[place] === 0 || Math.abs(height[place] - last) > step) return false;
    last = height[place];
  }
  return true;
}
