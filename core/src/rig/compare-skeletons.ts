import type { Id, Kit, Part, Vec3 } from '../document';
import { angleBetweenQuats, decomposeMatrix, restWorlds } from '../geometry';
import type { NewJoint } from './joint-operations';
import { headOf, jointsInOrder, tailOf } from './rig-tree';

/** A joint of the skeleton that is compared with: of a rulebook, which says names and parents alone, or of another kit. */
export interface ReferenceJoint {
  name: string;
  /** By name; null at the top. */
  parent: string | null;
  needed: boolean;
  /** World, metres; null where nothing is said. */
  at: Vec3 | null;
  /** World rotation at rest; null where nothing is said. */
  rotation: [number, number, number, number] | null;
}

/** How a joint differs from the one that is asked for. */
export const JOINT_STATES = ['matched', 'misnamed', 'wrong-parent', 'misplaced', 'other-rest', 'missing', 'extra'] as const;
export type JointState = (typeof JOINT_STATES)[number];

export interface JointRow {
  /** Name in the reference; null for one that it does not have. */
  wanted: string | null;
  /** Of the kit; null for one that is missing. */
  joint: Id | null;
  /** Steps below the top, in the reference or else in the kit. */
  depth: number;
  states: JointState[];
  /** Metres off, at the reference's size; null where nothing is said. */
  offMetres: number | null;
  /** Between the rests, degrees. */
  offDegrees: number | null;
  needed: boolean;
  /** Where a joint that is missing would stand in the kit, world, metres; null where the reference says no places. */
  place: Vec3 | null;
}

/** Metres and degrees from which a joint counts as elsewhere, at the size of a person. */
const OFF_METRES = 0.03;
const OFF_DEGREES = 5;

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/** Words for one joint in several tongues of the trade: those of one line mean the same. */
const SAME = [
  ['ground', 'root', 'base'],
  ['hips', 'hip', 'pelvis'],
  ['spine', 'spine1', 'torso', 'abdomen', 'waist'],
  ['chest', 'spine2', 'upperchest', 'thorax'],
  ['shoulder', 'clavicle', 'collar'],
  ['upperarm', 'arm'],
  ['forearm', 'lowerarm', 'elbow'],
  ['hand', 'wrist'],
  ['thigh', 'upperleg', 'upleg'],
  ['shin', 'calf', 'lowerleg', 'leg', 'knee'],
  ['foot', 'ankle'],
];

/** The side and the meaning of a name: `UpperArm.L`, `left_arm` and `upper_arm_l` are the same. */
export function meaningOf(name: string): string {
  const words = name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '');
  const side = words.find((word) => ['l', 'left', 'r', 'right'].includes(word));
  const rest = words.filter((word) => !['l', 'left', 'r', 'right', 'joint', 'bone', 'jnt'].includes(word)).join('');
  const same = SAME.findIndex((line) => line.includes(rest));
  return `${same >= 0 ? SAME[same][0] : rest}/${side ? side[0] : ''}`;
}

const sideOf = (name: string) => meaningOf(name).split('/')[1];

/** A way down a reference's tree, through joints that have not met: to the nearest that has, or to an end. */
interface WayDown {
  between: ReferenceJoint[];
  met: Id | null;
}

/** @param from Name of a joint; null for above them all */
function waysDown(reference: readonly ReferenceJoint[], from: string | null, partner: ReadonlyMap<string, Id>): WayDown[] {
  const below = reference.filter(({ parent }) => parent === from);
  return below.flatMap((joint): WayDown[] => {
    const met = partner.get(joint.name);
    if (met !== undefined) return [{ between: [], met }];
    const further = waysDown(reference, joint.name, partner);
    if (further.length > 0) return further.map((way) => ({ ...way, between: [joint, ...way.between] }));
    const alone = below.every((other) => other === joint || partner.has(other.name) || sideOf(other.name) !== sideOf(joint.name));
    return alone ? [{ between: [joint], met: null }] : [];
  });
}

/**
 * Joints that no name tells, by where they hang: where as many of the kit as of the reference lie between two that have met, or where one
 * alone of each hangs as an end below one that has met. Sides never cross.
 */
