import type { Blobs, Id, Kit, Link, Vec3 } from '../document';
import { leverKey } from '../formula';
import {
  cross,
  dot,
  flattenParts,
  invertMatrix,
  largestStretch,
  Poser,
  posedVertices,
  subtract,
  transformPoint,
  type Mat4,
} from '../geometry';
import { bindingsAlong } from './bindings-along';
import { addBindingPose, evaluateBinding } from './evaluate-binding';
import { armAbout, endOf, LinkStand, originOf } from './link-frames';
import { LINK_GAP, LINK_METRES, solveLink } from './solve-link';

/** Values over the range at which a link is looked at, and as many half way between them. */
const LOOKS = 48;

/** How far the parts of a link are from where they should be at a value, metres. */
export interface LinkGap {
  value: number;
  metres: number;
}

/** Bindings of the parts of a link to its own variable. */
export function tablesOf(kit: Kit, { parts, variable, index }: Link) {
  return parts.map((id) => Object.values(kit.bindings).find((one) => one.part === id && one.variable === variable && one.index === index));
}

/** Values between which every part of a link has rows; the link’s neutral alone where one has none. */
export function spanOfTables(kit: Kit, link: Link): { from: number; to: number } {
  const spans = tablesOf(kit, link).map((binding) => binding?.rows.map(({ value }) => value) ?? []);
  if (spans.some((values) => values.length === 0)) return { from: link.neutral, to: link.neutral };
  return { from: Math.max(...spans.map((values) => Math.min(...values))), to: Math.min(...spans.map((values) => Math.max(...values))) };
}

/** Values at which a link is looked at: over what its tables span, between their rows, and where what carries it changes its way. */
function looksOf(kit: Kit, link: Link): number[] {
  const { from, to } = spanOfTables(kit, link);
  const key = leverKey(link.variable, link.index);
  const rows = Object.values(kit.bindings).flatMap((one) => (leverKey(one.variable, one.index) === key ? one.rows : []));
  const even = Array.from({ length: 2 * LOOKS + 1 }, (_, i) => from + ((to - from) * i) / (2 * LOOKS));
  return [...new Set([...even, ...rows.map(({ value }) => value)])].filter((value) => value >= from && value <= to).sort((a, b) => a - b);
}

/** The kit as its tables pose it at values of the link’s variable, all else at rest. */
function posed(kit: Kit, link: Link): { at(value: number): (id: Id) => Mat4 } {
  const poser = new Poser(flattenParts(kit));
  const along = bindingsAlong(kit, link);
  return {
    at(value) {
      poser.reset();
      for (const { binding, valueAt } of along) addBindingPose(binding, valueAt(value), poser.flat.indexOf.get(binding.part)!, poser.pose);
      poser.update();
      return (id) => poser.worldOf(id);
    },
  };
}

/** Where a point of one part is in the axes of another one. */
const seenFrom = (from: Mat4, point: Vec3): Vec3 | null => {
  const back = invertMatrix(Float64Array.from(from));
  return back && transformPoint(back, point);
};

/** How far a point is from the line through the origin of a placement and where that takes another point. */
function offLine(world: Mat4, through: Vec3, point: Vec3): number {
  const way = subtract(transformPoint(world, through), originOf(world));
  const to = subtract(point, originOf(world));
  return Math.hypot(...cross(way, to)) / Math.max(Math.hypot(...way), 1e-12);
}

/**
 * Of each part of a link the point in its own axes that is to stand at one place: the end that meets the other one, the pivot of the other
 * one at rest, where a wheel touches. Null where one of them is flat.
 */
export function pointsOfLink(kit: Kit, link: Link): Vec3[] | null {
  const rest = posed(kit, link).at(link.neutral);
  const [a, b] = link.parts;
  if (link.kind === 'roll') return [[...link.at!]];
  const points =
    link.kind === 'meet'
      ? [link.at!, seenFrom(rest(b), transformPoint(rest(a), link.at!))]
      : [seenFrom(rest(a), originOf(rest(b))), seenFrom(rest(b), originOf(rest(a)))];
  return points.every((point) => point !== null) ? points.map((point) => [...point] as Vec3) : null;
}

