import { newId, type Clip, type Id, type KeyProperty, type Kit, type Quat, type Vec3 } from '../../document';
import { turnNearest } from '../../geometry';
import type { Samples } from '../frames';
import { curveKeys } from '../tools/fit-keys';

/**
 * Makes a part's turns in a clip those of the samples, as plain keys; whatever turned it before goes.
 *
 * @param spins After rest, one a time. @param within What an angle may be off by, degrees.
 */
export function writeTurns(kit: Kit, clip: Clip, part: Id, samples: Samples, spins: readonly Quat[], within: number): void {
  clip.tracks = clip.tracks.filter((track) => !(track.part === part && (track.property === 'turn' || track.property === 'rotation')));
  const { turnOrder } = kit.parts[part];
  let near: Vec3 = [0, 0, 0];
  const turns = spins.map((spin) => (near = turnNearest(spin, turnOrder, near)));
  writeAxes(clip, part, 'turn', samples, turns, within);
}

/** The same for its offsets, metres in its parent's axes. */
export function writeOffsets(clip: Clip, part: Id, samples: Samples, offsets: readonly Vec3[], within: number): void {
  clip.tracks = clip.tracks.filter((track) => !(track.part === part && track.property === 'offset'));
  writeAxes(clip, part, 'offset', samples, offsets, within);
}

function writeAxes(clip: Clip, part: Id, property: KeyProperty, { times, every }: Samples, rows: readonly Vec3[], within: number): void {
  for (const axis of [0, 1, 2]) {
    const values = rows.map((row) => row[axis]);
    if (values.every((value) => Math.abs(value) < 1e-6)) continue;
    clip.tracks.push({ kind: 'keys', id: newId(), part, property, axis, keys: curveKeys(times, values, within, every) });
  }
}