function pairByTree(
  kit: Kit,
  reference: readonly ReferenceJoint[],
  free: ReadonlySet<Id>,
  partner: ReadonlyMap<string, Id>,
  aboveOf: (id: Id) => Id | null,
  take: (wanted: ReferenceJoint, id: Id) => void,
): void {
  const agree = (wanted: ReferenceJoint, id: Id) => sideOf(wanted.name) === sideOf(kit.parts[id].name);
  const freeBelow = new Map<Id | null, Id[]>();
  for (const id of free) freeBelow.set(aboveOf(id), [...(freeBelow.get(aboveOf(id)) ?? []), id]);
  const between = (upper: Id | null, lower: Id): Id[] => {
    const ids: Id[] = [];
    for (let up = aboveOf(lower); up !== null && up !== upper; up = aboveOf(up)) ids.unshift(up);
    return ids;
  };
  const ends = (upper: Id | null, wanted: ReferenceJoint): Id[] =>
    (freeBelow.get(upper) ?? []).filter((id) => agree(wanted, id) && !freeBelow.has(id));
  for (const from of [null, ...reference]) {
    const here = from === null ? null : partner.get(from.name);
    if (here === undefined) continue;
    for (const way of waysDown(reference, from?.name ?? null, partner)) {
      const ids = way.met === null ? ends(here, way.between[0]) : between(here, way.met);
      if (ids.length === way.between.length && ids.every((id, i) => free.has(id) && agree(way.between[i], id)))
        way.between.forEach((wanted, i) => take(wanted, ids[i]));
    }
  }
}

/**
 * The part that carries a whole skeleton and is no joint itself, where the reference has one above all others: an empty part at the top,
 * upright and of its own size, of which but one joint hangs.
 */
function carrierOf(
  kit: Kit,
  reference: readonly ReferenceJoint[],
  partner: ReadonlyMap<string, Id>,
  joints: ReadonlySet<Id>,
): [ReferenceJoint, Id] | null {
  const tops = reference.filter(({ parent }) => parent === null);
  const [top] = tops;
  if (tops.length !== 1 || partner.has(top.name)) return null;
  const highest = [...joints].filter((id) => jointAbove(kit, kit.parts[id], joints) === null);
  const carrier = highest.length === 1 ? kit.parts[highest[0]].parent : null;
  if (carrier === null || ![...partner.values()].includes(highest[0])) return null;
  const { parent, mesh, role, scale, rotation } = kit.parts[carrier];
  const plainly = scale.every((value) => Math.abs(value - 1) < 1e-6) && Math.abs(rotation[3]) > 1 - 1e-9;
  return parent === null && mesh === null && role === null && plainly ? [top, carrier] : null;
}

/**
 * Sets a kit's joints beside a reference: by name, else by what the name means, else by where they hang among those that have met, else by
 * place where both stand alike and under the same parent. What carries the skeleton and is no joint yet may stand for the one at its top.
 *
 * @param joints All of the kit where left out.
 */
export function compareSkeletons(kit: Kit, reference: readonly ReferenceJoint[], joints: readonly Id[] = jointsInOrder(kit)): JointRow[] {
  const worlds = restWorlds(kit);
  const free = new Set(joints);
  const partner = new Map<string, Id>();
  const take = (wanted: ReferenceJoint, id: Id | undefined) => {
    if (id === undefined || partner.has(wanted.name)) return;
    partner.set(wanted.name, id);
    free.delete(id);
  };
  const nameOf = (id: Id) => kit.parts[id].name;
  for (const match of [
    (a: string, b: string) => a === b,
    (a: string, b: string) => plain(a) === plain(b),
    (a: string, b: string) => meaningOf(a) === meaningOf(b),
  ])
    for (const wanted of reference)
      take(
        wanted,
        [...free].find((id) => match(nameOf(id), wanted.name)),
      );
  const all = new Set(joints);
  pairByTree(kit, reference, free, partner, (id) => jointAbove(kit, kit.parts[id], all), take);
  const carrier = carrierOf(kit, reference, partner, all);
  if (carrier) {
    take(...carrier);
    all.add(carrier[1]);
  }
  const fit = fitBetween(reference, partner, worlds);
  const scale = fit?.there;
  for (const wanted of reference) {
    if (partner.has(wanted.name) || !wanted.at || !scale) continue;
    const near = [...free].map((id) => ({ id, off: distance(scale(headOf(worlds, id)), wanted.at!) })).sort((a, b) => a.off - b.off)[0];
    if (near && near.off < OFF_METRES) take(wanted, near.id);
  }
  const depthOf = (name: string | null): number => {
    const one = reference.find((joint) => joint.name === name);
    return one && one.parent !== null ? depthOf(one.parent) + 1 : 0;
  };
  const rows = reference.map((wanted): JointRow => {
    const id = partner.get(wanted.name) ?? null;
    const base = {
      wanted: wanted.name,
      joint: id,
      depth: depthOf(wanted.name),
      offMetres: null,
      offDegrees: null,
      needed: wanted.needed,
      place: null,
    };
    if (id === null) return { ...base, states: ['missing'], place: wanted.at && fit ? fit.back(wanted.at) : null };
    const part = kit.parts[id];
    const states: JointState[] = [];
    if (part.name !== wanted.name) states.push('misnamed');
    const above = wanted.parent === null ? null : (partner.get(wanted.parent) ?? null);
    if (above !== null && jointAbove(kit, part, all) !== above) states.push('wrong-parent');
    const offMetres = wanted.at && scale ? distance(scale(headOf(worlds, id)), wanted.at) : null;
    if (offMetres !== null && offMetres > OFF_METRES) states.push('misplaced');
    const offDegrees = wanted.rotation ? angleBetweenQuats(decomposeMatrix(worlds.get(id)!).rotation, wanted.rotation) : null;
    if (offDegrees !== null && offDegrees > OFF_DEGREES) states.push('other-rest');
    return { ...base, states: states.length === 0 ? ['matched'] : states, offMetres, offDegrees };
  });
  const extra = [...free].map((id): JointRow => ({
    wanted: null,
    joint: id,
    depth: depthIn(kit, kit.parts[id], all),
    states: ['extra'],
    offMetres: null,
    offDegrees: null,
    needed: false,
    place: null,
  }));
  return [...rows, ...extra];
}

