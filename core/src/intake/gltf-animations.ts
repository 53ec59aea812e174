import type { Document, Node } from '@gltf-transform/core';
import {
  animationExtrasIn,
  newId,
  putArray,
  tellClip,
  type AnimationExtras,
  type Blobs,
  type Clip,
  type Id,
  type Kit,
  type Part,
  type SampleTrack,
  cutText,
} from '../document';
import { conjugateQuat, multiplyQuats } from '../geometry';
import type { Repairs } from './repairs';

const INTERPOLATION = { STEP: 'hold', LINEAR: 'straight', CUBICSPLINE: 'curve' } as const;
const PROPERTY = { translation: 'offset', rotation: 'rotation', scale: 'size', weights: 'weights' } as const;
const COMMON_RATES = [24, 25, 30, 50, 60];

/** Animations become clips of dense tracks, made relative to rest: offset = t − rest, rotation = rest⁻¹ · q, size = s ÷ rest. */
export function readAnimations(document: Document, kit: Kit, partOf: Map<Node, Id>, blobs: Blobs, repairs: Repairs): void {
  const nodes = document.getRoot().listNodes();
  const partAt = (node: number) => (nodes[node] === undefined ? undefined : partOf.get(nodes[node]));
  document
    .getRoot()
    .listAnimations()
    .forEach((animation, order) => {
      const name = cutText(animation.getName(), 200) || `clip_${order + 1}`;
      const tracks: SampleTrack[] = [];
      let length = 0;
      let rate = 30;
      for (const channel of animation.listChannels()) {
        const node = channel.getTargetNode();
        const part = node && partOf.get(node);
        const sampler = channel.getSampler();
        const path = channel.getTargetPath();
        const input = sampler?.getInput()?.getArray() as Float32Array | null | undefined;
        const output = sampler?.getOutput();
        if (!part || !sampler || !input || !output || !path) {
          repairs.leftOut('track-lost', `a track of “${name}” that moves nothing in the scene`);
          continue;
        }
        const width = { rotation: 4, weights: targetsOf(kit, part), translation: 3, scale: 3 }[path];
        const stride = sampler.getInterpolation() === 'CUBICSPLINE' ? 3 : 1;
        const rows = path === 'weights' ? input.length * stride * width : input.length * stride;
        const values = new Float32Array(input.length * stride * width);
        if (
          !INTERPOLATION[sampler.getInterpolation()] ||
          width === 0 ||
          input.length === 0 ||
          output.getCount() !== rows ||
          input.some((time, i) => !Number.isFinite(time) || (i > 0 && time <= input[i - 1]))
        ) {
          repairs.leftOut(
            'track-times',
            `a track of “${name}” on “${kit.parts[part].name}” whose times and values do not fit`,
            'warn',
            kit.parts[part].name,
          );
          continue;
        }
        const row: number[] = [];
        let odd = 0;
        for (let i = 0; i < output.getCount(); i++) {
          output.getElement(i, row);
          const isValue = stride === 1 || i % 3 === 1;
          if (path === 'rotation' && isValue && normalise(row)) odd++;
          if (path === 'weights') values[i] = row[0];
          else values.set(relative(kit.parts[part], path, row, isValue), i * width);
        }
        repairs.count('rotation-normalised', name, odd);
        if (values.some((value) => !Number.isFinite(value))) {
          repairs.leftOut(
            'track-values',
            `a track of “${name}” on “${kit.parts[part].name}” with values that are no numbers`,
            'warn',
            kit.parts[part].name,
          );
          continue;
        }
        const times = Float32Array.from(input, (time) => Math.max(0, time));
        length = Math.max(length, times[times.length - 1]);
        if (times.length > 2) rate = rateOf(times) ?? rate;
        tracks.push({
          kind: 'samples',
          id: newId(),
          part,
          property: PROPERTY[path],
          interpolation: INTERPOLATION[sampler.getInterpolation()],
          times: putArray(blobs, times, 1),
          values: putArray(blobs, values, width),
        });
      }
      const clip: Clip = { id: newId(), name, order, lengthSeconds: Math.min(3600, length || 1 / rate), rate, loop: 'loop', tracks };
      // What the format has no place for, where the file was written here.
      const said = animationExtrasIn(animation.getExtras());
      if (said && partsOf(said).every((node) => partAt(node) !== undefined)) {
        clip.order = said.order;
        if (said.still) clip.tracks = [];
        tellClip(clip, { name, ...said }, (node) => partAt(node)!);
      }
      kit.clips[clip.id] = clip;
    });
}

/** Every node that is named there. */
const partsOf = ({ overlay, cues }: AnimationExtras) => [
  ...(overlay?.nodes ?? []),
  ...(cues ?? []).flatMap(({ node }) => (node === null ? [] : [node])),
];

/** A value relative to rest; tangents (`isValue` false) are changed by the linear part alone. */
function relative(part: Part, path: 'translation' | 'rotation' | 'scale', row: number[], isValue: boolean): number[] {
  if (path === 'translation') return row.map((value, axis) => value - (isValue ? part.translation[axis] : 0));
  if (path === 'scale') return row.map((value, axis) => (part.scale[axis] === 0 ? 1 : value / part.scale[axis]));
  return multiplyQuats(conjugateQuat(part.rotation), row as [number, number, number, number]);
}

function targetsOf(kit: Kit, part: Id): number {
  const { mesh } = kit.parts[part];
  return mesh === null ? 0 : (kit.meshes[mesh].targets?.length ?? 0);
}

/** Makes a quaternion one of unit length; says whether it was not. */
function normalise(row: number[]): boolean {
  const length = Math.hypot(...row);
  if (!(Math.abs(length - 1) > 1e-3)) return false;
  if (length === 0) row.splice(0, 4, 0, 0, 0, 1);
  else row.forEach((value, i) => (row[i] = value / length));
  return true;
}

/** Frames a second by the middle gap between times (seconds), or null where they tell none. */
export function rateOf(times: Float32Array): number | null {
  const gaps = Array.from(times.subarray(1), (time, i) => time - times[i]).sort((a, b) => a - b);
  const rate = 1 / gaps[gaps.length >> 1];
  return COMMON_RATES.find((common) => Math.abs(rate - common) < 0.02 * common) ?? null;
}
