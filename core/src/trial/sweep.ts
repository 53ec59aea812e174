import { figure, partsInOrder, readArray, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import {
  flattenParts,
  growBounds,
  emptyBounds,
  invertMatrix,
  multiplyMatrices,
  Poser,
  transformPoint,
  type Bounds,
  type Mat4,
} from '../geometry';
import { StandingTriangles } from '../rig';
import type { Lever } from './lever';
import { poseKit, REST } from './pose-kit';

/** Two parts that run into each other as one variable is moved, all others at neutral. */
export interface Crossing {
  /** `leverKey` of the variable. */
  key: string;
  /** The value nearest to neutral at which they meet, on that side of it. */
  value: number;
  parts: [Id, Id];
  /** Where they meet, world, metres. */
  at: Vec3;
}

/** What came of moving every lever through its range. */
export interface Swept {
  crossings: Crossing[];
  /** Parts that are driven, and stand still whatever is moved. */
  still: Id[];
}

/** Values on either side of neutral that are looked at. */
const STEPS = 20;
/** Halvings to the first contact: a millionth of a step. */
const HALVINGS = 20;
/** Parts that come as near as this at rest are taken to touch, metres. */
const TOUCH = 1e-3;

/** A part as it is tried against others: its surface in its own axes. */
interface Body {
  id: Id;
  index: number;
  positions: Float32Array;
  indices: Uint32Array;
  bounds: Bounds;
  /** Worked out when it is first asked for. */
  standing: StandingTriangles | null;
}

/** Surfaces of the parts that are drawn and hang on themselves alone, in their own axes. */
function bodiesOf(kit: Kit, blobs: Blobs, poser: Poser): Body[] {
  return partsInOrder(kit).flatMap((part): Body[] => {
    if (part.mesh === null || part.skin !== null) return [];
    const places: number[] = [];
    const indices: number[] = [];
    for (const primitive of kit.meshes[part.mesh].primitives) {
      if (!primitive.attributes.POSITION) continue;
      const start = places.length / 3;
      for (const value of readArray<Float32Array>(blobs, primitive.attributes.POSITION)) places.push(value);
      for (const at of readArray<Uint32Array>(blobs, primitive.indices)) indices.push(start + at);
    }
    if (indices.length < 3) return [];
    const bounds = emptyBounds();
    growBounds(bounds, places);
    const index = poser.flat.indexOf.get(part.id)!;
    return [{ id: part.id, index, positions: Float32Array.from(places), indices: Uint32Array.from(indices), bounds, standing: null }];
  });
}

const worldOf = (poser: Poser, { index }: Body): Mat4 => poser.world.subarray(16 * index, 16 * index + 16);

/** Bounds of bounds in other axes. */
function boundsIn(m: Mat4, { min, max }: Bounds): Bounds {
  const out = emptyBounds();
  for (let corner = 0; corner < 8; corner++)
    growBounds(out, transformPoint(m, [corner & 1 ? max[0] : min[0], corner & 2 ? max[1] : min[1], corner & 4 ? max[2] : min[2]]));
  return out;
}

const apart = (a: Bounds, b: Bounds, by = 0): boolean =>
  [0, 1, 2].some((axis) => a.min[axis] - by > b.max[axis] || b.min[axis] - by > a.max[axis]);

/** Whether a part is of any size: what is hidden is of none. */
const isShown = (poser: Poser, body: Body): boolean =>
  worldOf(poser, body)
    .subarray(0, 3)
    .some((value) => value !== 0);

/** Where two parts meet under the world matrices of a pose, in the world; null where they do not. @param shift Moves the second, world */
function meeting(poser: Poser, a: Body, b: Body, shift: Vec3 = [0, 0, 0]): Vec3 | null {
  // The smaller one is carried over into the axes of the larger, whose cells stand.
  if (!isShown(poser, a) || !isShown(poser, b)) return null;
  const [stand, move] = a.indices.length >= b.indices.length ? [a, b] : [b, a];
  const home = Float64Array.from(worldOf(poser, stand));
  const back = invertMatrix(home);
  if (!back) return null;
  const way = Float64Array.from(worldOf(poser, move));
  const sign = move === b ? 1 : -1;
  shift.forEach((value, axis) => (way[12 + axis] += sign * value));
  const into = multiplyMatrices(back, way);
  if (apart(boundsIn(into, move.bounds), stand.bounds)) return null;
  stand.standing ??= new StandingTriangles(stand.positions, stand.indices);
  const placed = new Float32Array(move.positions.length);
  const { positions } = move;
  for (let i = 0; i < placed.length; i += 3)
    for (let k = 0; k < 3; k++)
      placed[i + k] = into[k] * positions[i] + into[4 + k] * positions[i + 1] + into[8 + k] * positions[i + 2] + into[12 + k];
  let found: Vec3 | null = null;
  stand.standing.crossedBy(placed, move.indices, (_, x, y, z) => {
    found = transformPoint(home, [x, y, z]);
    return true;
  });
  return found;
}

/** Whether parts run into each other at rest, or come as near as a millimetre: that is how they were made. */
function touches(rest: Poser, a: Body, b: Body): boolean {
  if (apart(boundsIn(worldOf(rest, a), a.bounds), boundsIn(worldOf(rest, b), b.bounds), TOUCH)) return false;
  const ways: Vec3[] = [
    [0, 0, 0],
    ...[0, 1, 2].flatMap((axis) => [1, -1].map((sign) => [0, 1, 2].map((i) => (i === axis ? sign * TOUCH : 0)) as Vec3)),
  ];
  return ways.some((way) => meeting(rest, a, b, way) !== null);
}

/**
 * Moves each lever from neutral to either end of its range, all others at neutral, and tells which parts run into each other: triangles,
 * not boxes. What meets or touches at rest is meant. Skinned parts are left out.
 *
 * Pairs whose boxes in one another’s axes are apart are left out first; the first contact is found by halving.
 *
 * @param step Called after each lever; a sweep that is to end is ended by throwing there.
 */
export function* sweep(
  kit: Kit,
  blobs: Blobs,
  levers: readonly Lever[],
): Generator<{ key: string; crossings: Crossing[] }, Swept, undefined> {
  const poser = new Poser(flattenParts(kit));
  const variables = levers.map(({ variable }) => variable);
  const neutral = Object.fromEntries(levers.map(({ key, variable }) => [key, variable.neutral]));
  const pose = (key: string, value: number) => poseKit(poser, kit, blobs, { ...REST, levers: { ...neutral, [key]: value } }, variables);
  const rest = new Poser(flattenParts(kit));
  poseKit(rest, kit, blobs, { ...REST, levers: neutral }, variables);
  const bodies = bodiesOf(kit, blobs, rest);
  const meant = new Map<string, boolean>();
  const isMeant = (a: Body, b: Body) => {
    const key = `${a.index} ${b.index}`;
    let known = meant.get(key);
    if (known === undefined) meant.set(key, (known = touches(rest, a, b)));
    return known;
  };
  const moved = new Set<Id>();
  const crossings: Crossing[] = [];
  for (const { key, variable, bindings, switches } of levers) {
    const drivers = new Set([...bindings, ...switches].map(({ part }) => part));
    /** Parts that a lever moves as one have the same leader; null stands still. */
    const leaderOf = (id: Id): Id | null => {
      for (let at: Id | null = id; at !== null; at = kit.parts[at].parent) if (drivers.has(at)) return at;
      return null;
    };
    const leaders = bodies.map(({ id }) => leaderOf(id));
    const pairs: [Body, Body][] = [];
    for (let i = 0; i < bodies.length; i++)
      for (let j = i + 1; j < bodies.length; j++) if (leaders[i] !== leaders[j]) pairs.push([bodies[i], bodies[j]]);
    const own: Crossing[] = [];
    for (const end of [variable.min, variable.max]) {
      if (end === variable.neutral) continue;
      let open = pairs;
      for (let s = 1; s <= STEPS && open.length > 0; s++) {
        const at = (step: number) => variable.neutral + ((end - variable.neutral) * step) / STEPS;
        pose(key, at(s));
        for (const { part } of bindings) {
          const index = 16 * poser.flat.indexOf.get(part)!;
          if (poser.world.subarray(index, index + 16).some((value, i) => Math.abs(value - rest.world[index + i]) > 1e-9)) moved.add(part);
        }
        // A pair that meets is not looked at again: it is told, or meant.
        const met = new Set(open.filter(([a, b]) => meeting(poser, a, b) !== null));
        open = open.filter((pair) => !met.has(pair));
        for (const [a, b] of met) {
          if (isMeant(a, b)) continue;
          let [free, meets] = [s - 1, s];
          for (let i = 0; i < HALVINGS; i++) {
            const middle = (free + meets) / 2;
            pose(key, at(middle));
            if (meeting(poser, a, b)) meets = middle;
            else free = middle;
          }
          pose(key, at(meets));
          own.push({ key, value: at(meets), parts: [a.id, b.id], at: meeting(poser, a, b)! });
        }
      }
    }
    own.sort((a, b) => Math.abs(a.value - variable.neutral) - Math.abs(b.value - variable.neutral));
    crossings.push(...own);
    yield { key, crossings: own };
  }
  const still = partsInOrder(kit).flatMap(({ id, role }) => (role === 'driven' && !moved.has(id) ? [id] : []));
  return { crossings, still };
}

/** A whole sweep at once; see `sweep`. */
export function sweepAll(kit: Kit, blobs: Blobs, levers: readonly Lever[]): Swept {
  const going = sweep(kit, blobs, levers);
  for (;;) {
    const { done, value } = going.next();
    if (done) return value;
  }
}

/** A crossing in words. */
export function crossingInWords(kit: Kit, { key, value, parts }: Crossing, unit: string): string {
  const [a, b] = parts.map((id) => `“${kit.parts[id].name}”`);
  return `${a} and ${b} run into each other at ${key} ${figure(value, 2)} ${unit}`;
}
