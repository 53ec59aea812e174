import { KitError, rowsThrough, type Axis, type Binding, type BindingRow, type Id, type Kit, type Part, type Vec3 } from '../document';
import {
  applyMat3,
  decomposeMatrix,
  invertMat3,
  linearPart,
  mat3FromQuat,
  multiplyMat3,
  restWorlds,
  transposeMat3,
  turnAxes,
  type Mat3,
} from '../geometry';
import type { AskedTable } from './evaluate-binding';
import { rowsToTurn } from './table-rows';

/** Parts whose motion can't be given to a twin, and why. */
export class TwinError extends KitError {}

/** How a twin’s own axes lie to the mirror image of the part’s: own axis `from` is the twin’s `to`, with a sign. */
export interface MirroredAxes {
  to: [Axis, Axis, Axis];
  sign: [number, number, number];
}

const NEAR = 1e-6;

/** How one place is taken to another: the other side in the mirror, or a place somewhere else, turned as it comes. */
export interface Taking {
  /** Of directions, orthonormal. */
  linear: Mat3;
  /** −1 through a mirror, which turns every turn round. */
  det: 1 | -1;
  /** Of places in the world. */
  place(at: Vec3): Vec3;
}

const mirrorOf = (axis: Axis): Mat3 =>
  [0, 1, 2].flatMap((row) => [0, 1, 2].map((column) => Number(row === column) * (row === axis ? -1 : 1)));

/** How many parts carry a part, one above the other. */
export const depthOf = (kit: Kit, id: Id): number => (kit.parts[id].parent === null ? 0 : 1 + depthOf(kit, kit.parts[id].parent));

/**
 * Where the plane lies across which parts are given to their twins, metres: midway between the uppermost that has one and that, where they
 * face one another; else in the middle of the kit.
 */
export function mirrorPlane(kit: Kit, parts: readonly Id[], pairs: Readonly<Record<Id, Id>>, axis: Axis): number {
  const paired = parts.filter((id) => pairs[id] && pairs[id] !== id && kit.parts[pairs[id]]);
  const top = paired.reduce<Id | null>((up, id) => (up === null || depthOf(kit, id) < depthOf(kit, up) ? id : up), null);
  return top === null ? 0 : middleOf(restWorlds(kit), axis, top, pairs[top]);
}

/** The rotation of a part at rest in the world, without its scale. */
const axesOf = (worlds: ReadonlyMap<Id, Float64Array>, id: Id): Mat3 => mat3FromQuat(decomposeMatrix(worlds.get(id)!).rotation);

/** To the other side of a plane across an axis of the world. @param middle Where it lies, metres. */
export const throughMirror = (axis: Axis, middle = 0): Taking => ({
  linear: mirrorOf(axis),
  det: -1,
  place: (at) => at.map((value, i) => (i === axis ? 2 * middle - value : value)) as Vec3,
});

/** How far a twin may be from its mirror image along the plane for the plane to lie between the two, metres. */
const FACING = 1e-3;

/** Where the plane lies across which two parts face one another: in the middle of the kit where they do not. */
function middleOf(worlds: ReadonlyMap<Id, Float64Array>, axis: Axis, part: Id, twin: Id): number {
  const [a, b] = [part, twin].map((id) => worlds.get(id)!.subarray(12, 15));
  return a.every((value, i) => i === axis || Math.abs(value - b[i]) < FACING) ? (a[axis] + b[axis]) / 2 : 0;
}

/** From where a part stands to where another one does, turned as that is against it. */
export function toPlace(worlds: ReadonlyMap<Id, Float64Array>, part: Id, twin: Id): Taking {
  const linear = multiplyMat3(axesOf(worlds, twin), transposeMat3(axesOf(worlds, part)));
  const [from, to] = [part, twin].map((id) => decomposeMatrix(worlds.get(id)!).translation);
  return {
    linear,
    det: 1,
    place: (at) => applyMat3(linear, at.map((value, i) => value - from[i]) as Vec3).map((value, i) => value + to[i]) as Vec3,
  };
}

/** C = Rt⁻¹ · M · Rp: from the part’s own axes into the twin’s. Column-major, as all matrices of three here. */
export function betweenAxes(worlds: ReadonlyMap<Id, Float64Array>, part: Id, twin: Id, { linear }: Taking): Mat3 {
  return multiplyMat3(transposeMat3(axesOf(worlds, twin)), multiplyMat3(linear, axesOf(worlds, part)));
}

/** The signed axes of a matrix that takes axes to axes; null where it does not. */
export function mirroredAxes(c: Mat3): MirroredAxes | null {
  const to: number[] = [];
  const sign: number[] = [];
  for (let from = 0; from < 3; from++) {
    const column = c.slice(3 * from, 3 * from + 3);
    const at = column.findIndex((value) => Math.abs(Math.abs(value) - 1) < NEAR);
    if (at < 0 || column.some((value, i) => i !== at && Math.abs(value) > NEAR)) return null;
    to.push(at);
    sign.push(Math.sign(column[at]));
  }
  return { to, sign } as unknown as MirroredAxes;
}

/** The own axes about which a table turns. */
export const turning = ({ rows }: Pick<Binding, 'rows'>): Axis[] =>
  ([0, 1, 2] as Axis[]).filter((axis) => rows.some(({ turn }) => Math.abs(turn[axis]) > 1e-12));
/** Whether a table resizes. */
export const resizes = ({ rows }: Pick<Binding, 'rows'>): boolean => rows.some(({ size }) => size.some((value) => value !== 1));

/** Whether turns of one part, axis by axis, are turns of the other one in its own order. */
export function sameOrder(part: Part, twin: Pick<Part, 'turnOrder'>, about: readonly Axis[], { to }: MirroredAxes): boolean {
  const wanted = turnAxes(part.turnOrder)
    .filter((axis) => about.includes(axis))
    .map((axis) => to[axis]);
  const there = turnAxes(twin.turnOrder).filter((axis) => wanted.includes(axis));
  return wanted.every((axis, i) => axis === there[i]);
}

/**
 * Rows of a part as its twin has to play them: offsets go over between the axes of their parents; a turn is about the axis that
 * corresponds, in the mirror the other way round (a mirror turns every turn round), sizes are those of the axes.
 */
export function takenRows(table: AskedTable, between: Mat3, { to, sign }: MirroredAxes, det: 1 | -1): BindingRow[] {
  // Turn vectors go by det C · C.
  const turns = to.map((at, from) => ({ at, by: det * sign[from] }));
  return rowsThrough(rowsToTurn(table, between), (row) => {
    const turn: Vec3 = [0, 0, 0];
    const size: Vec3 = [1, 1, 1];
    turns.forEach(({ at, by }, from) => {
      turn[at] = by * row.turn[from] + 0;
      size[at] = row.size[from];
    });
    const offset = applyMat3(between, row.offset).map((value) => Number(value.toFixed(12)) + 0) as Vec3;
    return { offset, turn, size };
  });
}

/** From the axes in which a part’s offsets are into those of its twin’s. */
export function betweenParents(worlds: ReadonlyMap<Id, Float64Array>, part: Part, twinParent: Id | null, { linear }: Taking): Mat3 {
  const axes = (id: Id | null): Mat3 => (id === null ? [1, 0, 0, 0, 1, 0, 0, 0, 1] : linearPart(worlds.get(id)!));
  const back = invertMat3(axes(twinParent));
  if (!back) throw new TwinError('twin-flat', `What carries the twin of “${part.name}” has no size along one of its axes.`, part.name);
  return multiplyMat3(back, multiplyMat3(linear, axes(part.parent)));
}
