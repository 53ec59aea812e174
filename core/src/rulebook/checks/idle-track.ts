import { readArray, type Blobs, type Track } from '../../document';

import { restValue } from '../../motion';

/** A micrometre, a millionth of a degree or of a factor: less is the noise of 32-bit numbers, in keys as in what they are baked to. */
const IDLE = 1e-6;

/** What rest is to each property of a dense track. */
const REST: Record<string, number[]> = { offset: [0, 0, 0], rotation: [0, 0, 0, 1], size: [1, 1, 1] };

/**
 * Whether a track leaves its part where it is at rest, at all times. A formula is never taken to be idle, and morph weights are not: theirs
 * at rest are the mesh's.
 */
export function isIdle(track: Track, blobs: Blobs): boolean {
  if (track.property === 'weights' || track.property === 'weight' || track.kind === 'formula') return false;
  if (track.kind === 'keys') {
    const rest = restValue(track.property);
    // A curve may leave rest by its tangents alone.
    return track.keys.every((key) => Math.abs(key.value - rest) <= IDLE && !key.slopeIn && !key.slopeOut);
  }
  const rest = REST[track.property];
  const values = readArray<Float32Array>(blobs, track.values);
  const rows = values.length / rest.length;
  for (let row = 0; row < rows; row++) {
    // In a curve every second of three rows is a value, the others are slopes.
    const slope = track.interpolation === 'curve' && row % 3 !== 1;
    for (let c = 0; c < rest.length; c++) {
      const value = values[row * rest.length + c];
      if (
        Math.abs(value - (slope ? 0 : rest[c])) > IDLE &&
        !(track.property === 'rotation' && !slope && c === 3 && Math.abs(value + 1) <= IDLE)
      )
        return false;
    }
  }
  return true;
}
