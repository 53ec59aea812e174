import { readArray, type Blobs, type Clip, type Id, type Kit, type Vec3 } from '../../document';
import { dot, flattenParts, posedVertices, type Mat4, Poser, restWorlds, subtract, transformPoint } from '../../geometry';
import { compileClip, sampleClip } from '../sampler';
import type { SidedRole } from './motion-role';

/** A part of the body as a segment in its joint's axes and a radius, metres. */
interface Capsule {
  joint: Id;
  from: Vec3;
  to: Vec3;
  radius: number;
}

export interface HandContact {
  frame: number;
  time: number;
  hand: Id;
  leg: Id;
  /** How far the one is in the other, metres. */
  depth: number;
}

/** Of the distances of its vertices from the segment, the share that the radius is to hold. */
const HELD = 0.8;

/** Frames at which a hand is in a leg, by capsules fitted to the vertices that the joints hold most. */
export function handContacts(kit: Kit, clip: Clip, blobs: Blobs, roles: Partial<Record<SidedRole, Id>>): HandContact[] {
  const worlds = restWorlds(kit);
  const vertices = verticesByJoint(kit, blobs, worlds);
  const fit = (role: SidedRole, next: SidedRole | null): Capsule[] => {
    const joint = roles[role];
    return joint === undefined ? [] : [capsuleOf(joint, next === null ? null : (roles[next] ?? null), vertices.get(joint) ?? [], worlds)];
  };
  const hands = [...fit('hand_l', null), ...fit('hand_r', null)];
  const legs = [...fit('thigh_l', 'shin_l'), ...fit('thigh_r', 'shin_r')];
  if (hands.length === 0 || legs.length === 0) return [];
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  const out: HandContact[] = [];
  const count = Math.round(clip.lengthSeconds * clip.rate);
  for (let frame = 0; frame <= count; frame++) {
    const time = Math.min(clip.lengthSeconds, frame / clip.rate);
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    const ends = (capsule: Capsule) =>
      [capsule.from, capsule.to].map((point) => transformPoint(poser.worldOf(capsule.joint), point)) as [Vec3, Vec3];
    for (const hand of hands)
      for (const leg of legs) {
        const depth = hand.radius + leg.radius - segmentDistance(...ends(hand), ...ends(leg));
        if (depth > 1e-4) out.push({ frame, time, hand: hand.joint, leg: leg.joint, depth });
      }
  }
  return out;
}

/** Rest positions in the world of the vertices that each joint holds most, and of meshes that hang on it or just below. */
function verticesByJoint(kit: Kit, blobs: Blobs, worlds: ReadonlyMap<Id, Mat4>): Map<Id, Vec3[]> {
  const out = new Map<Id, Vec3[]>();
  const add = (joint: Id, point: Vec3) => {
    const list = out.get(joint);
    if (list) list.push(point);
    else out.set(joint, [point]);
  };
  for (const part of Object.values(kit.parts)) {
    if (part.mesh === null) continue;
    // What is held stands where its joints put it, wherever its own part is.
    const placed = posedVertices(kit, blobs, part, (id) => worlds.get(id)!);
    let first = 0;
    for (const { attributes } of kit.meshes[part.mesh].primitives) {
      if (!attributes.POSITION) continue;
      const { count } = attributes.POSITION;
      const joints = part.skin !== null && attributes.JOINTS_0 ? readArray<Uint16Array>(blobs, attributes.JOINTS_0) : null;
      const weights = joints ? readArray<Float32Array>(blobs, attributes.WEIGHTS_0) : null;
      for (let v = 0; v < count; v++) {
        const at = [...placed.subarray(3 * (first + v), 3 * (first + v) + 3)] as Vec3;
        if (!joints || !weights || part.skin === null) {
          add(part.id, at);
          if (part.parent !== null && kit.parts[part.parent].role === 'joint') add(part.parent, at);
          continue;
        }
        let best = 0;
        for (let k = 1; k < 4; k++) if (weights[4 * v + k] > weights[4 * v + best]) best = k;
        add(kit.skins[part.skin].joints[joints[4 * v + best]], at);
      }
      first += count;
    }
  }
  return out;
}

function capsuleOf(joint: Id, next: Id | null, points: readonly Vec3[], worlds: ReadonlyMap<Id, Mat4>): Capsule {
  const place = (id: Id): Vec3 => [worlds.get(id)![12], worlds.get(id)![13], worlds.get(id)![14]];
  const head = place(joint);
  const middle: Vec3 =
    points.length === 0 ? head : ([0, 1, 2].map((k) => points.reduce((sum, point) => sum + point[k], 0) / points.length) as Vec3);
  // Without a joint to reach to, as far beyond the middle of what it holds as that is from the head.
  const tail: Vec3 = next !== null ? place(next) : (middle.map((value, k) => head[k] + 1.5 * (value - head[k])) as Vec3);
  const off = points.map((point) => segmentDistance(point, point, head, tail)).sort((a, b) => a - b);
  const radius = off.length === 0 ? 0.04 : off[Math.min(off.length - 1, Math.floor(HELD * off.length))];
  const inverse = invertRigid(worlds.get(joint)!);
  return { joint, from: transformPoint(inverse, head), to: transformPoint(inverse, tail), radius };
}

/** Inverse of a matrix of turn, even scale and place. */
function invertRigid(m: Mat4): Mat4 {
  const scale = m[0] ** 2 + m[1] ** 2 + m[2] ** 2 || 1;
  const out = new Float64Array(16);
  for (let row = 0; row < 3; row++) for (let column = 0; column < 3; column++) out[4 * column + row] = m[4 * row + column] / scale;
  for (let row = 0; row < 3; row++) out[12 + row] = -(out[row] * m[12] + out[4 + row] * m[13] + out[8 + row] * m[14]);
  out[15] = 1;
  return out as unknown as Mat4;
}

/** Distance between two segments (Ericson 2005, "Real-Time Collision Detection", 5.1.9). */
export function segmentDistance(p1: Vec3, q1: Vec3, p2: Vec3, q2: Vec3): number {
  const clamp = (value: number) => Math.min(1, Math.max(0, value));
  const [d1, d2, r] = [subtract(q1, p1), subtract(q2, p2), subtract(p1, p2)];
  const [a, e, f] = [dot(d1, d1), dot(d2, d2), dot(d2, r)];
  let [s, t] = [0, 0];
  if (a < 1e-12 && e < 1e-12) return Math.hypot(...r);
  if (a < 1e-12) t = clamp(f / e);
  else {
    const c = dot(d1, r);
    if (e < 1e-12) s = clamp(-c / a);
    else {
      const b = dot(d1, d2);
      const denom = a * e - b * b;
      s = denom > 1e-12 ? clamp((b * f - c * e) / denom) : 0;
      t = (b * s + f) / e;
      if (t < 0) {
        t = 0;
        s = clamp(-c / a);
      } else if (t > 1) {
        t = 1;
        s = clamp((b - c) / a);
      }
    }
  }
  return Math.hypot(...[0, 1, 2].map((k) => p1[k] + d1[k] * s - p2[k] - d2[k] * t));
}
