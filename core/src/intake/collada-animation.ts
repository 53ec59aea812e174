import { newId, putArray, type Blobs, type Clip, type Id, type Kit, type SampleTrack, cutText } from '../document';
import { conjugateQuat, decomposeMatrix, multiplyQuats } from '../geometry';
import { ColladaLibrary } from './collada-library';
import { isWhole, matrixOf, type TransformStep } from './collada-transform';
import { rateOf } from './gltf-animations';
import type { Repairs } from './repairs';
import { childrenNamed, everyElement, type XmlElement, numberOf } from './xml-tree';

/** Curves and long turns are sampled this often, since a kit's dense tracks are straight. */
const FRAMES_A_SECOND = 60;
const MEMBERS = ['X', 'Y', 'Z', 'W'];

interface Curve {
  step: TransformStep;
  /** The first of the step's numbers that it moves. */
  at: number;
  times: Float64Array;
  values: Float64Array;
  width: number;
  /** A word a key. */
  modes: string[];
  inTangents: Float64Array | null;
  outTangents: Float64Array | null;
}

export interface AnimatedNode {
  part: Id;
  steps: TransformStep[];
}

/** Reads all animations as dense tracks relative to rest; clips where the file names some, otherwise one of everything. */
export function readColladaAnimations(
  library: ColladaLibrary,
  nodes: Map<string, AnimatedNode>,
  kit: Kit,
  blobs: Blobs,
  repairs: Repairs,
): void {
  const animations = childrenNamed(childrenNamed(library.root, 'library_animations')[0], 'animation');
  if (animations.length === 0) return;
  const curvesOf = (roots: XmlElement[]) => groupByNode(library, roots, nodes, repairs);
  const clips = childrenNamed(childrenNamed(library.root, 'library_animation_clips')[0], 'animation_clip');
  if (clips.length === 0) {
    const name = animations.length === 1 ? (animations[0].attributes.name ?? animations[0].attributes.id ?? 'clip_1') : 'clip_1';
    addClip(kit, name, curvesOf(animations), null, blobs);
  }
  for (const clip of clips) {
    const roots = childrenNamed(clip, 'instance_animation').map((instance) => library.find(instance.attributes.url, 'animation'));
    const [start, end] = [numberOf(clip.attributes.start ?? '0'), numberOf(clip.attributes.end ?? 'NaN')];
    addClip(
      kit,
      clip.attributes.name ?? clip.attributes.id ?? `clip_${Object.keys(kit.clips).length + 1}`,
      curvesOf(roots),
      Number.isFinite(end) && end > start ? { start, end } : null,
      blobs,
    );
  }
}

