import { partOf, subtreeOf, type Binding, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import {
  decomposeMatrix,
  dot,
  flattenParts,
  invertMatrix,
  multiplyMatrices,
  Poser,
  posedVertices,
  subtract,
  transformPoint,
  type Mat4,
} from '../geometry';
import { addBindingPose } from './evaluate-binding';

/** Sides of the canonical space (+Y up, +Z forward, right-handed: +X is left), each as a unit vector. */
export const SIDE_WAYS = {
  left: [1, 0, 0],
  right: [-1, 0, 0],
  up: [0, 1, 0],
  down: [0, -1, 0],
  forward: [0, 0, 1],
  back: [0, 0, -1],
} as const satisfies Record<string, Vec3>;
export type Side = keyof typeof SIDE_WAYS;
/** The sides, in the order of the axes. */
export const SIDES = Object.keys(SIDE_WAYS) as Side[];

/** Ends of a part towards each side, as points that a direction can speak of. */
const EXTREMES = { topmost: 'up', lowest: 'down', foremost: 'forward', hindmost: 'back', leftmost: 'left', rightmost: 'right' } as const;
/** Points of a part that a direction can speak of: that which goes furthest (the furthest from the axis), or the end towards a side. */
export const DIRECTION_POINTS = ['furthest', ...(Object.keys(EXTREMES) as (keyof typeof EXTREMES)[])] as const;
/** Ways round, as seen from a side. */
export const ROUNDS = ['clockwise', 'counter-clockwise'] as const;

/** What rising does to the part that follows, such that it can be measured. */
export type Direction =
  | {
      /** Which point is looked at, or the name of a part that is carried, whose origin is. */
      point: (typeof DIRECTION_POINTS)[number] | { part: string };
      goes: Side;
    }
  | { goes: (typeof ROUNDS)[number]; from: Side };

/** What a variable says of itself, as far as it is probed. */
export interface Probed {
  min: number;
  max: number;
  neutral: number;
  direction?: Direction;
}

/** The share of the range by which a variable is moved from neutral. */
export const PROBE_SHARE = 1 / 20;
/** A point that goes less than this share of its way along what is asked goes astray: it can be turned round, and is still not right. */
const ASTRAY = 0.1;
/** Parts that move less than this share of what moves furthest only go along: links, counterweights, ropes. */
const GOES_ALONG = 0.5;
/** Ends that differ by less than this share of the part's length are one end. */
const SAME_END = 1e-6;
/** Nothing moves by less, metres and radians. */
const STILL = 1e-9;

/** Right: as the rulebook says. Wrong: the other way. Astray: neither. Still: it does not move there. Open: there is nothing to go by. */
export type Verdict = 'right' | 'wrong' | 'astray' | 'still' | 'open';

/** What a part does where its variable rises from neutral. */
export interface ProbedPart {
  binding: Id;
  part: Id;
  verdict: Verdict;
  /** The point that was looked at, in the world at neutral, metres. */
  at: Vec3;
  /** Where it goes per probe, metres; for a round the way along which the point goes. */
  goes: Vec3;
  /** Unit vector along which it should go there; null where nothing says so. */
  should: Vec3 | null;
}

/** The step of a probe, in the variable's unit: up from neutral, or down where neutral is the greatest value. */
export function probeStep({ min, max, neutral }: Probed): number {
  const step = (max - min) * PROBE_SHARE;
  return neutral + step <= max ? step : -step;
}

/** The part that a binding moves as rigid motion of the world: where it was at neutral goes to where it is a step further. */
interface Moved {
  binding: Binding;
  before: Map<Id, Mat4>;
  motion: Mat4;
}

function worldsAt(kit: Kit, bindings: readonly Binding[], value: number): Poser {
  const poser = new Poser(flattenParts(kit));
  for (const binding of bindings) {
    const index = poser.flat.indexOf.get(binding.part);
    if (index !== undefined) addBindingPose(binding, value, index, poser.pose);
  }
  poser.update();
  return poser;
}

/** The world places of what a part shows; where it shows nothing, of what it carries. Metres, 3 numbers each. */
function pointsOf(kit: Kit, blobs: Blobs, part: Id, before: ReadonlyMap<Id, Mat4>): ArrayLike<number> {
  const worldOf = (id: Id) => before.get(id)!;
  const own = posedVertices(kit, blobs, partOf(kit, part), worldOf);
  if (own.length > 0) return own;
  return [...subtreeOf(kit, part)].flatMap((id) => [...posedVertices(kit, blobs, partOf(kit, id), worldOf)]);
}

/** The point that is looked at, in the world; null where there is none. */
function pointOf(kit: Kit, blobs: Blobs, { binding, before, motion }: Moved, point: 'furthest' | Side | { part: string }): Vec3 | null {
  if (typeof point === 'object') {
    const named = [...subtreeOf(kit, binding.part)].find((id) => kit.parts[id].name === point.part);
    return named === undefined ? null : (before.get(named)!.subarray(12, 15) as unknown as Vec3);
  }
  const points = pointsOf(kit, blobs, binding.part, before);
  const measure = (at: Vec3) =>
    point === 'furthest' ? Math.hypot(...subtract(transformPoint(motion, at), at)) : dot(at, SIDE_WAYS[point]);
  let most = -Infinity;
  let least = Infinity;
  for (let i = 0; i < points.length; i += 3) {
    const value = measure([points[i], points[i + 1], points[i + 2]]);
    if (value > most) most = value;
    if (value < least) least = value;
  }
  if (point === 'furthest') {
    for (let i = 0; i < points.length; i += 3) {
      const at: Vec3 = [points[i], points[i + 1], points[i + 2]];
      if (measure(at) === most) return at;
    }
    return null;
  }
  // An end is all that stands at it: the middle of a rim, not one of its corners.
  const sum: Vec3 = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < points.length; i += 3) {
    const at: Vec3 = [points[i], points[i + 1], points[i + 2]];
    if (measure(at) < most - SAME_END * Math.max(most - least, STILL)) continue;
    count++;
    at.forEach((value, axis) => (sum[axis] += value));
  }
  return count === 0 ? null : (sum.map((value) => value / count) as Vec3);
}

