import type { Id, Vec3 } from '../document';
import { BodyLines } from './body-lines';
import type { NewJoint } from './joint-operations';
import type { SkeletonTemplate, TemplateJoint } from './templates';
import { voxelCentre, voxelSolid, type VoxelSolid } from './voxel-solid';

export type Side = 'left' | 'right' | null;

/** A joint as it is proposed, before it is made. */
export interface Pin {
  /** Name of the template's joint, with + for the left and − for the right. */
  key: string;
  name: string;
  side: Side;
  parent: string | null;
  /** World, metres. */
  at: Vec3;
  /** Where a last joint ends. */
  tail: Vec3 | null;
  /** Which line it stands on and where, so that others on it can follow. Null for the one on the ground. */
  on: { line: string; share: number } | null;
  /** Whether it ends inside the solid. */
  inside: boolean;
}

const SIDES: Record<'' | '+' | '-', Side> = { '+': 'left', '-': 'right', '': null };

/** The key of the pin on the other side, or null for one in the middle. */
function twinKey(key: string): string | null {
  const other = { '+': '-', '-': '+' }[key.slice(-1)];
  return other ? key.slice(0, -1) + other : null;
}

export interface Fit {
  pins: Pin[];
  solid: VoxelSolid;
}

export interface FitOptions {
  /** Voxels along the longest side. */
  resolution: number;
  /** Whether the right is made the mirror image of the left. */
  mirrored: boolean;
}

/** Share of a line around a joint's place in which it looks for the thinnest. */
const LOOK = 0.08;

interface Line {
  points: Vec3[];
  /** Depth below the skin at each point. */
  depth: number[];
  /** Share of the line's length at each point, 0 to 1. */
  share: number[];
}

/**
 * Proposes a template's joints for a body: the tips are geodesic extremes of its solid, joints stand on the ways through the middle of the
 * solid between them (shortest paths weighted away from the skin), at the template's proportions; wrists, ankles and necks go to where it
 * is thinnest nearby.
 *
 * @param positions At rest, 3 numbers a vertex, metres; +Y up, +Z forward, the left is +X @param indices 3 a triangle
 */
export function fitSkeleton(
  positions: Float32Array,
  indices: Uint32Array,
  template: SkeletonTemplate,
  options: Partial<FitOptions> = {},
): Fit {
  const { resolution = 64, mirrored = true } = options;
  const body = new BodyLines(voxelSolid(positions, indices, resolution));
  const ends = body.ends(template);
  const lines = new Map<string, Line>();
  const voxels = new Map<string, number[]>();
  const beginOf = (from: SkeletonTemplate['lines'][number]['from'], sign: string): number[] => {
    if (from === 'seat') return [body.seat()];
    if ('end' in from) return [ends.get(from.end) ?? ends.get(from.end + sign)!];
    return voxels.get(from.line + sign) ?? voxels.get(from.line)!;
  };
  for (const line of template.lines) {
    for (const sign of line.paired ? ['+', '-'] : ['']) {
      const begin = beginOf(line.from, sign);
      const way = body.way(begin, ends.get(line.to + sign) ?? ends.get(line.to)!);
      voxels.set(line.id + sign, way);
      lines.set(line.id + sign, measured(body, way));
    }
  }
  const ground: Vec3 = [0, Math.min(...heights(positions, indices)), 0];
  const pins = template.joints.flatMap((joint): Pin[] => {
    if (joint.on === 'ground')
      return [{ key: joint.name, name: joint.name, side: null, parent: joint.parent, at: ground, tail: null, on: null, inside: true }];
    const paired = template.lines.find(({ id }) => id === (joint.on as { line: string }).line)!.paired;
    return (paired ? (['+', '-'] as const) : ([''] as const)).map((sign) =>
      pinOf(body, template, joint, joint.on as { line: string; share: number }, sign, lines),
    );
  });
  // What stands in the middle of a body that is alike on both sides stands in the very middle.
  if (mirrored && template.ends.some((end) => end.paired)) evenPins(pins, body);
  return { pins, solid: body.solid };
}

function heights(positions: Float32Array, indices: Uint32Array): number[] {
  let low = Infinity;
  for (let i = 0; i < indices.length; i++) low = Math.min(low, positions[3 * indices[i] + 1]);
  return [low];
}

function measured(body: BodyLines, way: readonly number[]): Line {
  const raw = way.map((voxel) => voxelCentre(body.solid, voxel) as Vec3);
  const round = Math.max(1, Math.round(way.length / 24));
  // Steps from voxel to voxel are rounded off; both ends stay.
  const points = raw.map((_, i) => {
    const reach = Math.min(round, i, raw.length - 1 - i);
    const near = raw.slice(i - reach, i + reach + 1);
    return [0, 1, 2].map((axis) => near.reduce((sum, point) => sum + point[axis], 0) / near.length) as Vec3;
  });
  const share = [0];
  for (let i = 1; i < points.length; i++)
    share.push(share[i - 1] + Math.hypot(...points[i].map((value, axis) => value - points[i - 1][axis])));
  const length = share.at(-1)! || 1;
  return { points, depth: way.map((voxel) => body.depth[voxel]), share: share.map((value) => value / length) };
}

