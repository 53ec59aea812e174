import type { Document, Node } from '@gltf-transform/core';
import { newId, putArray, type Blobs, type Clip, type Id, type Kit, type Part, type ReadingNote, type SampleTrack } from '../document';
import { conjugateQuat, multiplyQuats } from '../geometry';

const INTERPOLATION = { STEP: 'hold', LINEAR: 'straight', CUBICSPLINE: 'curve' } as const;
const PROPERTY = { translation: 'offset', rotation: 'rotation', scale: 'size' } as const;
const COMMON_RATES = [24, 25, 30, 50, 60];

type Note = (grade: ReadingNote['grade'], code: string, message: string, part?: string | null) => void;

/** Animations become clips of dense tracks, made relative to rest: offset = t − rest, rotation = rest⁻¹ · q, size = s ÷ rest. */
export function readAnimations(document: Document, kit: Kit, partOf: Map<Node, Id>, blobs: Blobs, note: Note): void {
  document
    .getRoot()
    .listAnimations()
    .forEach((animation, order) => {
      const name = animation.getName() || `clip_${order + 1}`;
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
          note('warn', 'track-lost', `Left out: a track of “${name}” that moves nothing in the scene.`);
          continue;
        }
        if (path === 'weights') {
          note('warn', 'morph-targets', `Left out: the morph weights of “${name}” on “${kit.parts[part].name}”.`, kit.parts[part].name);
          continue;
        }
        const width = path === 'rotation' ? 4 : 3;
        const stride = sampler.getInterpolation() === 'CUBICSPLINE' ? 3 : 1;
        const values = new Float32Array(input.length * stride * width);
        if (output.getCount() !== input.length * stride || input.some((time, i) => !Number.isFinite(time) || (i > 0 && time <= input[i - 1]))) {
          note('warn', 'track-times', `Left out: a track of “${name}” on “${kit.parts[part].name}” whose times and values do not fit.`, kit.parts[part].name);
          continue;
        }
        const row: number[] = [];
        for (let i = 0; i < output.getCount(); i++) {
          output.getElement(i, row);
          values.set(relative(kit.parts[part], path, row, stride === 1 || i % 3 === 1), i * width);
        }
        if (values.some((value) => !Number.isFinite(value))) {
          note('warn', 'track-values', `Left out: a track of “${name}” on “${kit.parts[part].name}” with values that are no numbers.`, kit.parts[part].name);
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
      kit.clips[clip.id] = clip;
    });
}

/** A value relative to rest; tangents (`isValue` false) are changed by the linear part alone. */
function relative(part: Part, path: 'translation' | 'rotation' | 'scale', row: number[], isValue: boolean): number[] {
  if (path === 'translation') return row.map((value, axis) => value - (isValue ? part.translation[axis] : 0));
  if (path === 'scale') return row.map((value, axis) => (part.scale[axis] === 0 ? 1 : value / part.scale[axis]));
  return multiplyQuats(conjugateQuat(part.rotation), row as [number, number, number, number]);
}

function rateOf(times: Float32Array): number | null {
  const gaps = Array.from(times.subarray(1), (time, i) => time - times[i]).sort((a, b) => a - b);
  const rate = 1 / gaps[gaps.length >> 1];
  return COMMON_RATES.find((common) => Math.abs(rate - common) < 0.02 * common) ?? null;
}
