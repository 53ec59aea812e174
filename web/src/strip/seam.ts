import type { Clip, KeyTrack } from '@itchkit/core/document';
import { PROPERTY } from './track-words';

export interface Seam {
  /** The greatest gap between a loop's end and its start: metres, degrees or factor. */
  gap: number;
  unit: string;
  track: KeyTrack | null;
}

/** Where a loop's end does not meet its start, by keys; whole turns meet. */
export function seamOf(clip: Clip): Seam | null {
  if (clip.loop !== 'loop') return null;
  let worst: Seam | null = null;
  let share = 1;
  for (const track of clip.tracks) {
    if (track.kind !== 'keys' || track.keys.length < 2) continue;
    let gap = Math.abs(track.keys[track.keys.length - 1].value - track.keys[0].value);
    if (track.property === 'turn') gap = Math.abs(gap - 360 * Math.round(gap / 360));
    const { within, unit } = PROPERTY[track.property];
    if (gap / within <= share) continue;
    share = gap / within;
    worst = { gap, unit, track };
  }
  return worst;
}
