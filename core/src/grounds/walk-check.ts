import { DirectedGraph } from 'graphology';
import type { Id, Knot, Rope, Vec3, Walkway } from '../document';
import { reachOf } from './find-way';
import { NONE, ontoPlot, placeUnder, type Floors } from './walk-floors';
import type { Cause } from './walk-spans';

/** What is wrong with a rope: where, how much, and what stands there. */
export interface RopeFault {
  rope: Id;
  kind: 'gap' | 'step' | 'through' | 'edge';
  /** Where along it, metres. */
  at: Vec3;
  /** Of a step how high it is, of a gap how far the nearest floor is (Infinity where there is none), metres; 0 of the others. */
  by: number;
  /** What it leads through. */
  cause: Cause | null;
}

/** Looks along a rope stand this share of a column apart. */
const LOOKS = 0.15;

/**
 * The first fault along a rope: no floor under it, a step too high, something in the way, or a drop beside it without a rail. Null where a
 * visitor can walk it.
 */
export function ropeFault(floors: Floors, rope: Rope, from: Knot, to: Knot): RopeFault | null {
  const { world, height, wallCause } = floors;
  const { step, radius } = world.rules;
  const [a, b] = [from.at, to.at];
  const length = Math.hypot(b[0] - a[0], b[2] - a[2]);
  const looks = Math.max(1, Math.ceil(length / (LOOKS * world.spans.cell)));
  let last = NaN;
  for (let i = 0; i <= looks; i++) {
    const at = a.map((value, axis) => value + ((b[axis] - value) * i) / looks) as Vec3;
    const fault = (kind: RopeFault['kind'], by = 0, cause: Cause | null = null): RopeFault => ({ rope: rope.id, kind, at, by, cause });
    const [x, y, z] = ontoPlot(floors, at);
    const place = placeUnder(floors, x, y, z, step + 1e-6);
    if (place === NONE) return inTheWay(floors, at, x, z, fault);
    const rise = Math.abs(height[place] - last);
    if (rise > step + 1e-6) return fault('step', rise);
    last = height[place];
    // A column is filled where something is only in a part of it: half a column is not held against a rope.
    const room = radius - world.spans.cell / 2;
    if (floors.toWall[place] < room) return fault('through', 0, world.causes[wallCause[place]]);
    if (!rope.rail && floors.toDrop[place] < room) return fault('edge');
  }
  return null;
}

/** No floor at the height of a rope: something fills the way, or nothing is there to stand on. */
function inTheWay(
  { world: { spans, rules, causes } }: Floors,
  at: Vec3,
  x: number,
  z: number,
  fault: (kind: RopeFault['kind'], by?: number, cause?: Cause | null) => RopeFault,
): RopeFault {
  const column = spans.columnAt(x, z);
  if (column < 0) return fault('gap', Infinity);
  const filled = spans.columns[column];
  const filling = filled.find(({ low, high }) => high > at[1] + rules.step && low < at[1] + rules.height);
  if (filling) return fault('through', 0, causes[filling.cause]);
  const below = filled.filter(({ high }) => high <= at[1] + rules.step).at(-1);
  return fault('gap', below ? Math.abs(at[1] - below.high) : Infinity);
}

/** What can be wrong with a walkway as a whole. */
export interface WayFaults {
  ropes: RopeFault[];
  /** Carriers to whose seats no way leads, and from which none leads back. */
  unreached: Id[];
  stranded: Id[];
  /** Carriers without a knot to board or to leave at. */
  unboarded: Id[];
  unleft: Id[];
  /** Knots that are joined to none. */
  alone: Id[];
  /** Knots at which visitors board what they can't reach from there, with how far the nearest seat is, metres. */
  tooFar: { knot: Id; carrier: Id; metres: number }[];
}

/** A walkway as a directed graph: its knots and the ways along its ropes, with their lengths in metres. */
export function graphOf({ knots, ropes }: Walkway): DirectedGraph<{ at: Vec3 }, { length: number }> {
  const graph = new DirectedGraph<{ at: Vec3 }, { length: number }>();
  const at = new Map(knots.map((knot) => [knot.id, knot.at]));
  for (const knot of knots) graph.addNode(knot.id, { at: knot.at });
  for (const { from, to, oneWay } of ropes) {
    const length = Math.hypot(...at.get(from)!.map((value, axis) => value - at.get(to)![axis]));
    graph.mergeDirectedEdge(from, to, { length });
    if (!oneWay) graph.mergeDirectedEdge(to, from, { length });
  }
  return graph;
}

/** Knots that can be come to from some others. @param way Along the ropes as they are gone, or against them. */
export function reachedFrom(graph: DirectedGraph, from: Iterable<Id>, way: 'on' | 'back'): Set<Id> {
  const reached = new Set(from);
  for (const knot of reached) for (const next of way === 'on' ? graph.outNeighbors(knot) : graph.inNeighbors(knot)) reached.add(next);
  return reached;
}

/** Everything that is wrong with a walkway. @param goals Groups of seats with where they are. */
export function wayFaults(floors: Floors, walkway: Walkway, goals: readonly { carrier: Id; places: Vec3[] }[]): WayFaults {
  const knots = new Map(walkway.knots.map((knot) => [knot.id, knot]));
  const ropes = walkway.ropes.flatMap((rope) => ropeFault(floors, rope, knots.get(rope.from)!, knots.get(rope.to)!) ?? []);
  const graph = graphOf(walkway);
  const edges = walkway.knots.filter(({ edge }) => edge).map(({ id }) => id);
  const [on, back] = [reachedFrom(graph, edges, 'on'), reachedFrom(graph, edges, 'back')];
  const ofCarrier = (which: 'boards' | 'leaves', carrier: Id) => walkway.knots.filter((knot) => knot[which].includes(carrier));
  const faults: WayFaults = { ropes, unreached: [], stranded: [], unboarded: [], unleft: [], alone: [], tooFar: [] };
  const { rules } = floors.world;
  for (const { carrier, places } of goals) {
    const [boards, leaves] = [ofCarrier('boards', carrier), ofCarrier('leaves', carrier)];
    if (boards.length === 0) faults.unboarded.push(carrier);
    else if (!boards.some(({ id }) => on.has(id))) faults.unreached.push(carrier);
    if (leaves.length === 0) faults.unleft.push(carrier);
    else if (!leaves.some(({ id }) => back.has(id))) faults.stranded.push(carrier);
    for (const knot of new Set([...boards, ...leaves])) {
      const metres = Math.min(...places.map((place) => reachOf(place, knot.at[0], knot.at[1], knot.at[2], rules.height)));
      if (metres > rules.reach + 1e-6) faults.tooFar.push({ knot: knot.id, carrier, metres });
    }
  }
  for (const { id } of walkway.knots) if (graph.degree(id) === 0) faults.alone.push(id);
  return faults;
}
