import type { Clip, Cue } from '../document';

/** Cues that come between two moments of a clip, seconds; over a loop's end where the later one lies before the earlier. */
export function cuesBetween(clip: Clip, before: number, now: number): Cue[] {
  const cues = clip.cues ?? [];
  if (now >= before) return cues.filter(({ time }) => time > before && time <= now);
  return cues.filter(({ time }) => time > before || time <= now);
}

/** Effects that are under way at a moment, and how long each has been. @param seconds How long an effect of that name goes on. */
export function effectsAt(clip: Clip, time: number, seconds: (name: string) => number): { cue: Cue; age: number }[] {
  return (clip.cues ?? []).flatMap((cue) => {
    if (cue.kind !== 'effect') return [];
    const age = clip.loop === 'loop' && time < cue.time ? time + clip.lengthSeconds - cue.time : time - cue.time;
    return age >= 0 && age < seconds(cue.name) ? [{ cue, age }] : [];
  });
}
