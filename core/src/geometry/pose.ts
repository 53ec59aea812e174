import { partsInOrder, type Id, type Kit, type TurnOrder } from '../document';
import { turnAxes } from './linear';

/** The parts of a kit as flat arrays, parents before children: what posing needs, and nothing to allocate later. */
export interface FlatParts {
  ids: Id[];
  indexOf: Map<Id, number>;
  /** Index of the parent, or −1. */
  parent: Int32Array;
  /** Rest, 3, 4 and 3 numbers a part. */
  translation: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  /** Three axis numbers a part. */
  turnAxes: Uint8Array;
  /** Where a part's morph weights begin, one more entry than parts; the last is how many there are. */
  weightsAt: Uint32Array;
  /** At rest. */
  weights: Float64Array;
}

/** The tree as arrays, parents before children, as posing reads it: parent by number, rest places, weights. */
export function flattenParts(kit: Kit): FlatParts {
  const parts = partsInOrder(kit);
  const n = parts.length;
  const targets = parts.map((part) => (part.mesh === null ? [] : (kit.meshes[part.mesh]?.targets ?? [])));
  const flat: FlatParts = {
    ids: parts.map((part) => part.id),
    indexOf: new Map(parts.map((part, index) => [part.id, index])),
    parent: new Int32Array(n),
    translation: new Float64Array(3 * n),
    rotation: new Float64Array(4 * n),
    scale: new Float64Array(3 * n),
    turnAxes: new Uint8Array(3 * n),
    weightsAt: new Uint32Array(n + 1),
    weights: Float64Array.from(targets.flat(), (target) => target.weight),
  };
  targets.forEach((list, index) => (flat.weightsAt[index + 1] = flat.weightsAt[index] + list.length));
  parts.forEach((part, index) => {
    flat.parent[index] = part.parent === null ? -1 : flat.indexOf.get(part.parent)!;
    flat.translation.set(part.translation, 3 * index);
    flat.rotation.set(part.rotation, 4 * index);
    flat.scale.set(part.scale, 3 * index);
    flat.turnAxes.set(turnAxes(part.turnOrder as TurnOrder), 3 * index);
  });
  return flat;
}

/** What moves, relative to rest, for every part of a FlatParts. */
export interface Pose {
  /** Metres in the parent's axes, 3 a part. */
  offset: Float64Array;
  /** Degrees about the own axes, 3 a part. */
  turn: Float64Array;
  /** Factors, 3 a part. */
  size: Float64Array;
  /** Unit quaternion after rest and before `turn`, 4 a part. */
  spin: Float64Array;
  /** Morph weights as they are, at `weightsAt` of the FlatParts. */
  weights: Float64Array;
}

/** Arrays for a pose of these parts, at rest. */
export function newPose(flat: FlatParts): Pose {
  const parts = flat.ids.length;
  const pose = {
    offset: new Float64Array(3 * parts),
    turn: new Float64Array(3 * parts),
    size: new Float64Array(3 * parts),
    spin: new Float64Array(4 * parts),
    weights: new Float64Array(flat.weights.length),
  };
  resetPose(flat, pose);
  return pose;
}

/** Puts a pose back to rest without making arrays anew. */
export function resetPose(flat: FlatParts, pose: Pose): void {
  pose.weights.set(flat.weights);
  pose.offset.fill(0);
  pose.turn.fill(0);
  pose.size.fill(1);
  pose.spin.fill(0);
  for (let i = 3; i < pose.spin.length; i += 4) pose.spin[i] = 1;
}

/** Copies one pose into another of the same parts. */
export function copyPose(into: Pose, from: Pose): void {
  into.offset.set(from.offset);
  into.turn.set(from.turn);
  into.size.set(from.size);
  into.spin.set(from.spin);
  into.weights.set(from.weights);
}

const HALF_RADIANS = Math.PI / 360;

/**
 * Local placement of every part under a pose: translation + offset, rest · spin · turns, scale × size.
 * Writes translations (3), rotations (4) and scales (3 a part); allocates nothing.
 */
export function poseLocals(flat: FlatParts, pose: Pose, translation: Float64Array, rotation: Float64Array, scale: Float64Array): void {
  const n = flat.ids.length;
  for (let i = 0; i < 3 * n; i++) {
    translation[i] = flat.translation[i] + pose.offset[i];
    scale[i] = flat.scale[i] * pose.size[i];
  }
  for (let p = 0; p < n; p++) {
    const r = 4 * p;
    const a = flat.rotation[r];
    const b = flat.rotation[r + 1];
    const c = flat.rotation[r + 2];
    const d = flat.rotation[r + 3];
    const e = pose.spin[r];
    const f = pose.spin[r + 1];
    const g = pose.spin[r + 2];
    const h = pose.spin[r + 3];
    let x = a * h + d * e + b * g - c * f;
    let y = b * h + d * f + c * e - a * g;
    let z = c * h + d * g + a * f - b * e;
    let w = d * h - a * e - b * f - c * g;
    const still = pose.turn[3 * p] === 0 && pose.turn[3 * p + 1] === 0 && pose.turn[3 * p + 2] === 0;
    for (let s = still ? 3 : 0; s < 3; s++) {
      const axis = flat.turnAxes[3 * p + s];
      const half = pose.turn[3 * p + axis] * HALF_RADIANS;
      if (half === 0) continue;
      const sin = Math.sin(half);
      const cos = Math.cos(half);
      const ox = x;
      const oy = y;
      const oz = z;
      const ow = w;
      if (axis === 0) {
        x = ox * cos + ow * sin;
        y = oy * cos + oz * sin;
        z = oz * cos - oy * sin;
        w = ow * cos - ox * sin;
      } else if (axis === 1) {
        x = ox * cos - oz * sin;
        y = oy * cos + ow * sin;
        z = oz * cos + ox * sin;
        w = ow * cos - oy * sin;
      } else {
        x = ox * cos + oy * sin;
        y = oy * cos - ox * sin;
        z = oz * cos + ow * sin;
        w = ow * cos - oz * sin;
      }
    }
    rotation[r] = x;
    rotation[r + 1] = y;
    rotation[r + 2] = z;
    rotation[r + 3] = w;
  }
}

