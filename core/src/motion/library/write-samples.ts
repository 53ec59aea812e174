import { newId, type Blobs, type Clip, type Id, type KeyProperty, type Kit, type Quat, type Vec3 } from '../../document';
import { reachOf, turnNearest } from '../../geometry';
import { curveKeys } from '../tools/fit-keys';
import { allowance } from '../tools/thin-tracks';

/** What a vertex, and what a turn may be off by. */
const WITHIN = { metres: 0.0015, degrees: 0.2 };

/** Makes a part's turns in a clip those of the samples, as plain keys; whatever turned it before goes. @param spins After rest, one a time. */
export function writeTurns(kit: Kit, clip: Clip, part: Id, times: readonly number[], spins: readonly Quat[], blobs: Blobs): void {
  clip.tracks = clip.tracks.filter((track) => !(track.part === part && (track.property === 'turn' || track.property === 'rotation')));
  const { turnOrder } = kit.parts[part];
  let near: Vec3 = [0, 0, 0];
  const turns = spins.map((spin) => (near = turnNearest(spin, turnOrder, near)));
  writeAxes(clip, part, 'turn', times, turns, allowance('turn', reachOf(kit, blobs, part), WITHIN));
}

/** The same for its offsets, metres in its parent's axes. */
export function writeOffsets(clip: Clip, part: Id, times: readonly number[], offsets: readonly Vec3[]): void {
  clip.tracks = clip.tracks.filter((track) => !(track.part === part && track.property === 'offset'));
  writeAxes(clip, part, 'offset', times, offsets, WITHIN.metres / 2);
}

function writeAxes(clip: Clip, part: Id, property: KeyProperty, times: readonly number[], rows: readonly Vec3[], within: number): void {
  for (const axis of [0, 1, 2]) {
    const values = rows.map((row) => row[axis]);
    if (values.every((value) => Math.abs(value) < 1e-6)) continue;
    clip.tracks.push({ kind: 'keys', id: newId(), part, property, axis, keys: curveKeys(times, values, within) });
  }
}
