import { KitError, type Axis, type BindingRow, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import { composeMatrix, determinantMat3, flattenParts, linearPart, multiplyMatrices, ownBounds, Poser, rotateVector } from '../geometry';
import { neutralFirst, neutralRow } from './binding-operations';
import { axisOf } from './link-frames';

/** About what a part of a chain bends: its own pivot, or an edge of its foot on the inner or the outer side of the bend. */
export const HINGES = ['pivot', 'inner', 'outer'] as const;
export type Hinge = (typeof HINGES)[number];

/** How far the whole chain is turned at a value of the variable. */
export interface DriveStop {
  /** In the variable's unit. */
  value: number;
  /** Degrees the right-handed way about the kit's axis, from rest. */
  degrees: number;
}

/** A turn that a chain of parts shares. */
export interface ChainDrive {
  /** From the lowest to the last; each hangs somewhere below the one before. */
  parts: Id[];
  /** Of the kit at rest; every part has an own axis along it. */
  axis: Axis;
  /** What part of the whole turn each does; together 1. */
  shares: number[];
  /** At least one; none at neutral, where nothing is turned. */
  stops: DriveStop[];
  neutral: number;
  hinge: Hinge;
  /** Whether a part slides down by what its foot would open at the outer side. */
  closed: boolean;
}

/** A chain that can't share a turn, and why. */
export class DriveError extends KitError {}

/** How far between two rows an offset may be from where it would truly be, metres. */
export const DRIVE_METRES = 0.0001;
/** How often a step between two rows is halved for it. */
const HALVINGS = 10;
/** An own axis may stand askew to the kit's by as much, as the cosine that is left: 0.06°. */
const ALONG = 1 - 5e-7;
const RADIANS = Math.PI / 180;

const nameOf = (kit: Kit, id: Id) => `“${kit.parts[id].name}”`;

/** A part as it bends: in the axes in which it turns, its pivot as their origin. */
interface Joint {
  part: Id;
  /** Own axis along the kit's one. */
  axis: Axis;
  /** 1 where the right-handed way about it is that about the kit's, else −1. */
  sign: 1 | -1;
  /** Where it stands on what carries it, from the pivot; null of a part that shows nothing. */
  foot: Foot | null;
}

/** The side of a part's box with which it stands on what carries it. */
interface Foot {
  /** Own axis from the foot through the part, and to which side. */
  along: Axis;
  way: 1 | -1;
  /** Height of the foot over the pivot as `along` counts, metres; the same for its edges across. */
  height: number;
  low: number;
  high: number;
  across: Axis;
}

/** The box of what a part shows itself, from its pivot, in metres of the axes in which it turns. */
function footOf(kit: Kit, blobs: Blobs, id: Id, axis: Axis): Foot | null {
  const part = kit.parts[id];
  const { min, max } = ownBounds(kit, blobs, part);
  if (!(max[0] >= min[0])) return null;
  const ends = [0, 1, 2].map((i) => [min[i] * part.scale[i], max[i] * part.scale[i]].sort((a, b) => a - b));
  const middle = ends.map(([low, high]) => (low + high) / 2);
  const [u, v] = [((axis + 1) % 3) as Axis, ((axis + 2) % 3) as Axis];
  const along = Math.abs(middle[v]) > Math.abs(middle[u]) ? v : u;
  const across = along === u ? v : u;
  const way = middle[along] < 0 ? -1 : 1;
  return { along, way, height: ends[along][way > 0 ? 0 : 1], low: ends[across][0], high: ends[across][1], across };
}

function jointOf(kit: Kit, blobs: Blobs, poser: Poser, id: Id, along: Axis): Joint {
  const { parent, translation, rotation } = kit.parts[id];
  const local = composeMatrix(translation, rotation, [1, 1, 1]);
  const frame = parent === null ? local : multiplyMatrices(Float64Array.from(poser.worldOf(parent)), local);
  const axis = ([0, 1, 2] as Axis[]).reduce((best, one) =>
    Math.abs(axisOf(frame, one)[along]) > Math.abs(axisOf(frame, best)[along]) ? one : best,
  );
  const lies = axisOf(frame, axis)[along];
  if (Math.abs(lies) < ALONG) {
    const degrees = Math.acos(Math.min(1, Math.abs(lies))) / RADIANS;
    throw new DriveError(
      'drive-askew',
      `No own axis of ${nameOf(kit, id)} lies along ${'xyz'[along]}: the nearest stands ${degrees.toFixed(1)}° askew. Set its axes in Shape, or take another axis.`,
      id,
    );
  }
  // In a mirrored frame the right-handed way about an own axis is the other way in the world.
  const sign = lies * determinantMat3(linearPart(frame)) < 0 ? -1 : 1;
  return { part: id, axis, sign, foot: footOf(kit, blobs, id, axis) };
}

/** A place across an axis, turned about it by an angle: `[u, v]` of the two axes after it in the right-handed order. */
function turned([u, v]: readonly [number, number], radians: number): [number, number] {
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  return [u * cos - v * sin, u * sin + v * cos];
}

/**
 * How far a part is moved, beside its turn, so that it bends about an edge of its foot, and slides down by what that opens: metres in the
 * axes in which it turns.
 *
 * Turning about a place e instead of the pivot is the turn and (I − R) e.
 */
function slideOf({ axis, foot }: Joint, radians: number, hinge: Hinge, closed: boolean): Vec3 {
  const offset: Vec3 = [0, 0, 0];
  if (!foot || radians === 0) return offset;
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  const place = (across: number): [number, number] => (foot.along === u ? [foot.height, across] : [across, foot.height]);
  const heightOf = (one: readonly [number, number]) => foot.way * one[foot.along === u ? 0 : 1];
  // The inner side is the one that the top of the part goes to.
  const leans = turned(foot.along === u ? [foot.way, 0] : [0, foot.way], radians)[foot.along === u ? 1 : 0];
  const [inner, outer] = leans > 0 ? [foot.high, foot.low] : [foot.low, foot.high];
  if (hinge !== 'pivot') {
    const edge = place(hinge === 'inner' ? inner : outer);
    const there = turned(edge, radians);
    offset[u] = edge[0] - there[0];
    offset[v] = edge[1] - there[1];
  }
  if (closed) {
    const heights = [inner, outer].map((across) => heightOf(turned(place(across), radians)) + foot.way * offset[foot.along]);
    const opens = Math.max(...heights) - foot.way * foot.height;
    if (opens > 0) offset[foot.along] -= foot.way * opens;
  }
  return offset;
}

/** The whole turn at a value, degrees: straight between stops, nothing at neutral. */
function degreesAt(knots: readonly DriveStop[], value: number): number {
  const after = knots.findIndex((knot) => knot.value >= value);
  const to = knots[Math.max(0, after)];
  const from = knots[after - 1] ?? to;
  return to.value === from.value
    ? to.degrees
    : from.degrees + ((to.degrees - from.degrees) * (value - from.value)) / (to.value - from.value);
}

/** Values between two stops at which a row is needed so that what is straight between them stays near enough. */
function between(from: number, to: number, offsetAt: (value: number) => Vec3, depth = HALVINGS): number[] {
  const middle = (from + to) / 2;
  const [a, b, there] = [offsetAt(from), offsetAt(to), offsetAt(middle)];
  const off = Math.hypot(...there.map((value, i) => value - (a[i] + b[i]) / 2));
  if (depth === 0 || off <= DRIVE_METRES) return [];
  return [...between(from, middle, offsetAt, depth - 1), middle, ...between(middle, to, offsetAt, depth - 1)];
}

/** Whether anything is to be moved beside its turn. */
export const slides = ({ hinge, closed }: Pick<ChainDrive, 'hinge' | 'closed'>): boolean => hinge !== 'pivot' || closed;

function mustBeChain(kit: Kit, { parts, shares, stops, neutral }: ChainDrive): void {
  if (shares.length !== parts.length)
    throw new DriveError('drive-shares', `There are ${shares.length} shares for ${parts.length} parts. Give each part one.`, null);
  const sum = shares.reduce((a, b) => a + b, 0);
  if (Math.abs(sum - 1) > 1e-6)
    throw new DriveError('drive-shares', `The shares come to ${(100 * sum).toFixed(1)} %. Together they make the whole turn: 100 %.`, null);
  if (stops.some(({ value, degrees }) => value === neutral && degrees !== 0))
    throw new DriveError('drive-neutral', 'At neutral nothing is turned. Say the turn at other values.', null);
  if (stops.every(({ degrees }) => degrees === 0))
    throw new DriveError('drive-still', 'A turn of 0° at every value moves nothing. Say how far it turns at the ends.', null);
  parts.slice(1).forEach((id, i) => {
    let above: Id | null = kit.parts[id].parent;
    while (above !== null && above !== parts[i]) above = kit.parts[above].parent;
    if (above === null)
      throw new DriveError(
        'drive-chain',
        `${nameOf(kit, id)} does not hang below ${nameOf(kit, parts[i])}: it would not be carried along. Hang it there in Shape, or leave it out.`,
        id,
      );
  });
}

/**
 * The tables of a chain that shares a turn: of each part, rows with its share of the turn at every stop and with the offset that lets it
 * bend about an edge and closes what would open, refined until no place between two rows is more than 0.1 mm from the true one.
 *
 * @returns In the order of the parts; of each the neutral row first
 * @throws {DriveError} where the parts are no chain, an axis lies askew, or a part has no edge to turn about
 */
export function driveRows(kit: Kit, blobs: Blobs, drive: ChainDrive): BindingRow[][] {
  mustBeChain(kit, drive);
  const { neutral, hinge, closed } = drive;
  const poser = new Poser(flattenParts(kit));
  poser.update();
  const joints = drive.parts.map((id) => jointOf(kit, blobs, poser, id, drive.axis));
  const bare = slides(drive) ? joints.find(({ foot }) => !foot) : undefined;
  if (bare)
    throw new DriveError(
      'drive-bare',
      `${nameOf(kit, bare.part)} shows nothing: it has no edge to turn about. Let the chain turn about its pivots, with gaps as they are.`,
      bare.part,
    );
  const knots = [...drive.stops.filter(({ value }) => value !== neutral), { value: neutral, degrees: 0 }].sort((a, b) => a.value - b.value);
  return joints.map((joint, i) => {
    const degrees = (value: number) => joint.sign * drive.shares[i] * degreesAt(knots, value);
    const offset = (value: number) => slideOf(joint, degrees(value) * RADIANS, hinge, closed);
    const inner = knots.slice(1).flatMap(({ value }, k) => between(knots[k].value, value, offset));
    const values = [...knots.map(({ value }) => value), ...inner].sort((a, b) => a - b);
    return neutralFirst(
      values.map((value): BindingRow => {
        const row = neutralRow(value);
        row.turn[joint.axis] = degrees(value) + 0;
        row.offset = rotateVector(kit.parts[joint.part].rotation, offset(value)).map((one) => one + 0) as Vec3;
        return row;
      }),
      neutral,
    );
  });
}

/** Stops of one side and their like on the other: as far beyond neutral, turned as far the other way, within the range. */
export function mirroredStops(stops: readonly DriveStop[], neutral: number, { min, max }: { min: number; max: number }): DriveStop[] {
  const found = new Map(stops.map((stop) => [stop.value, stop]));
  for (const { value, degrees } of stops) {
    const like = 2 * neutral - value;
    if (like >= min && like <= max && !found.has(like)) found.set(like, { value: like, degrees: -degrees });
  }
  return [...found.values()].sort((a, b) => a.value - b.value);
}

/** Even shares of a turn for so many parts. */
export const evenShares = (parts: number): number[] => Array.from({ length: parts }, () => 1 / parts);
