import { subtreeOf, type Axis, type Binding, type Blobs, type Id, type Kit, type Link, type LinkKind, type Vec3 } from '../document';
import {
  cross,
  dot,
  invertMatrix,
  ownBounds,
  posedVertices,
  restBounds,
  restWorlds,
  sizeOf,
  subtract,
  transformPoint,
  type Mat4,
} from '../geometry';
import { chainOf } from './levels';
import { axisOf, originOf } from './link-frames';

/** A link as it is proposed: all that can be read off the kit. */
export type ProposedLink = Pick<Link, 'kind' | 'parts' | 'axes' | 'at' | 'on' | 'variable' | 'index'>;

const UP: Vec3 = [0, 1, 0];

/**
 * The binding of what carries one of the parts, the nearest to them first; undefined where nothing that carries them is driven.
 *
 * @param itself One of them that counts as what carries it
 */
function driverOf(kit: Kit, parts: readonly Id[], itself: Id | null): Binding | undefined {
  const above = parts.map((id) =>
    chainOf(kit, id)
      .slice(0, id === itself ? undefined : -1)
      .reverse(),
  );
  const deepest = Math.max(...above.map(({ length }) => length));
  for (let i = 0; i < deepest; i++)
    for (const levels of above) if (levels[i]?.bindings.length > 0) return kit.bindings[levels[i].bindings[0]];
  return undefined;
}

/** What a binding does most: the own axis that it turns about or goes along, in the world; null where it poses nothing. */
function wayOf({ part, rows }: Binding, worlds: ReadonlyMap<Id, Mat4>, parent: Id | null): { turns: boolean; axis: Vec3 } | null {
  const most = (of: 'turn' | 'offset') => [0, 1, 2].map((axis) => Math.max(0, ...rows.map((row) => Math.abs(row[of][axis]))));
  const turn = most('turn');
  const offset = most('offset');
  const largest = (list: number[]) => list.indexOf(Math.max(...list)) as Axis;
  if (Math.max(...turn) > 1e-9) return { turns: true, axis: axisOf(worlds.get(part)!, largest(turn)) };
  if (Math.max(...offset) < 1e-9) return null;
  const along = largest(offset);
  return { turns: false, axis: parent === null ? ([0, 1, 2].map((i) => Number(i === along)) as Vec3) : axisOf(worlds.get(parent)!, along) };
}

/** The own axis of a part that lies the most like a way of the world. */
function nearestAxis(world: Mat4, way: Vec3): Axis {
  const alike = ([0, 1, 2] as Axis[]).map((axis) => Math.abs(dot(axisOf(world, axis), way)));
  return alike.indexOf(Math.max(...alike)) as Axis;
}

/** Two ways are square enough to one another where the cosine is less. */
const SQUARE = 0.7;

/** The own axis across the way that a part goes about which it is the roundest: as wide as it is high. */
function roundAxis(kit: Kit, blobs: Blobs, part: Id, world: Mat4, goes: Vec3 | null): Axis {
  const sizes = sizeOf(ownBounds(kit, blobs, kit.parts[part]));
  const uneven = (axis: Axis) => {
    const [a, b] = [sizes[(axis + 1) % 3], sizes[(axis + 2) % 3]];
    const along = goes !== null && Math.abs(dot(axisOf(world, axis), goes)) > SQUARE;
    return along || !(Math.max(a, b) > 0) ? Infinity : Math.abs(a - b) / Math.max(a, b);
  };
  return ([0, 1, 2] as Axis[]).reduce((best, axis) => (uneven(axis) < uneven(best) ? axis : best));
}

/** The middle of where the boxes of two parts overlap, in the world; half way between them where they do not. */
function touching(kit: Kit, blobs: Blobs, parts: readonly Id[]): Vec3 {
  const [a, b] = parts.map((id) => restBounds(kit, blobs, [id]));
  return [0, 1, 2].map((axis) => {
    const [low, high] = [Math.max(a.min[axis], b.min[axis]), Math.min(a.max[axis], b.max[axis])];
    return Number.isFinite(low + high) ? (low + high) / 2 : 0;
  }) as Vec3;
}

/** How far what a part shows reaches from its own axis, metres: the radius of a wheel. */
function radiusAbout(kit: Kit, blobs: Blobs, part: Id, world: Mat4, axis: Vec3): number {
  const points = posedVertices(kit, blobs, kit.parts[part], () => world);
  let most = 0;
  for (let i = 0; i < points.length; i += 3)
    most = Math.max(most, Math.hypot(...cross(subtract([points[i], points[i + 1], points[i + 2]], originOf(world)), axis)));
  return most;
}

/** What of a vector lies across unit vectors that stand square to one another. */
const across = (v: Vec3, ...ways: Vec3[]): Vec3 =>
  ways.reduce<Vec3>((left, way) => left.map((value, i) => value - dot(left, way) * way[i]) as Vec3, v);

const unit = (v: Vec3): Vec3 => {
  const length = Math.hypot(...v) || 1;
  return v.map((value) => value / length) as Vec3;
};

/**
 * The way from an axle to what it rolls on, a unit vector: down to the ground, or to the nearest place of the box of a part with all below
 * it, across the way that it goes.
 *
 * @param goes Along what it goes, where that is straight
 */
function wayTo(kit: Kit, blobs: Blobs, from: Vec3, axle: Vec3, on: Id | null, goes: Vec3 | null): Vec3 {
  const square = goes === null ? [axle] : [axle, unit(across(goes, axle))];
  const { min, max } = on === null ? { min: from, max: from } : restBounds(kit, blobs, subtreeOf(kit, on));
  const to = from.map((value, i) => Math.min(max[i], Math.max(min[i], value)) - value) as Vec3;
  const ways = [across(to, ...square), across([0, -1, 0], ...square), goes ? cross(axle, goes) : axle];
  return unit(ways.find((way) => Math.hypot(...way) > 1e-6) ?? axle);
}

/**
 * What of a link can be read off the kit: the variable of what carries its parts, the own axes that lie as that turns, where the parts
 * touch, how large a wheel is. Null where nothing that carries them (or that it rolls on) is driven.
 *
 * @param on What a wheel rolls on; null is the ground
 */
export function proposeLink(kit: Kit, blobs: Blobs, kind: LinkKind, parts: Id[], on: Id | null = null): ProposedLink | null {
  const driver = driverOf(kit, on === null ? parts : [on, ...parts], on);
  if (!driver) return null;
  const worlds = restWorlds(kit);
  const way = wayOf(driver, worlds, kit.parts[driver.part].parent);
  const goes = way?.turns === false ? way.axis : null;
  const places = parts.map((id) => originOf(worlds.get(id)!));
  const world = worlds.get(parts[0])!;
  const hinge = () => (goes ? cross(subtract(places[1], places[0]), goes) : (way?.axis ?? UP));
  const axes = parts.map((id) => (kind === 'roll' ? roundAxis(kit, blobs, id, world, goes) : nearestAxis(worlds.get(id)!, hinge())));
  const link = { kind, parts, axes, on, variable: driver.variable, index: driver.index };
  const back = invertMatrix(Float64Array.from(world));
  const at = () => {
    if (kind === 'meet') return touching(kit, blobs, parts);
    const axle = axisOf(world, axes[0]);
    const radius = radiusAbout(kit, blobs, parts[0], world, axle);
    return wayTo(kit, blobs, places[0], axle, on, goes).map((value, i) => places[0][i] + radius * value) as Vec3;
  };
  if (kind === 'aim') return { ...link, at: null };
  return { ...link, at: back ? transformPoint(back, at()) : [0, 0, 0] };
}
