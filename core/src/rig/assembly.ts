import type { Coupling, Id, Kit, Quat, Vec3 } from '../document';
import {
  conjugateQuat,
  type CouplingPlace,
  couplingInWorld,
  cross,
  decomposeMatrix,
  dot,
  invertMatrix,
  mat3FromQuat,
  type Mat4,
  movedPlace,
  multiplyMatrices,
  multiplyQuats,
  type Poser,
  quatBetween,
  restWorlds,
  rotateVector,
  subtract,
  transformPoint,
} from '../geometry';

/** How far couplings have gone from rest: degrees, metres for a slider, a unit quaternion for a ball. */
export type CouplingValues = Record<Id, number | Quat>;

/** The bodies as they hang from one another. */
export interface AssemblyTree {
  /** The first anchored body; null where there is none. */
  root: Id | null;
  /** The coupling that a body hangs by; not of the root. */
  by: Map<Id, Coupling>;
  /** Bodies in the order of the tree, the root first. */
  order: Id[];
  /** Couplings that close a ring. */
  loops: Coupling[];
  /** Bodies that no coupling leads to from the root. */
  loose: Id[];
}

/** Follows the couplings from the anchored body, in both directions. */
export function assemblyTree(kit: Pick<Kit, 'bodies' | 'couplings'>): AssemblyTree {
  const bodies = kit.bodies ?? [];
  const couplings = kit.couplings ?? [];
  const root = bodies.find((body) => body.anchored)?.id ?? null;
  const by = new Map<Id, Coupling>();
  const order: Id[] = root === null ? [] : [root];
  const seen = new Set(order);
  const used = new Set<Id>();
  for (let i = 0; i < order.length; i++) {
    for (const coupling of couplings) {
      if (used.has(coupling.id) || (coupling.from !== order[i] && coupling.to !== order[i])) continue;
      const other = coupling.from === order[i] ? coupling.to : coupling.from;
      if (seen.has(other)) continue;
      used.add(coupling.id);
      seen.add(other);
      by.set(other, coupling);
      order.push(other);
    }
  }
  // Rings among bodies that nothing anchors count too.
  const parent = new Map<Id, Id>(bodies.map(({ id }) => [id, id]));
  const top = (id: Id): Id => (parent.get(id) === id ? id : top(parent.get(id)!));
  const loops = couplings.filter((coupling) => {
    if (used.has(coupling.id)) {
      parent.set(top(coupling.from), top(coupling.to));
      return false;
    }
    return true;
  });
  const closing = loops.filter((coupling) => {
    const [a, b] = [top(coupling.from), top(coupling.to)];
    if (a === b) return true;
    parent.set(a, b);
    return false;
  });
  return { root, by, order, loops: closing, loose: bodies.filter(({ id }) => !seen.has(id)).map(({ id }) => id) };
}

/** Keeps a value within what its coupling allows. */
export function withinLimits(
  { kind, min, max, axis }: Pick<Coupling, 'kind' | 'min' | 'max' | 'axis'>,
  value: number | Quat,
): number | Quat {
  if (typeof value === 'number') return Math.min(max ?? Infinity, Math.max(min ?? -Infinity, value));
  if (kind !== 'ball' || max === null) return value;
  // The swing of the cone's middle; what turns about it is free.
  const swung = rotateVector(value, axis);
  const angle =
    (Math.acos(
      Math.max(
        -1,
        Math.min(
          1,
          swung.reduce((sum, one, i) => sum + one * axis[i], 0),
        ),
      ),
    ) *
      180) /
    Math.PI;
  if (angle <= max) return value;
  const swing = quatBetween(axis, swung);
  const twist = multiplyQuats(conjugateQuat(swing), value);
  return multiplyQuats(about(quatAxis(swing), max), twist);
}

const about = (axis: Vec3, degrees: number): Quat => {
  const half = (degrees * Math.PI) / 360;
  return [axis[0] * Math.sin(half), axis[1] * Math.sin(half), axis[2] * Math.sin(half), Math.cos(half)];
};

function quatAxis([x, y, z]: Quat): Vec3 {
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}

/**
 * What a coupling at a value does to the body that it holds, world, where the holding one stands at rest. `turned` where the tree runs
 * against it.
 */
function motionOfCoupling(place: CouplingPlace, coupling: Coupling, value: number | Quat, against: boolean): Mat4 {
  const sign = against ? -1 : 1;
  if (coupling.kind === 'slider') {
    const by = sign * (value as number);
    return Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, by * place.axis[0], by * place.axis[1], by * place.axis[2], 1]);
  }
  if (coupling.kind === 'hinge') return turnAbout(place.at, about(place.axis, sign * (value as number)));
  return turnAbout(place.at, against ? conjugateQuat(value as Quat) : (value as Quat));
}

function turnAbout(at: Vec3, turn: Quat): Mat4 {
  const m = mat3FromQuat(turn);
  const back = rotateVector(turn, at);
  return Float64Array.from([
    m[0],
    m[1],
    m[2],
    0,
    m[3],
    m[4],
    m[5],
    0,
    m[6],
    m[7],
    m[8],
    0,
    at[0] - back[0],
    at[1] - back[1],
    at[2] - back[2],
    1,
  ]);
}