function gapsOfPair(kit: Kit, link: Link): LinkGap[] {
  const points = pointsOfLink(kit, link);
  if (!points) return [];
  const pose = posed(kit, link);
  const [a, b] = link.parts;
  return looksOf(kit, link).map((value) => {
    const world = pose.at(value);
    const [first, second] = [transformPoint(world(a), points[0]), transformPoint(world(b), points[1])];
    const metres =
      link.kind === 'meet'
        ? Math.hypot(...subtract(first, second))
        : Math.max(offLine(world(a), points[0], originOf(world(b))), offLine(world(b), points[1], originOf(world(a))));
    return { value, metres };
  });
}

function gapsOfRoll(kit: Kit, link: Link): LinkGap[] {
  const [binding] = tablesOf(kit, link);
  if (!binding) return [];
  const [rows] = solveLink(kit, link).rows;
  const axis = link.axes[0];
  const { frames } = new LinkStand(kit, link).at(link.neutral);
  const radius = largestStretch(frames[0]) * armAbout(axis, endOf(kit, link));
  const rolled = { rows, outside: binding.outside, between: undefined };
  return looksOf(kit, link).map((value) => {
    const degrees = evaluateBinding(binding, value).turn[axis] - evaluateBinding(rolled, value).turn[axis];
    return { value, metres: (Math.abs(degrees) * Math.PI * radius) / 180 };
  });
}

/**
 * Where the parts of a link are furthest from where they should be, as their tables pose them: ends from one another, a pivot from the line
 * that aims at it, the rim from the way it has rolled. Null where nothing is bound.
 *
 * @throws {LinkError} where what rolls can’t be worked out
 */
export function worstGap(kit: Kit, link: Link): LinkGap | null {
  if (tablesOf(kit, link).some((binding) => !binding)) return null;
  const gaps = link.kind === 'roll' ? gapsOfRoll(kit, link) : gapsOfPair(kit, link);
  return gaps.reduce<LinkGap | null>((worst, gap) => (worst === null || gap.metres > worst.metres ? gap : worst), null);
}

/** Whether the parts of a link are where they should be, within the tolerance. */
export function isSettled(kit: Kit, link: Link): boolean {
  const worst = worstGap(kit, link);
  return worst !== null && worst.metres <= LINK_GAP;
}

/** How far a part reaches along a way in its own axes, metres in the world at rest. */
function reachAlong(kit: Kit, blobs: Blobs, world: Mat4, id: Id, way: Vec3): number {
  const own = posedVertices(kit, blobs, kit.parts[id], () => world);
  const at = originOf(world);
  let most = -Infinity;
  for (let i = 0; i < own.length; i += 3) most = Math.max(most, dot(subtract([own[i], own[i + 1], own[i + 2]], at), way));
  return most;
}

/**
 * Where two parts that slide in one another and aim at one another part: the value with the greatest gap between what they show, and how
 * wide it is. Null where they never do, and where they do not reach into one another at rest.
 */
export function partedAt(kit: Kit, blobs: Blobs, link: Link): LinkGap | null {
  if (link.kind !== 'aim') return null;
  const pose = posed(kit, link);
  const [a, b] = link.parts;
  const rest = pose.at(link.neutral);
  const [from, to] = [originOf(rest(a)), originOf(rest(b))];
  const length = Math.hypot(...subtract(to, from));
  const way = subtract(to, from).map((value) => value / length) as Vec3;
  const reach = reachAlong(kit, blobs, rest(a), a, way) + reachAlong(kit, blobs, rest(b), b, way.map((value) => -value) as Vec3);
  if (!(reach >= length)) return null;
  let worst: LinkGap | null = null;
  for (const value of looksOf(kit, link)) {
    const world = pose.at(value);
    const metres = Math.hypot(...subtract(originOf(world(b)), originOf(world(a)))) - reach;
    if (metres > LINK_METRES && metres > (worst?.metres ?? 0)) worst = { value, metres };
  }
  return worst;
}