function pinOf(
  body: BodyLines,
  template: SkeletonTemplate,
  joint: TemplateJoint,
  on: { line: string; share: number },
  sign: '' | '+' | '-',
  lines: ReadonlyMap<string, Line>,
): Pin {
  const line = lines.get(on.line + sign)!;
  const share = joint.narrow ? thinnest(line, on.share) : on.share;
  const at = pointAt(line, share);
  const above = joint.parent === null ? null : template.joints.find(({ name }) => name === joint.parent)!;
  const abovePaired =
    above !== null && above.on !== 'ground' && template.lines.find(({ id }) => id === (above.on as { line: string }).line)!.paired;
  return {
    key: joint.name + sign,
    name: joint.name,
    side: SIDES[sign],
    parent: joint.parent === null ? null : joint.parent + (abovePaired ? sign : ''),
    at,
    tail: joint.tail === undefined ? null : pointAt(line, joint.tail),
    on: { line: on.line + sign, share },
    inside: body.holds(at),
  };
}

/** The share near to one at which the line lies least deep; in a stretch of one depth, its middle. */
function thinnest({ depth, share }: Line, near: number): number {
  let least = Infinity;
  let from = near;
  let to = near;
  share.forEach((at, i) => {
    if (Math.abs(at - near) > LOOK) return;
    if (depth[i] < least) [least, from, to] = [depth[i], at, at];
    else if (depth[i] === least) to = at;
  });
  return (from + to) / 2;
}

function pointAt({ points, share }: Line, wanted: number): Vec3 {
  for (let i = 1; i < points.length; i++) {
    if (share[i] < wanted) continue;
    const u = share[i] === share[i - 1] ? 0 : (wanted - share[i - 1]) / (share[i] - share[i - 1]);
    return points[i].map((value, axis) => points[i - 1][axis] + u * (value - points[i - 1][axis])) as Vec3;
  }
  return [...points.at(-1)!];
}

const flip = ([x, y, z]: Vec3): Vec3 => [-x + 0, y, z];
const mean = (a: Vec3, b: Vec3): Vec3 => a.map((value, axis) => (value + b[axis]) / 2) as Vec3;

/** Paired pins become each other's mirror image across x = 0, the mean of both; the others go to the middle. */
function evenPins(pins: Pin[], body: BodyLines): void {
  const byKey = new Map(pins.map((pin) => [pin.key, pin]));
  for (const pin of pins) {
    if (pin.side === 'right') continue;
    const twin = pin.side === 'left' ? byKey.get(`${pin.name}-`)! : pin;
    pin.at = mean(pin.at, flip(twin.at));
    if (pin.tail && twin.tail) pin.tail = mean(pin.tail, flip(twin.tail));
    if (twin !== pin) Object.assign(twin, { at: flip(pin.at), tail: pin.tail && flip(pin.tail), inside: body.holds(flip(pin.at)) });
    pin.inside = body.holds(pin.at) || pin.on === null;
  }
}

/**
 * The pins after some were moved by hand: those stay where they were put, and their untouched neighbours on the same line move along, the
 * less the nearer they stand to one that is fixed, or to the line's end.
 *
 * @param moved World, by key; with `mirrored` a pin of one side moves its twin.
 */
export function pinsMoved(pins: readonly Pin[], moved: Readonly<Record<string, Vec3>>, mirrored: boolean): Pin[] {
  const all: Record<string, Vec3> = { ...moved };
  if (mirrored)
    for (const [key, at] of Object.entries(moved)) {
      const twin = twinKey(key);
      if (twin !== null && !(twin in moved)) all[twin] = flip(at);
    }
  const shift = (pin: Pin): Vec3 => all[pin.key].map((value, axis) => value - pin.at[axis]) as Vec3;
  return pins.map((pin) => {
    if (pin.key in all) {
      const by = shift(pin);
      return { ...pin, at: all[pin.key], tail: pin.tail && (pin.tail.map((value, axis) => value + by[axis]) as Vec3) };
    }
    if (!pin.on) return pin;
    const fixed = pins.filter((one) => one.key in all && one.on?.line === pin.on!.line);
    const below = fixed.filter((one) => one.on!.share <= pin.on!.share).sort((a, b) => b.on!.share - a.on!.share)[0];
    const above = fixed.filter((one) => one.on!.share > pin.on!.share).sort((a, b) => a.on!.share - b.on!.share)[0];
    if (!below && !above) return pin;
    const [from, to] = [below?.on!.share ?? 0, above?.on!.share ?? 1];
    const u = to === from ? 0 : (pin.on.share - from) / (to - from);
    const [a, b] = [below ? shift(below) : [0, 0, 0], above ? shift(above) : [0, 0, 0]];
    const by = a.map((value, axis) => value + u * (b[axis] - value));
    return { ...pin, at: pin.at.map((value, axis) => value + by[axis]) as Vec3 };
  });
}

/** Pins as joints to be made. @param nameOf What a joint is called on its side. @param idOf An id for each key. */
export function jointsFromPins(
  pins: readonly Pin[],
  nameOf: (name: string, side: Side) => string,
  idOf: (key: string) => Id,
  under: Id | null = null,
): NewJoint[] {
  return pins.map((pin) => ({
    id: idOf(pin.key),
    name: nameOf(pin.name, pin.side),
    parent: pin.parent === null ? under : idOf(pin.parent),
    at: pin.at,
    ...(pin.tail ? { tail: pin.tail } : {}),
  }));
}
