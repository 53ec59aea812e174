import type { Axis, Id, Kit, Link, Vec3 } from '../document';
import {
  composeMatrix,
  cross,
  dot,
  flattenParts,
  invertMatrix,
  multiplyMatrices,
  Poser,
  subtract,
  transformPoint,
  type Mat4,
} from '../geometry';
import { bindingsAlong, type BindingAlong } from './bindings-along';
import { addBindingPose } from './evaluate-binding';

/** How the parts of a link stand in the world at a value of its variable. */
export interface LinkFrames {
  /** Of each part: the axes in which it turns, its pivot as their origin, without its own turn and scale. */
  frames: Mat4[];
  /** World placement of what it rolls on; null on the ground. */
  on: Mat4 | null;
}

/** Places the parts of a link at values of its variable, everything else at rest. */
export class LinkStand {
  private readonly poser: Poser;
  private readonly along: BindingAlong[];
  /** The parts’ own frames in their parents, where they stand at rest. */
  private readonly locals: { parent: Id | null; local: Mat4 }[];
  /** Values at which something that carries the parts changes its way. */
  readonly stations: number[];

  constructor(
    kit: Kit,
    private readonly link: Link,
  ) {
    this.poser = new Poser(flattenParts(kit));
    this.locals = link.parts.map((id) => {
      const { parent, translation, rotation } = kit.parts[id];
      return { parent, local: composeMatrix(translation, rotation, [1, 1, 1]) };
    });
    this.along = bindingsAlong(kit, link).filter(({ binding }) => !link.parts.includes(binding.part));
    const own = this.along.filter(({ binding }) => binding.variable === link.variable);
    const values = new Set(own.flatMap(({ binding }) => binding.rows.map(({ value }) => value)));
    this.stations = [...values].filter((value) => value > link.min && value < link.max).sort((a, b) => a - b);
  }

  at(value: number): LinkFrames {
    const { poser, link } = this;
    poser.reset();
    for (const { binding, valueAt } of this.along)
      addBindingPose(binding, valueAt(value), poser.flat.indexOf.get(binding.part)!, poser.pose);
    poser.update();
    const frames = this.locals.map(({ parent, local }) => (parent === null ? local : multiplyMatrices(poser.worldOf(parent), local)));
    return { frames, on: link.on === null ? null : Float64Array.from(poser.worldOf(link.on)) };
  }
}

/** The origin of a frame in the world. */
export const originOf = (frame: Mat4): Vec3 => [frame[12], frame[13], frame[14]];

/** Own axis of a frame in the world, a unit vector. */
export function axisOf(frame: Mat4, axis: Axis): Vec3 {
  const column: Vec3 = [frame[4 * axis], frame[4 * axis + 1], frame[4 * axis + 2]];
  const length = Math.hypot(...column) || 1;
  return column.map((value) => value / length) as Vec3;
}

const plus = (a: Vec3, b: Vec3, by = 1): Vec3 => [a[0] + by * b[0], a[1] + by * b[1], a[2] + by * b[2]];
/** What of a vector lies across a unit vector. */
const across = (v: Vec3, n: Vec3): Vec3 => plus(v, n, -dot(v, n));

/** The angle about an own axis from one point of a frame to another one, the right-handed way, radians within ±π. */
export function angleAbout(axis: Axis, from: Vec3, to: Vec3): number {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  return Math.atan2(from[u] * to[v] - from[v] * to[u], from[u] * to[u] + from[v] * to[v]);
}

/** How far a point is from an own axis through the origin. */
export const armAbout = (axis: Axis, point: Vec3): number => Math.hypot(point[(axis + 1) % 3], point[(axis + 2) % 3]);

/** Where the first part of a link meets or touches, in the axes in which it turns, at rest. */
export function endOf(kit: Kit, { parts, at }: Link): Vec3 {
  const { scale } = kit.parts[parts[0]];
  return at!.map((value, axis) => value * scale[axis]) as Vec3;
}

/** Which way round two links are folded: the sign of their bend seen along the first one's axis. */
export function bendOf([a, b]: readonly Mat4[], axis: Axis, joint: Vec3): number {
  return dot(cross(subtract(originOf(b), originOf(a)), subtract(joint, originOf(a))), axisOf(a, axis)) < 0 ? -1 : 1;
}

/** The share by which two links may be too short and still count as stretched out straight: arithmetic, not play. */
const STRAIGHT = 1e-9;

/**
 * Where the free ends of two links meet, in the world: of the two places where the circles about their pivots cut one another, in the plane
 * across the first one's axis, that on the side of `bend`. Null where they do not reach one another.
 *
 * Source: the closure of a two-link dyad, e.g. Norton, Design of Machinery, 6th ed., 4.5 (intersection of two circles).
 *
 * @param ends The free end of each in the axes in which it turns, metres.
 */
export function meetingOf(frames: readonly Mat4[], axis: Axis, ends: readonly Vec3[], bend: number): Vec3 | null {
  const [a, b] = frames.map(originOf);
  const n = axisOf(frames[0], axis);
  const reach = ends.map((end, i) => subtract(transformPoint(frames[i], end), [a, b][i]));
  const [ra, rb] = reach.map((one) => Math.hypot(...across(one, n)));
  const between = across(subtract(b, a), n);
  const d = Math.hypot(...between);
  const slack = STRAIGHT * (ra + rb);
  if (d > ra + rb + slack || d < Math.abs(ra - rb) - slack || d < slack) return null;
  const along = (ra * ra - rb * rb + d * d) / (2 * d);
  const side = Math.sqrt(Math.max(0, ra * ra - along * along));
  const u = between.map((value) => value / d) as Vec3;
  return plus(plus(plus(a, u, along), cross(n, u), bend * side), n, dot(reach[0], n));
}

/** A frame in the axes of what it rolls on; in the world where that is the ground. */
function onIts({ frames: [frame], on }: LinkFrames): Mat4 {
  const back = on && invertMatrix(on);
  return back ? multiplyMatrices(back, frame) : frame;
}

/** From the axle to where it touches, a unit vector in the axes of what it rolls on: that stays as it is while it rolls. */
export function contactOf(rest: LinkFrames, axis: Axis, touches: Vec3): Vec3 {
  const frame = onIts(rest);
  const to = across(subtract(transformPoint(frame, touches), originOf(frame)), axisOf(frame, axis));
  const length = Math.hypot(...to) || 1;
  return to.map((value) => value / length) as Vec3;
}

/**
 * A step of what rolls, as its own turn counts: how far its pivot went the way that it rolls, metres, and how far what carries it turned
 * about its axle, radians.
 *
 * @param contact `contactOf` it
 */
export function rolledBetween(before: LinkFrames, after: LinkFrames, axis: Axis, contact: Vec3): { way: number; turned: number } {
  const [from, to] = [onIts(before), onIts(after)];
  const n = axisOf(from, axis);
  const way = dot(subtract(originOf(to), originOf(from)), cross(contact, n));
  // Seen along the axle, by how much the axes in which it turns have turned with what carries them.
  const [x, y] = [axisOf(from, ((axis + 1) % 3) as Axis), axisOf(to, ((axis + 1) % 3) as Axis)];
  // In a mirrored frame the right-handed way about an own axis is the other way in the world.
  const hand = dot(cross(axisOf(from, 0), axisOf(from, 1)), axisOf(from, 2)) < 0 ? -1 : 1;
  return { way: hand * way, turned: hand * Math.atan2(dot(cross(x, y), n), dot(x, y)) };
}