/** World matrices from local placements, column-major, 16 a part. Allocates nothing. */
export function worldsFromLocals(
  flat: FlatParts,
  translation: Float64Array,
  rotation: Float64Array,
  scale: Float64Array,
  out: Float64Array,
): void {
  const n = flat.ids.length;
  for (let p = 0; p < n; p++) {
    const x = rotation[4 * p];
    const y = rotation[4 * p + 1];
    const z = rotation[4 * p + 2];
    const w = rotation[4 * p + 3];
    const sx = scale[3 * p];
    const sy = scale[3 * p + 1];
    const sz = scale[3 * p + 2];
    const m0 = (1 - 2 * (y * y + z * z)) * sx;
    const m1 = 2 * (x * y + w * z) * sx;
    const m2 = 2 * (x * z - w * y) * sx;
    const m4 = 2 * (x * y - w * z) * sy;
    const m5 = (1 - 2 * (x * x + z * z)) * sy;
    const m6 = 2 * (y * z + w * x) * sy;
    const m8 = 2 * (x * z + w * y) * sz;
    const m9 = 2 * (y * z - w * x) * sz;
    const m10 = (1 - 2 * (x * x + y * y)) * sz;
    const t0 = translation[3 * p];
    const t1 = translation[3 * p + 1];
    const t2 = translation[3 * p + 2];
    const o = 16 * p;
    const u = flat.parent[p];
    if (u < 0) {
      out[o] = m0;
      out[o + 1] = m1;
      out[o + 2] = m2;
      out[o + 3] = 0;
      out[o + 4] = m4;
      out[o + 5] = m5;
      out[o + 6] = m6;
      out[o + 7] = 0;
      out[o + 8] = m8;
      out[o + 9] = m9;
      out[o + 10] = m10;
      out[o + 11] = 0;
      out[o + 12] = t0;
      out[o + 13] = t1;
      out[o + 14] = t2;
      out[o + 15] = 1;
      continue;
    }
    const q = 16 * u;
    // Row by row, written out: this is the innermost of all loops.
    let a = out[q];
    let b = out[q + 4];
    let c = out[q + 8];
    out[o] = a * m0 + b * m1 + c * m2;
    out[o + 4] = a * m4 + b * m5 + c * m6;
    out[o + 8] = a * m8 + b * m9 + c * m10;
    out[o + 12] = a * t0 + b * t1 + c * t2 + out[q + 12];
    a = out[q + 1];
    b = out[q + 5];
    c = out[q + 9];
    out[o + 1] = a * m0 + b * m1 + c * m2;
    out[o + 5] = a * m4 + b * m5 + c * m6;
    out[o + 9] = a * m8 + b * m9 + c * m10;
    out[o + 13] = a * t0 + b * t1 + c * t2 + out[q + 13];
    a = out[q + 2];
    b = out[q + 6];
    c = out[q + 10];
    out[o + 2] = a * m0 + b * m1 + c * m2;
    out[o + 6] = a * m4 + b * m5 + c * m6;
    out[o + 10] = a * m8 + b * m9 + c * m10;
    out[o + 14] = a * t0 + b * t1 + c * t2 + out[q + 14];
    out[o + 3] = 0;
    out[o + 7] = 0;
    out[o + 11] = 0;
    out[o + 15] = 1;
  }
}

/** Poses a kit's parts again and again without allocating. */
export class Poser {
  readonly pose: Pose;
  readonly translation: Float64Array;
  readonly rotation: Float64Array;
  readonly scale: Float64Array;
  /** 16 numbers a part, column-major; valid after `update`. */
  readonly world: Float64Array;

  constructor(readonly flat: FlatParts) {
    const n = flat.ids.length;
    this.pose = newPose(flat);
    this.translation = new Float64Array(3 * n);
    this.rotation = new Float64Array(4 * n);
    this.scale = new Float64Array(3 * n);
    this.world = new Float64Array(16 * n);
    this.update();
  }

  /** Back to rest; `update` has to follow. */
  reset(): void {
    resetPose(this.flat, this.pose);
  }

  /** Works out local placements and world matrices from `pose`. */
  update(): void {
    poseLocals(this.flat, this.pose, this.translation, this.rotation, this.scale);
    worldsFromLocals(this.flat, this.translation, this.rotation, this.scale, this.world);
  }

  /** Morph weights of a part in the pose; empty where its mesh has no targets. */
  weightsOf(id: Id): Float64Array {
    const index = this.flat.indexOf.get(id)!;
    return this.pose.weights.subarray(this.flat.weightsAt[index], this.flat.weightsAt[index + 1]);
  }

  worldOf(id: Id): Float64Array {
    const index = this.flat.indexOf.get(id)!;
    return this.world.subarray(16 * index, 16 * index + 16);
  }
}

/** World matrix of every part at rest. */
export function restWorlds(kit: Kit): Map<Id, Float64Array> {
  const poser = new Poser(flattenParts(kit));
  return new Map(poser.flat.ids.map((id) => [id, poser.worldOf(id)]));
}