/** What each body has done from rest, world, for values of the couplings; bodies that nothing holds stay. */
export function bodyMotions(
  kit: Kit,
  values: CouplingValues,
  tree: AssemblyTree = assemblyTree(kit),
  worlds: ReadonlyMap<Id, Mat4> = restWorlds(kit),
): Map<Id, Mat4> {
  const still = () => Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  const motions = new Map<Id, Mat4>((kit.bodies ?? []).map(({ id }) => [id, still()]));
  for (const id of tree.order) {
    const coupling = tree.by.get(id);
    if (!coupling) continue;
    const against = coupling.from === id;
    const above = against ? coupling.to : coupling.from;
    const value = values[coupling.id] ?? (coupling.kind === 'ball' ? ([0, 0, 0, 1] as Quat) : 0);
    motions.set(
      id,
      multiplyMatrices(motions.get(above)!, motionOfCoupling(couplingInWorld(kit, coupling, worlds), coupling, value, against)),
    );
  }
  return motions;
}

/**
 * Values with which a point of a body comes as near to a target as its couplings let it: cyclic coordinate descent from the body to the
 * root (Wang & Chen 1991), each coupling within its limits.
 *
 * @param grabbed A point on the body as it stands at rest, world, metres. @param target World, metres.
 */
export function dragBody(
  kit: Kit,
  values: CouplingValues,
  body: Id,
  grabbed: Vec3,
  target: Vec3,
  rounds = 24,
  tree: AssemblyTree = assemblyTree(kit),
): CouplingValues {
  const worlds = restWorlds(kit);
  const next: CouplingValues = { ...values };
  const chain: Id[] = [];
  for (let id: Id | undefined = body; id !== undefined && tree.by.has(id); id = above(tree, id)) chain.push(id);
  for (let round = 0; round < rounds; round++) {
    let moved = 0;
    for (const id of chain) {
      const coupling = tree.by.get(id)!;
      const motions = bodyMotions(kit, next, tree, worlds);
      const point = transformPoint(motions.get(body)!, grabbed);
      const against = coupling.from === id;
      const carried = motions.get(above(tree, id)!)!;
      const rest = couplingInWorld(kit, coupling, worlds);
      const place = movedPlace(carried, rest);
      const before = next[coupling.id] ?? (coupling.kind === 'ball' ? ([0, 0, 0, 1] as Quat) : 0);
      const wanted = stepTowards(place, coupling, before, point, target, against, carried);
      next[coupling.id] = withinLimits({ ...coupling, axis: rest.axis }, wanted);
      const after = next[coupling.id];
      moved = Math.max(
        moved,
        typeof after === 'number'
          ? Math.abs(after - (before as number))
          : 1 - Math.abs(after.reduce((sum, one, i) => sum + one * (before as Quat)[i], 0)),
      );
    }
    if (moved < 1e-7) break;
  }
  return next;
}

function above(tree: AssemblyTree, id: Id): Id | undefined {
  const coupling = tree.by.get(id);
  return coupling && (coupling.from === id ? coupling.to : coupling.from);
}

function stepTowards(
  place: CouplingPlace,
  coupling: Coupling,
  value: number | Quat,
  point: Vec3,
  target: Vec3,
  against: boolean,
  carried: Mat4,
): number | Quat {
  const sign = against ? -1 : 1;
  if (coupling.kind === 'slider') return (value as number) + sign * dot(subtract(target, point), place.axis);
  const [from, to] = [subtract(point, place.at), subtract(target, place.at)];
  if (coupling.kind === 'hinge') {
    const flat = (v: Vec3) => subtract(v, place.axis.map((one) => one * dot(v, place.axis)) as Vec3);
    const [a, b] = [flat(from), flat(to)];
    if (Math.hypot(...a) < 1e-9 || Math.hypot(...b) < 1e-9) return value;
    return (value as number) + (sign * Math.atan2(dot(cross(a, b), place.axis), dot(a, b)) * 180) / Math.PI;
  }
  if (Math.hypot(...from) < 1e-9 || Math.hypot(...to) < 1e-9) return value;
  const unit = (v: Vec3) => v.map((one) => one / Math.hypot(...v)) as Vec3;
  // The turn in the world, taken into the axes that the holding body carries.
  const { rotation } = decomposeMatrix(carried);
  const turn = multiplyQuats(conjugateQuat(rotation), multiplyQuats(quatBetween(unit(from), unit(to)), rotation));
  return against ? multiplyQuats(value as Quat, conjugateQuat(turn)) : multiplyQuats(turn, value as Quat);
}

/**
 * Puts the bodies of an assembly where their couplings let them be; parts in no body go with what carries them. Writes the poser's
 * placements.
 */
export function poseAssembly(kit: Kit, poser: Poser, values: CouplingValues): void {
  poser.reset();
  poser.update();
  const motions = bodyMotions(kit, values);
  const bodyOfPart = new Map((kit.bodies ?? []).flatMap((body) => body.parts.map((part) => [part, body.id] as const)));
  const { flat } = poser;
  const rest = poser.world.slice();
  flat.ids.forEach((id, i) => {
    const body = bodyOfPart.get(id);
    const parent = flat.parent[i];
    const parentWorld = parent < 0 ? null : poser.world.subarray(16 * parent, 16 * parent + 16);
    const own = rest.subarray(16 * i, 16 * i + 16);
    if (body === undefined) {
      // As it hangs at rest.
      const inverse = parent < 0 ? null : invertMatrix(rest.subarray(16 * parent, 16 * parent + 16));
      poser.world.set(parentWorld && inverse ? multiplyMatrices(parentWorld, multiplyMatrices(inverse, own)) : own, 16 * i);
      return;
    }
    const world = multiplyMatrices(motions.get(body)!, own);
    poser.world.set(world, 16 * i);
    const inverse = parentWorld && invertMatrix(parentWorld);
    const { translation, rotation, scale } = decomposeMatrix(inverse ? multiplyMatrices(inverse, world) : world);
    poser.translation.set(translation, 3 * i);
    poser.rotation.set(rotation, 4 * i);
    poser.scale.set(scale, 3 * i);
  });
}
