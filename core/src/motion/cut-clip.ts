import {
  MOST_FORMULA,
  newId,
  putArray,
  readArray,
  type Blobs,
  type Clip,
  type FormulaTrack,
  type Key,
  type KeyTrack,
  type Quat,
  type SampleTrack,
  type Track,
} from '../document';
import { slerpQuats } from '../geometry';
import { hermite, hermiteSlope } from './easing';
import { formulaOf, formulaValue, restValue } from './formula-track';
import { keysBetween } from './split-keys';

/** Closer than this to an end, a key is the end, seconds. */
const NEAR = 1e-6;

/**
 * The tracks of a clip between two times, seconds, with the pose at both ends kept. Dense tracks and curves are cut exactly, by
 * their own derivative there. Another easing that is cut through becomes curves (`splitKeys`); a formula starts later.
 */
export function cutTracks(clip: Clip, from: number, to: number, blobs: Blobs): Track[] {
  return clip.tracks.flatMap((track): Track[] => {
    const cut = cutTrack(track, clip, from, to, blobs);
    return cut ? [{ ...cut, id: newId() }] : [];
  });
}

function cutTrack(track: Track, clip: Clip, from: number, to: number, blobs: Blobs): Track | null {
  if (track.kind === 'keys') return cutKeys(track, from, to);
  if (track.kind === 'samples') return cutSamples(track, from, to, blobs);
  return from === 0 && to >= clip.lengthSeconds ? track : cutFormula(track, clip, from, to);
}

function cutKeys(track: KeyTrack, from: number, to: number): KeyTrack | null {
  if (track.keys.length === 0) return null;
  const keys = keysBetween(track, from, to).map((key) => ({ ...key, time: Math.max(0, key.time - from) }));
  return { ...track, keys };
}

/** The same expression at later times; keys a frame apart where it would get too long. */
function cutFormula(track: FormulaTrack, clip: Clip, from: number, to: number): FormulaTrack | KeyTrack {
  const time = from === 0 ? 't' : `(t + ${from})`;
  const source = track.source.replace(/(?<![\w.])[tu](?!\w)/g, (name) => (name === 't' ? time : `(${time} / ${clip.lengthSeconds})`));
  if (source.length <= MOST_FORMULA) return { ...track, source };
  const formula = formulaOf(track, clip.constants);
  const { part, property, axis, gain } = track;
  const keys: Key[] = [];
  const add = (at: number) =>
    keys.push({ time: at - from, value: formulaValue(formula, gain, restValue(property), at, clip.lengthSeconds), easing: 'straight' });
  for (let at = from; at < to - NEAR; at += 1 / clip.rate) add(at);
  add(to);
  return { kind: 'keys', id: track.id, part, property, axis, keys };
}

/** A dense track between two times (seconds), the first of them 0 then; null where it has no row there. */
export function cutSamples(track: SampleTrack, from: number, to: number, blobs: Blobs): SampleTrack | null {
  const times = readArray<Float32Array>(blobs, track.times);
  const values = readArray<Float32Array>(blobs, track.values);
  if (times.length === 0) return null;
  const width = track.values.size;
  const curve = track.interpolation === 'curve';
  const rows: { time: number; row: number[] }[] = [{ time: from, row: rowAt(track, times, values, width, from) }];
  for (let i = 0; i < times.length; i++) {
    if (times[i] <= from + NEAR || times[i] >= to - NEAR) continue;
    const start = i * width * (curve ? 3 : 1);
    rows.push({ time: times[i], row: [...values.subarray(start, start + width * (curve ? 3 : 1))] });
  }
  if (to > from + NEAR) rows.push({ time: to, row: rowAt(track, times, values, width, to) });
  const out = Float32Array.from(rows.flatMap(({ row }) => row));
  return {
    ...track,
    times: putArray(
      blobs,
      Float32Array.from(rows, ({ time }) => time - from),
      1,
    ),
    values: putArray(blobs, out, width),
  };
}

/** Row of a dense track at a time: value, or tangents and value. */
export function rowOf(track: SampleTrack, time: number, blobs: Blobs): Float32Array {
  return Float32Array.from(
    rowAt(track, readArray<Float32Array>(blobs, track.times), readArray<Float32Array>(blobs, track.values), track.values.size, time),
  );
}

/** A row at any time, with tangents where the track is a curve: those of the cubic that runs through there. */
function rowAt(track: SampleTrack, times: Float32Array, values: Float32Array, width: number, time: number): number[] {
  const curve = track.interpolation === 'curve';
  const stride = curve ? 3 * width : width;
  const lead = curve ? width : 0;
  let i = 0;
  while (i + 1 < times.length && times[i + 1] <= time + NEAR) i++;
  const here = [...values.subarray(i * stride + lead, i * stride + lead + width)];
  const zero = new Array<number>(width).fill(0);
  if (i === times.length - 1 || time <= times[i] + NEAR) {
    if (!curve) return here;
    // Before the first and after the last key nothing moves.
    return time < times[0] - NEAR || time > times[i] + NEAR
      ? [...zero, ...here, ...zero]
      : [...values.subarray(i * stride, (i + 1) * stride)];
  }
  if (track.interpolation === 'hold') return here;
  const span = times[i + 1] - times[i];
  const u = (time - times[i]) / span;
  const there = [...values.subarray((i + 1) * stride + lead, (i + 1) * stride + lead + width)];
  if (!curve)
    return track.property === 'rotation'
      ? slerpQuats(here as Quat, there as Quat, u)
      : here.map((value, c) => value + (there[c] - value) * u);
  const out = here.map((_, c) => values[i * stride + 2 * width + c]);
  const into = here.map((_, c) => values[(i + 1) * stride + c]);
  const value = here.map((v, c) => hermite(u, v, out[c], there[c], into[c], span));
  const tangent = here.map((v, c) => hermiteSlope(u, v, out[c], there[c], into[c], span));
  return [...tangent, ...value, ...tangent];
}
