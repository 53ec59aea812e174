import { create, all } from 'mathjs/number';
import { Euler, Matrix4, Quaternion, Vector3, type EulerOrder } from 'three';
import {
  partsInOrder,
  readArray,
  type Blobs,
  type Clip,
  type Easing,
  type Id,
  type Key,
  type Kit,
  type Part,
  type Track,
} from '../document';

/**
 * A second way to pose a kit that shares nothing with the sampler: each number worked out anew from what docs/formats.md says, Penner's
 * easings from their published formulas, curves by de Casteljau's construction, matrices and turns by three.js.
 */

const math = create(all) as unknown as { evaluate: (source: string, scope: object) => number };

const bounce = (u: number): number => {
  const n = 7.5625;
  if (u < 1 / 2.75) return n * u * u;
  if (u < 2 / 2.75) return n * (u - 1.5 / 2.75) ** 2 + 0.75;
  if (u < 2.5 / 2.75) return n * (u - 2.25 / 2.75) ** 2 + 0.9375;
  return n * (u - 2.625 / 2.75) ** 2 + 0.984375;
};

/** 2^(10(u−1)) moved and stretched so that it is 0 at 0 and 1 at 1. */
const rise = (u: number) => (2 ** (10 * (u - 1)) - 2 ** -10) / (1 - 2 ** -10);

/** The slow start of each family (Penner 2001, chapter 7), from 0 to 1. */
const SLOW_IN: Record<string, (u: number) => number> = {
  sine: (u) => 1 - Math.cos((u * Math.PI) / 2),
  quad: (u) => u ** 2,
  cubic: (u) => u ** 3,
  back: (u) => u * u * ((1.70158 + 1) * u - 1.70158),
  bounce: (u) => 1 - bounce(1 - u),
  elastic: (u) => rise(u) * Math.sin((2 * Math.PI * (1 - u)) / 0.3 + Math.asin(1)),
};

function eased(easing: Easing, u: number): number {
  if (easing === 'bounce') return bounce(u);
  const [family, way] = easing.split('-');
  const slow = SLOW_IN[family];
  if (way === 'in') return slow(u);
  if (way === 'out') return 1 - slow(1 - u);
  return u < 0.5 ? slow(2 * u) / 2 : 1 - slow(2 - 2 * u) / 2;
}

const mix = (a: number, b: number, u: number) => a + (b - a) * u;

/** A cubic by its two ends and the slopes there, value a second, by de Casteljau. */
function cubic(a: number, slopeA: number, b: number, slopeB: number, span: number, u: number): number {
  const [p, q] = [a + (slopeA * span) / 3, b - (slopeB * span) / 3];
  const [ap, pq, qb] = [mix(a, p, u), mix(p, q, u), mix(q, b, u)];
  return mix(mix(ap, pq, u), mix(pq, qb, u), u);
}

/** The slope of a key that says none: 0 at ends and extremes, else the weighted harmonic mean (Fritsch & Butland 1984). */
function freeSlope(keys: readonly Key[], i: number): number {
  if (i === 0 || i === keys.length - 1) return 0;
  const [before, key, after] = [keys[i - 1], keys[i], keys[i + 1]];
  const [left, right] = [(key.value - before.value) / (key.time - before.time), (after.value - key.value) / (after.time - key.time)];
  if (left * right <= 0) return 0;
  const [w, v] = [after.time - key.time, key.time - before.time];
  const share = (1 + w / (v + w)) / 3;
  return (left * right) / (share * right + (1 - share) * left);
}

/** The value of keys at a time. */
export function plainKeys(keys: readonly Key[], time: number): number {
  const next = keys.findIndex((key) => key.time > time);
  if (next === 0) return keys[0].value;
  if (next < 0) return keys[keys.length - 1].value;
  const [a, b] = [keys[next - 1], keys[next]];
  const span = b.time - a.time;
  const u = (time - a.time) / span;
  if (a.easing === 'hold') return a.value;
  if (a.easing === 'straight') return mix(a.value, b.value, u);
  if (a.easing === 'curve')
    return cubic(a.value, a.slopeOut ?? freeSlope(keys, next - 1), b.value, b.slopeIn ?? freeSlope(keys, next), span, u);
  return a.value + (b.value - a.value) * eased(a.easing, u);
}

function plainRow(track: Track & { kind: 'samples' }, time: number, blobs: Blobs): number[] {
  const times = readArray<Float32Array>(blobs, track.times);
  const values = readArray<Float32Array>(blobs, track.values);
  const width = track.values.size;
  const curve = track.interpolation === 'curve';
  const stride = curve ? 3 * width : width;
  const row = (i: number, lead = curve ? width : 0) => [...values.subarray(i * stride + lead, i * stride + lead + width)];
  const next = times.findIndex((one) => one > time);
  if (next === 0) return row(0);
  if (next < 0) return row(times.length - 1);
  const [a, b] = [row(next - 1), row(next)];
  const span = times[next] - times[next - 1];
  const u = (time - times[next - 1]) / span;
  if (track.interpolation === 'hold') return a;
  if (curve) {
    const [out, into] = [row(next - 1, 2 * width), row(next, 0)];
    return a.map((value, c) => cubic(value, out[c], b[c], into[c], span, u));
  }
  if (track.property !== 'rotation') return a.map((value, c) => mix(value, b[c], u));
  return new Quaternion(...a).slerp(new Quaternion(...b), u).toArray();
}