function jointAbove(kit: Kit, part: Part, joints: ReadonlySet<Id>): Id | null {
  for (let up = part.parent; up !== null; up = kit.parts[up].parent) if (joints.has(up)) return up;
  return null;
}

function depthIn(kit: Kit, part: Part, joints: ReadonlySet<Id>): number {
  const above = jointAbove(kit, part, joints);
  return above === null ? 0 : depthIn(kit, kit.parts[above], joints) + 1;
}

const distance = (a: Vec3, b: Vec3) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** Takes places of the kit to the reference's size and middle, and back, by the joints that have met; null where fewer than two have. */
function fitBetween(
  reference: readonly ReferenceJoint[],
  partner: ReadonlyMap<string, Id>,
  worlds: ReadonlyMap<Id, Float64Array>,
): { there: (at: Vec3) => Vec3; back: (at: Vec3) => Vec3 } | null {
  const pairs = reference.flatMap((wanted) =>
    wanted.at && partner.has(wanted.name) ? [{ there: wanted.at, here: headOf(worlds, partner.get(wanted.name)!) }] : [],
  );
  if (pairs.length < 2) return null;
  const mean = (points: Vec3[]) => [0, 1, 2].map((axis) => points.reduce((sum, point) => sum + point[axis], 0) / points.length) as Vec3;
  const spread = (points: Vec3[], middle: Vec3) => points.reduce((sum, point) => sum + distance(point, middle), 0);
  const [own, other] = [pairs.map((pair) => pair.here), pairs.map((pair) => pair.there)];
  const [here, there] = [mean(own), mean(other)];
  const size = spread(own, here);
  const factor = size > 1e-9 ? spread(other, there) / size || 1 : 1;
  const move = (at: Vec3, from: Vec3, to: Vec3, by: number) => at.map((value, axis) => to[axis] + by * (value - from[axis])) as Vec3;
  return { there: (at) => move(at, here, there, factor), back: (at) => move(at, there, here, 1 / factor) };
}

/** A kit's joints as a reference, to be compared with or to be taken over. */
export function referenceOf(kit: Kit): ReferenceJoint[] {
  const worlds = restWorlds(kit);
  const joints = jointsInOrder(kit);
  const all = new Set(joints);
  return joints.map((id) => {
    const part = kit.parts[id];
    const above = jointAbove(kit, part, all);
    return {
      name: part.name,
      parent: above === null ? null : kit.parts[above].name,
      needed: false,
      at: headOf(worlds, id),
      rotation: decomposeMatrix(worlds.get(id)!).rotation,
    };
  });
}

/**
 * A kit's joints as joints to be made in another one, parents first.
 *
 * @param scale Of all places, from the ground up @param idOf An id for each.
 */
export function jointsLike(other: Kit, scale: number, idOf: (id: Id) => Id, under: Id | null = null): NewJoint[] {
  const worlds = restWorlds(other);
  const joints = jointsInOrder(other);
  const all = new Set(joints);
  const scaled = (at: Vec3) => at.map((value) => value * scale) as Vec3;
  return joints.map((id) => {
    const above = jointAbove(other, other.parts[id], all);
    const tail = other.parts[id].tail ? tailOf(other, id, all, worlds) : null;
    return {
      id: idOf(id),
      name: other.parts[id].name,
      parent: above === null ? under : idOf(above),
      at: scaled(headOf(worlds, id)),
      ...(tail ? { tail: scaled(tail) } : {}),
    };
  });
}