const scaled = (v: Vec3, by: number): Vec3 => v.map((value) => value * by + 0) as Vec3;

/** The turn of a motion as a vector along its axis, radians, the right-handed way. */
function turnOf(motion: Mat4): Vec3 {
  const [x, y, z, w] = decomposeMatrix(motion).rotation;
  const sine = Math.hypot(x, y, z);
  const angle = 2 * Math.atan2(sine, Math.abs(w)) * (w < 0 ? -1 : 1);
  return sine < STILL ? [0, 0, 0] : [(x / sine) * angle, (y / sine) * angle, (z / sine) * angle];
}

function judged(along: number, whole: number): Verdict {
  if (whole < STILL) return 'still';
  if (Math.abs(along) < ASTRAY * whole) return 'astray';
  return along > 0 ? 'right' : 'wrong';
}

function judge(kit: Kit, blobs: Blobs, moved: Moved, direction: Direction | undefined, step: number): ProbedPart {
  const { binding, before, motion } = moved;
  const sign = Math.sign(step);
  const round = direction !== undefined && 'from' in direction;
  const point = direction === undefined || round ? 'furthest' : direction.point;
  const place = typeof point === 'object' || point === 'furthest' ? point : EXTREMES[point];
  const at = pointOf(kit, blobs, moved, place);
  const here: Vec3 = at ?? ([...before.get(binding.part)!.subarray(12, 15)] as Vec3);
  const goes = scaled(subtract(transformPoint(motion, here), here), sign);
  const base = { binding: binding.id, part: binding.part, at: here, goes };
  if (direction === undefined || at === null) return { ...base, verdict: 'open', should: null };
  if (!round) {
    const should = SIDE_WAYS[direction.goes];
    return { ...base, verdict: judged(dot(goes, should), Math.hypot(...goes)), should: [...should] };
  }
  // Seen from a side, counter-clockwise is the right-handed way about the line towards it.
  const turn = scaled(turnOf(motion), sign);
  const wanted = scaled(SIDE_WAYS[direction.from], direction.goes === 'clockwise' ? -1 : 1);
  const verdict = judged(dot(turn, wanted), Math.hypot(...turn));
  const length = Math.hypot(...goes);
  const should =
    verdict === 'astray' || verdict === 'still' || length < STILL ? null : scaled(goes, (verdict === 'right' ? 1 : -1) / length);
  return { ...base, verdict, should };
}

/**
 * Moves a variable from neutral by a twentieth of its range and compares where each part that follows goes with what the rulebook says that
 * rising does. Everything else stands at rest.
 *
 * Of several parts of one variable those are judged that move at least half as far as the one that moves furthest; what only goes along
 * (links, counterweights) is open, and so is what is worked out as a link: it turns as it has to.
 *
 * @param bindings Those of one variable and index.
 */
export function probeDirections(kit: Kit, blobs: Blobs, bindings: readonly Binding[], variable: Probed): ProbedPart[] {
  const step = probeStep(variable);
  const [start, end] = [variable.neutral, variable.neutral + step].map((value) => worldsAt(kit, bindings, value));
  const before = new Map(start.flat.ids.map((id) => [id, start.worldOf(id)]));
  const found = bindings.map((binding) => {
    const back = invertMatrix(Float64Array.from(before.get(binding.part)!));
    const motion = back === null ? null : multiplyMatrices(Float64Array.from(end.worldOf(binding.part)), back);
    if (motion !== null) return judge(kit, blobs, { binding, before, motion }, variable.direction, step);
    const at = [...before.get(binding.part)!.subarray(12, 15)] as Vec3;
    return { binding: binding.id, part: binding.part, verdict: 'open', at, goes: [0, 0, 0], should: null } satisfies ProbedPart;
  });
  const furthest = Math.max(...found.map(({ goes }) => Math.hypot(...goes)), 0);
  const linked = new Set(kit.links?.flatMap(({ parts }) => parts));
  return found.map((one) =>
    linked.has(one.part) || (Math.hypot(...one.goes) < GOES_ALONG * furthest && one.verdict !== 'still')
      ? { ...one, verdict: 'open' }
      : one,
  );
}

/** A direction in words: “the topmost point goes forward”, “it turns clockwise, seen from above”. */
export function directionInWords(direction: Direction): string {
  if ('from' in direction) return `it turns ${direction.goes}, seen from ${SEEN_FROM[direction.from]}`;
  const { point, goes } = direction;
  if (typeof point === 'object') return `“${point.part}” goes ${goes}`;
  return `its ${point} point goes ${goes}`;
}

const SEEN_FROM: Record<Side, string> = {
  up: 'above',
  down: 'below',
  forward: 'ahead',
  back: 'behind',
  left: 'its left',
  right: 'its right',
};
