import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  freeName,
  idSchema,
  idsSchema,
  KitError,
  newId,
  newPart,
  partOf,
  putNewPart,
  rowsThrough,
  subtreeOf,
  type Axis,
  type Between,
  type Binding,
  type BindingRow,
  type Id,
  type Kit,
  type Part,
  type Vec3,
} from '../document';
import {
  affineMatrix,
  applyMat3,
  decomposeMatrix,
  invertMat3,
  invertMatrix,
  keepPlaceBelow,
  linearPart,
  mat3FromQuat,
  multiplyMat3,
  restWorlds,
  transformPoint,
  transposeMat3,
  turnAxes,
  type Mat3,
} from '../geometry';
import { evaluateBinding, type AskedTable } from './evaluate-binding';
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
interface Taking {
  /** Of directions, orthonormal. */
  linear: Mat3;
  /** −1 through a mirror, which turns every turn round. */
  det: 1 | -1;
  /** Of places in the world. */
  place(at: Vec3): Vec3;
}

const mirrorOf = (axis: Axis): Mat3 =>
  [0, 1, 2].flatMap((row) => [0, 1, 2].map((column) => Number(row === column) * (row === axis ? -1 : 1)));

const depthOf = (kit: Kit, id: Id): number => (kit.parts[id].parent === null ? 0 : 1 + depthOf(kit, kit.parts[id].parent));

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