/** What a clip does to a part, relative to rest: metres, a rotation after the part's own, factors, morph weights. */
export interface PlainMove {
  offset: Vector3;
  rotation: Quaternion;
  size: Vector3;
  weights: number[];
}

/** How each part is moved at a time of a clip, seconds; not at all where there is none. */
export function plainMoves(kit: Kit, blobs: Blobs, clip: Clip | null, time: number): Map<Id, PlainMove> {
  return new Map(Object.values(kit.parts).map((part) => [part.id, moveOf(kit, blobs, part, clip, time)]));
}

function moveOf(kit: Kit, blobs: Blobs, part: Part, clip: Clip | null, time: number): PlainMove {
  const offset = new Vector3();
  const turn = [0, 0, 0];
  const size = new Vector3(1, 1, 1);
  const spin = new Quaternion();
  const weights = part.mesh === null ? [] : (kit.meshes[part.mesh].targets ?? []).map(({ weight }) => weight);
  for (const track of clip?.tracks ?? []) {
    if (track.part !== part.id) continue;
    if (track.kind === 'samples') {
      const row = plainRow(track, time, blobs);
      if (track.property === 'offset') offset.add(new Vector3(...row));
      else if (track.property === 'size') size.multiply(new Vector3(...row));
      else if (track.property === 'rotation') spin.fromArray(row).normalize();
      else row.forEach((value, i) => (weights[i] = value));
      continue;
    }
    const value =
      track.kind === 'keys'
        ? plainKeys(track.keys, time)
        : track.gain * math.evaluate(track.source, { t: time, u: time / clip!.lengthSeconds, ...clip!.constants });
    if (track.property === 'offset') offset.setComponent(track.axis, offset.getComponent(track.axis) + value);
    else if (track.property === 'turn') turn[track.axis] += value;
    else if (track.property === 'size') size.setComponent(track.axis, size.getComponent(track.axis) * value);
    else if (track.property === 'weight') weights[track.axis] = value;
    else if (value < 0.5) size.set(0, 0, 0);
  }
  const radians = turn.map((degrees) => (degrees * Math.PI) / 180);
  const turns = new Quaternion().setFromEuler(new Euler(radians[0], radians[1], radians[2], part.turnOrder.toUpperCase() as EulerOrder));
  return { offset, rotation: spin.multiply(turns), size, weights };
}

/** World matrix of every part, and the morph weights of each. */
export interface PlainPose {
  worlds: Map<Id, Matrix4>;
  weights: Map<Id, number[]>;
}

/** A kit's pose with its parts moved so. */
export function plainPosed(kit: Kit, moves: ReadonlyMap<Id, PlainMove>): PlainPose {
  const pose: PlainPose = { worlds: new Map(), weights: new Map() };
  for (const part of partsInOrder(kit)) {
    const { offset, rotation, size, weights } = moves.get(part.id)!;
    const local = new Matrix4().compose(
      new Vector3(...part.translation).add(offset),
      new Quaternion(...part.rotation).multiply(rotation),
      new Vector3(...part.scale).multiply(size),
    );
    pose.worlds.set(part.id, part.parent === null ? local : pose.worlds.get(part.parent)!.clone().multiply(local));
    pose.weights.set(part.id, weights);
  }
  return pose;
}

/** A kit's pose at a time of a clip, seconds; at rest where there is none. */
export const plainPose = (kit: Kit, blobs: Blobs, clip: Clip | null, time: number): PlainPose =>
  plainPosed(kit, plainMoves(kit, blobs, clip, time));

/** World places of every vertex by part, metres: morph targets, then joints or the part itself (glTF 2.0, 3.7.2 and 3.7.3). */
export function plainVertices(kit: Kit, blobs: Blobs, { worlds, weights }: PlainPose): Map<Id, number[]> {
  const out = new Map<Id, number[]>();
  for (const part of Object.values(kit.parts)) {
    if (part.mesh === null) continue;
    const points: number[] = [];
    const skin = part.skin === null ? null : kit.skins[part.skin];
    const binds = skin && readArray<Float32Array>(blobs, skin.inverseBindMatrices);
    for (const primitive of kit.meshes[part.mesh].primitives) {
      const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
      const deltas = (primitive.targets ?? []).map((target) => target.POSITION && readArray<Float32Array>(blobs, target.POSITION));
      const [joints, shares] = ['JOINTS_0', 'WEIGHTS_0'].map(
        (name) => primitive.attributes[name] && readArray(blobs, primitive.attributes[name]),
      );
      for (let v = 0; v < positions.length / 3; v++) {
        const own = new Vector3().fromArray(positions, 3 * v);
        deltas.forEach((delta, i) => delta && own.addScaledVector(new Vector3().fromArray(delta, 3 * v), weights.get(part.id)![i]));
        if (!skin || !binds || !joints) points.push(...own.applyMatrix4(worlds.get(part.id)!).toArray());
        else {
          const sum = new Vector3();
          for (let k = 4 * v; k < 4 * v + 4; k++) {
            if (shares[k] === 0) continue;
            const bind = new Matrix4().fromArray(binds, 16 * joints[k]);
            sum.addScaledVector(own.clone().applyMatrix4(bind).applyMatrix4(worlds.get(skin.joints[joints[k]])!), shares[k]);
          }
          points.push(...sum.toArray());
        }
      }
    }
    out.set(part.id, points);
  }
  return out;
}
