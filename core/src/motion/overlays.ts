import { clipsInOrder, type Blobs, type Clip, type Id, type Kit } from '../document';
import type { FlatParts, Pose } from '../geometry';
import { clipTime } from './clip-time';
import { compileClip, sampleClip, type CompiledClip } from './sampler';

/** Overlays of a kit, in order. */
export function overlaysOf(kit: Kit): Clip[] {
  return clipsInOrder(kit).filter((clip) => clip.overlay !== undefined);
}

interface Layer {
  compiled: CompiledClip;
  clip: Clip;
}

/** A clip with the overlays that run with it, made ready for sampling. */
export interface ClipStack {
  layers: Layer[];
}

/** Properties that say the same of a part under another name. */
const SAME: Readonly<Record<string, string>> = { rotation: 'turn', shown: 'size' };

const key = (part: Id, property: string) => `${part} ${SAME[property] ?? property}`;

/**
 * A clip and overlays as one: first those that run under it, then it, then those over it. An overlay that adds comes to what the others
 * do: offsets and turns add, sizes multiply. One that replaces has its parts to itself: over the clip it takes the place of what the clip
 * does to the same property of a part, under it it gives way.
 */
export function stackClips(base: Clip | null, overlays: readonly Clip[], flat: FlatParts, blobs: Blobs): ClipStack {
  const ordered = [
    ...overlays.filter((clip) => clip.overlay?.place === 'under'),
    ...(base ? [base] : []),
    ...overlays.filter((clip) => clip.overlay?.place !== 'under'),
  ];
  const moved = ordered.map((clip) => tracksOf(clip));
  const layers = ordered.map((clip, i) => {
    const under = clip.overlay?.place === 'under';
    const tracks = moved[i].filter((track) => {
      const where = key(track.part, track.property);
      // Others that take this place: replacing overlays over it, or, for one that replaces from below, anything above.
      return !ordered.some((other, j) => {
        if (j <= i || !moved[j].some((one) => key(one.part, one.property) === where)) return false;
        return (other.overlay?.place === 'over' && other.overlay.mode === 'replace') || (under && clip.overlay!.mode === 'replace');
      });
    });
    return { clip, compiled: compileClip({ ...clip, tracks }, flat, blobs) };
  });
  return { layers };
}

function tracksOf(clip: Clip) {
  const { overlay } = clip;
  return overlay?.parts ? clip.tracks.filter((track) => overlay.parts!.includes(track.part)) : clip.tracks;
}

/**
 * Adds a stack at a running time to a pose; each clip goes on by its own length and loop mode.
 * @param time Seconds since it was started.
 */
export function sampleStack(stack: ClipStack, time: number, pose: Pose): void {
  for (const { clip, compiled } of stack.layers) {
    const at = clipTime(clip.overlay && clip.loop === 'once' ? 'loop' : clip.loop, clip.lengthSeconds, time);
    if (at !== null) sampleClip(compiled, at, pose);
  }
}