function groupByNode(
  library: ColladaLibrary,
  roots: XmlElement[],
  nodes: Map<string, AnimatedNode>,
  repairs: Repairs,
): Map<AnimatedNode, Curve[]> {
  const result = new Map<AnimatedNode, Curve[]>();
  for (const root of roots) {
    for (const channel of everyElement(root)) {
      if (channel.name !== 'channel') continue;
      const target = channel.attributes.target ?? '';
      const [path, sid = '', member = ''] = /^([^/]+)\/([^.(]*)(.*)$/.exec(target)?.slice(1) ?? [target];
      const node = nodes.get(path);
      const step = node?.steps.find((one) => one.sid === sid);
      if (!node || !step || !isWhole(step)) {
        repairs.leftOut('track-lost', `the animation of “${target.slice(0, 100)}”, which moves no part`);
        continue;
      }
      const curve = readCurve(library, channel.attributes.source, step, memberIndex(member, step));
      if (!curve) repairs.leftOut('track-times', `the animation of “${target.slice(0, 100)}”, whose times and values do not fit`);
      else result.set(node, [...(result.get(node) ?? []), curve]);
    }
  }
  return result;
}

/** `.X`, `.ANGLE`, `(3)` or `(1)(2)` as the number of a value; −1 for all. */
function memberIndex(member: string, step: TransformStep): number {
  if (member === '') return -1;
  if (member.startsWith('.')) return member.toUpperCase() === '.ANGLE' ? 3 : MEMBERS.indexOf(member.slice(1).toUpperCase());
  const numbers = [...member.matchAll(/\((\d+)\)/g)].map((match) => Number(match[1]));
  return numbers.length === 2 ? 4 * numbers[0] + numbers[1] : Math.min(numbers[0] ?? -1, step.values.length - 1);
}

function readCurve(library: ColladaLibrary, url: string | undefined, step: TransformStep, member: number): Curve | null {
  const sampler = library.find(url, 'sampler');
  const input = (semantic: string) => ColladaLibrary.input(sampler, semantic);
  const times = library.numbers(input('INPUT')).values;
  const { values } = library.numbers(input('OUTPUT'));
  const width = member >= 0 ? 1 : step.values.length;
  const ascending = times.every((time, i) => Number.isFinite(time) && (i === 0 || time > times[i - 1]));
  if (times.length === 0 || !ascending || values.length !== times.length * width || !values.every(Number.isFinite)) return null;
  const tangents = (semantic: string) => {
    const source = input(semantic);
    const numbers = source ? library.numbers(source).values : null;
    return numbers?.length === 2 * times.length * width && width === 1 ? numbers : null;
  };
  const modes = input('INTERPOLATION') ? library.words(input('INTERPOLATION')) : [];
  return {
    step,
    at: Math.max(0, member),
    times,
    values,
    width,
    modes,
    inTangents: tangents('IN_TANGENT'),
    outTangents: tangents('OUT_TANGENT'),
  };
}

/** Value at a time: held, straight, or a cubic Bézier whose time is solved for by halving (COLLADA 1.4.1, “interpolation”). */
function valueAt(curve: Curve, time: number, component: number): number {
  const { times, values, width } = curve;
  let i = 0;
  while (i + 1 < times.length && times[i + 1] <= time) i++;
  const here = values[i * width + component];
  if (i === times.length - 1 || time <= times[i]) return here;
  const there = values[(i + 1) * width + component];
  const mode = curve.modes[i] ?? 'LINEAR';
  if (mode === 'STEP') return here;
  if (mode === 'BEZIER' && curve.outTangents && curve.inTangents) {
    const [t1, v1] = curve.outTangents.subarray(2 * i, 2 * i + 2);
    const [t2, v2] = curve.inTangents.subarray(2 * i + 2, 2 * i + 4);
    let low = 0;
    let high = 1;
    for (let n = 0; n < 40; n++) {
      const u = (low + high) / 2;
      if (bezier(u, times[i], t1, t2, times[i + 1]) < time) low = u;
      else high = u;
    }
    return bezier((low + high) / 2, here, v1, v2, there);
  }
  return here + ((there - here) * (time - times[i])) / (times[i + 1] - times[i]);
}

const bezier = (u: number, a: number, b: number, c: number, d: number) =>
  (1 - u) ** 3 * a + 3 * u * (1 - u) ** 2 * b + 3 * u * u * (1 - u) * c + u ** 3 * d;

function addClip(
  kit: Kit,
  name: string,
  byNode: Map<AnimatedNode, Curve[]>,
  range: { start: number; end: number } | null,
  blobs: Blobs,
): void {
  const tracks: SampleTrack[] = [];
  let length = 0;
  let rate = 30;
  for (const [node, curves] of byNode) {
    const times = sampleTimes(curves, range);
    if (times.length > 2) rate = rateOf(Float32Array.from(times)) ?? rate;
    const start = range?.start ?? 0;
    length = Math.max(length, times[times.length - 1] - start);
    tracks.push(...tracksOf(kit, node, curves, times, start, blobs));
  }
  if (range) length = range.end - range.start;
  const clip: Clip = {
    id: newId(),
    name: cutText(name, 200),
    order: Object.keys(kit.clips).length,
    lengthSeconds: Math.min(3600, Math.max(0, length) || 1 / rate),
    rate,
    loop: 'loop',
    tracks,
  };
  kit.clips[clip.id] = clip;
}

/** All key times of a node; between keys also every frame where the way is curved or a turn may be long. Negative times are cut. */
function sampleTimes(curves: Curve[], range: { start: number; end: number } | null): number[] {
  const [first, last] = [range?.start ?? 0, range?.end ?? 3600];
  const times = new Set<number>([first]);
  for (const curve of curves) {
    curve.times.forEach((time, i) => {
      if (time >= first && time <= last) times.add(time);
      const next = curve.times[i + 1];
      if (next === undefined) return;
      if (curve.modes[i] === 'STEP') {
        if (next - 1e-4 > first && next - 1e-4 < last) times.add(next - 1e-4);
      } else if (curve.modes[i] === 'BEZIER' || curve.step.kind === 'rotate') {
        for (let t = Math.max(first, time); t < Math.min(last, next); t += 1 / FRAMES_A_SECOND) times.add(t);
      }
    });
  }
  if (range) times.add(range.end);
  return [...times].sort((a, b) => a - b);
}

function tracksOf(kit: Kit, node: AnimatedNode, curves: Curve[], times: number[], start: number, blobs: Blobs): SampleTrack[] {
  const part = kit.parts[node.part];
  const n = times.length;
  const out = { offset: new Float32Array(3 * n), rotation: new Float32Array(4 * n), size: new Float32Array(3 * n) };
  const moving = node.steps.map((step) => ({ ...step, values: step.values.slice() }));
  const copyOf = new Map(node.steps.map((step, i) => [step, moving[i]]));
  const back = conjugateQuat(part.rotation);
  times.forEach((time, i) => {
    for (const curve of curves)
      for (let c = 0; c < curve.width; c++) copyOf.get(curve.step)!.values[curve.at + c] = valueAt(curve, time, c);
    const { translation, rotation, scale } = decomposeMatrix(matrixOf(moving));
    out.offset.set(
      translation.map((value, axis) => value - part.translation[axis]),
      3 * i,
    );
    out.rotation.set(multiplyQuats(back, rotation), 4 * i);
    out.size.set(
      scale.map((value, axis) => (part.scale[axis] === 0 ? 1 : value / part.scale[axis])),
      3 * i,
    );
  });
  const timeBlob = putArray(
    blobs,
    Float32Array.from(times, (time) => time - start),
    1,
  );
  const rests = { offset: [0, 0, 0], rotation: [0, 0, 0, 1], size: [1, 1, 1] };
  return (['offset', 'rotation', 'size'] as const)
    .filter((property) => out[property].some((value, i) => Math.abs(value - rests[property][i % rests[property].length]) > 1e-6))
    .map((property) => ({
      kind: 'samples',
      id: newId(),
      part: part.id,
      property,
      interpolation: 'straight',
      times: timeBlob,
      values: putArray(blobs, out[property], property === 'rotation' ? 4 : 3),
    }));
}