const throughMirror = (axis: Axis, middle = 0): Taking => ({
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
function toPlace(worlds: ReadonlyMap<Id, Float64Array>, part: Id, twin: Id): Taking {
  const linear = multiplyMat3(axesOf(worlds, twin), transposeMat3(axesOf(worlds, part)));
  const [from, to] = [part, twin].map((id) => decomposeMatrix(worlds.get(id)!).translation);
  return {
    linear,
    det: 1,
    place: (at) => applyMat3(linear, at.map((value, i) => value - from[i]) as Vec3).map((value, i) => value + to[i]) as Vec3,
  };
}

/** C = Rt⁻¹ · M · Rp: from the part’s own axes into the twin’s. Column-major, as all matrices of three here. */
function betweenAxes(worlds: ReadonlyMap<Id, Float64Array>, part: Id, twin: Id, { linear }: Taking): Mat3 {
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
const turning = ({ rows }: Pick<Binding, 'rows'>): Axis[] =>
  ([0, 1, 2] as Axis[]).filter((axis) => rows.some(({ turn }) => Math.abs(turn[axis]) > 1e-12));
const resizes = ({ rows }: Pick<Binding, 'rows'>): boolean => rows.some(({ size }) => size.some((value) => value !== 1));

/** Whether turns of one part, axis by axis, are turns of the other one in its own order. */
function sameOrder(part: Part, twin: Pick<Part, 'turnOrder'>, about: readonly Axis[], { to }: MirroredAxes): boolean {
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
function takenRows(table: AskedTable, between: Mat3, { to, sign }: MirroredAxes, det: 1 | -1): BindingRow[] {
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
function betweenParents(worlds: ReadonlyMap<Id, Float64Array>, part: Part, twinParent: Id | null, { linear }: Taking): Mat3 {
  const axes = (id: Id | null): Mat3 => (id === null ? [1, 0, 0, 0, 1, 0, 0, 0, 1] : linearPart(worlds.get(id)!));
  const back = invertMat3(axes(twinParent));
  if (!back) throw new TwinError('twin-flat', `What carries the twin of “${part.name}” has no size along one of its axes.`, part.name);
  return multiplyMat3(back, multiplyMat3(linear, axes(part.parent)));
}

/** Puts an empty part above some, where another one is taken to: its own axes are there what those of the other are. */
function putCarrier(kit: Kit, of: Part, above: readonly Id[], { linear, det, place }: Taking, name: string): Id {
  const worlds = restWorlds(kit);
  const { parent } = kit.parts[above[0]];
  const { translation, rotation } = decomposeMatrix(worlds.get(of.id)!);
  const there = multiplyMat3(linear, mat3FromQuat(rotation));
  // In a mirror M · R · M is a rotation again, with the own axes of the part, mirrored along the same one.
  const turned = decomposeMatrix(affineMatrix(det < 0 ? multiplyMat3(there, linear) : there)).rotation;
  const at = place(translation);
  const taken = new Set(Object.values(kit.parts).map((part) => part.name));
  const id = newId();
  const { order } = kit.parts[above[0]];
  const carrier = newPart({ id, name: freeName(name, taken), parent: null, role: 'driven', order, translation: at, rotation: turned });
  carrier.turnOrder = of.turnOrder;
  putNewPart(kit, carrier);
  const withIt = new Map(worlds).set(id, restWorlds(kit).get(id)!);
  if (parent !== null) keepPlaceBelow(kit, id, parent, withIt);
  for (const child of above) keepPlaceBelow(kit, child, id, withIt);
  for (const under of [parent, id]) childrenOf(kit, under).forEach((child, place) => (kit.parts[child.id].order = place));
  return id;
}

/** The twin of a part that shows nothing: what carries the twins of what it carries. */
function hollowTwin(kit: Kit, part: Part, pairs: Map<Id, Id>, taking: Taking, names: (name: string) => string): Id {
  const twins = childrenOf(kit, part.id).flatMap(({ id }) => pairs.get(id) ?? []);
  if (part.mesh !== null || twins.length === 0)
    throw new TwinError(
      'twin-missing',
      `“${part.name}” has no twin there. ${taking.det < 0 ? 'Mirror' : 'Repeat'} it in Shape first, or take it out of the choice.`,
      part.name,
    );
  return putCarrier(kit, part, twins, taking, names(part.name));
}

/** Twins are shown and hidden as what they are twins of, by an index of their own: of the chosen parts and of all that these carry. */
function switchTwins(kit: Kit, chosen: readonly Id[], pairs: ReadonlyMap<Id, Id>, index: number | null): void {
  const carried = new Set(chosen.flatMap((id) => [...subtreeOf(kit, id)]));
  for (const one of (kit.switches ?? []).filter(({ part }) => carried.has(part))) {
    const twin = pairs.get(one.part);
    if (twin === undefined || twin === one.part) continue;
    const own = one.index === null ? null : index;
    // By the same variable they would stand for one another: they are another set.
    const among = one.among !== '' && own === one.index ? `${one.among} twin` : one.among;
    const made = { ...one, spans: one.spans.map((span) => ({ ...span })), id: newId(), part: twin, index: own, among };
    kit.switches = [...kit.switches!.filter(({ part }) => part !== twin), made];
  }
}

/** Links between parts that were all given to twins are those of the twins, too: renewed with what carries these. */
function linkTwins(kit: Kit, twins: ReadonlyMap<Id, { twin: Id; to: readonly Axis[] }>, { place }: Taking, index: number | null): void {
  const worlds = restWorlds(kit);
  const made = (kit.links ?? []).flatMap((link) => {
    const pair = link.parts.map((id) => twins.get(id));
    if (!pair.every((one) => one !== undefined) || pair.some(({ twin }, i) => twin === link.parts[i])) return [];
    const world = worlds.get(link.parts[0])!;
    const back = invertMatrix(Float64Array.from(worlds.get(pair[0].twin)!));
    const there = link.at && place(transformPoint(world, link.at));
    return [
      {
        ...link,
        id: newId(),
        parts: pair.map(({ twin }) => twin),
        axes: pair.map(({ to }, i) => to[link.axes[i]]),
        at: there && back ? transformPoint(back, there) : null,
        on: link.on === null ? null : (twins.get(link.on)?.twin ?? link.on),
        index: link.index === null ? null : index,
      },
    ];
  });
  if (made.length === 0) return;
  const taken = new Set(made.flatMap(({ parts }) => parts));
  kit.links = [...kit.links!.filter(({ parts }) => !parts.some((id) => taken.has(id))), ...made];
}

/**
 * Gives the motion of parts to their twins, with an index of its own: rows go over as M·Δ·M⁻¹ in the twin’s own axes, so that every world
 * placement is the image of the other’s; they are linked, shown and hidden as those are. What twins followed before is replaced. A carrier
 * that has no twin gets one; where a twin’s axes lie askew, a carrier with axes that do not is put above it.
 *
 * @param pairs Twin of each part, by id.
 * @param axis Normal of the mirror: 0 left and right, midway between the uppermost part and its twin where they face one another, else
 *   through the middle of the kit; null for a place that is no mirror image, to which the
 *   uppermost part is taken as it stands against its twin
 * @throws {TwinError} where a part that is drawn has no twin
 */
export const bindTwins = defineOperation<{ bindings: Id[]; pairs: Record<Id, Id>; axis: Axis | null; index: number | null }>({
  id: 'wiring.bind-twins',
  title: (kit, { bindings, axis }) =>
    `Give the wiring of ${bindings.map((id) => `“${kit.parts[kit.bindings[id]?.part]?.name}”`).join(', ')} to ${axis === null ? 'another place' : 'the other side'}`,
  args: Joi.object({
    bindings: idsSchema.required(),
    pairs: Joi.object().pattern(idSchema, idSchema).required(),
    axis: Joi.valid(0, 1, 2, null).required(),
    index: Joi.number().integer().min(0).allow(null).required(),
  }),
  change(kit, { bindings, pairs: told, axis, index }) {
    const pairs = new Map(Object.entries(told).filter(([a, b]) => kit.parts[a] && kit.parts[b] && a !== b));
    const given = bindings.map((id) => {
      const binding = kit.bindings[id];
      if (!binding) throw new TwinError('twin-binding', 'One of these bindings is no longer in the kit. Choose again.', id);
      return binding;
    });
    // From the ends up, so that a carrier finds the twins of what it carries.
    const chosen = [...new Set(given.map(({ part }) => part))].sort((a, b) => depthOf(kit, b) - depthOf(kit, a));
    const top = chosen.findLast((id) => pairs.has(id));
    if (axis === null && top === undefined)
      throw new TwinError('twin-missing', 'None of these parts has one like it there. Repeat them in Shape first.');
    const worlds = restWorlds(kit);
    const taking = axis === null ? toPlace(worlds, top!, pairs.get(top!)!) : throughMirror(axis, mirrorPlane(kit, chosen, told, axis));
    const other = (name: string) => `${name}_twin`;
    for (const id of chosen) {
      const part = partOf(kit, id);
      if (!pairs.has(id)) pairs.set(id, hollowTwin(kit, part, pairs, taking, other));
    }
    const made: Id[] = [];
    const twinOf = new Map<Id, { twin: Id; to: readonly Axis[] }>();
    for (const binding of given) {
      const part = partOf(kit, binding.part);
      const about = turning(binding);
      let twin = pairs.get(part.id)!;
      const fits = (id: Id): MirroredAxes | null => {
        const axes = mirroredAxes(betweenAxes(restWorlds(kit), part.id, id, taking));
        return axes && sameOrder(part, kit.parts[id], about, axes) ? axes : null;
      };
      let axes = fits(twin);
      if (!axes && (about.length > 0 || resizes(binding))) {
        twin = putCarrier(kit, part, [twin], taking, `${kit.parts[twin].name}_carrier`);
        axes = fits(twin)!;
      }
      axes ??= { to: [0, 1, 2], sign: [1, 1, 1] };
      for (const old of Object.values(kit.bindings)) if (old.part === twin || old.part === pairs.get(part.id)) delete kit.bindings[old.id];
      kit.parts[twin].role ??= 'driven';
      const between = betweenParents(restWorlds(kit), part, kit.parts[twin].parent, taking);
      const id = newId();
      kit.bindings[id] = {
        id,
        part: twin,
        variable: binding.variable,
        index,
        outside: binding.outside,
        ...(binding.between && { between: binding.between }),
        rows: takenRows(binding, between, axes, taking.det),
      };
      made.push(twin);
      twinOf.set(part.id, { twin, to: axes.to });
    }
    linkTwins(kit, twinOf, taking, index);
    switchTwins(kit, chosen, pairs, index);
    return { parts: made };
  },
});

/** How far a twin may be from the mirror image and still count as in step: metres, degrees, factors. */
const IN_STEP = 1e-6;

/** A twin’s binding, and what it would have to be. */
interface OutOfStep {
  binding: Binding;
  rows: BindingRow[];
  between: Between;
}

/**
 * The binding of a part’s twin that follows the same variable and no longer moves it as the mirror image, with the rows with which it
 * would. Null where there is none, where it is in step, and where the twin’s axes lie so that it would need a carrier.
 *
 * @param pairs Twin of each part, by id
 */
export function outOfStep(kit: Kit, binding: Binding, pairs: Readonly<Record<Id, Id>>): OutOfStep | null {
  const part = kit.parts[binding.part];
  const twin = kit.parts[pairs[binding.part]];
  // What links turn is worked out of what carries it, on each side by itself.
  if (!twin || twin === part || kit.links?.some(({ parts }) => parts.includes(part.id) || parts.includes(twin.id))) return null;
  const other = Object.values(kit.bindings).find((one) => one.part === twin.id && one.variable === binding.variable);
  if (!other) return null;
  const worlds = restWorlds(kit);
  const taking = throughMirror(0);
  const axes = mirroredAxes(betweenAxes(worlds, part.id, twin.id, taking));
  if (!axes || !sameOrder(part, twin, turning(binding), axes)) return null;
  const rows = takenRows(binding, betweenParents(worlds, part, twin.parent, taking), axes, taking.det);
  const { between = 'straight' } = binding;
  const image = { rows, outside: other.outside, between };
  const values = [...new Set([...rows, ...other.rows].map(({ value }) => value))].sort((a, b) => a - b);
  const looks = between === 'straight' ? values : values.flatMap((value, i) => [value, (value + (values[i + 1] ?? value)) / 2]);
  const off = looks.some((value) => {
    const [wanted, there] = [evaluateBinding(image, value), evaluateBinding(other, value)];
    return (['offset', 'turn', 'size'] as const).some((of) => wanted[of].some((one, axis) => Math.abs(one - there[of][axis]) > IN_STEP));
  });
  return off || between !== (other.between ?? 'straight') ? { binding: other, rows, between } : null;
}

/** A name without what tells one of several apart: sides, ends, numbers. */
const stemOf = (name: string) =>
  name
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '' && !/^(\d+|l|r|left|right|front|back|rear|fore|aft|upper|lower|top|bottom)$/.test(word))
    .join(' ');

/**
 * Which parts below one stand for which below another: those of one mesh, or whose names differ by a side, an end or a number alone, level
 * by level; where there are as many below one as below the other, the rest by their order.
 */
export function likePairs(kit: Kit, from: Id, to: Id): Record<Id, Id> {
  const pairs: Record<Id, Id> = { [from]: to };
  const here = childrenOf(kit, from);
  const there = childrenOf(kit, to);
  const free = new Set(there.map(({ id }) => id));
  const take = (part: Part, twin: Part | undefined) => {
    if (!twin) return;
    free.delete(twin.id);
    Object.assign(pairs, likePairs(kit, part.id, twin.id));
  };
  for (const part of here)
    take(
      part,
      there.find(({ id, name, mesh }) => free.has(id) && (stemOf(name) === stemOf(part.name) || (mesh !== null && mesh === part.mesh))),
    );
  if (here.length === there.length)
    for (const part of here)
      if (!pairs[part.id])
        take(
          part,
          there.find(({ id }) => free.has(id)),
        );
  return pairs;
}
