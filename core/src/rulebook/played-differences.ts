import { count, type Clip, type Id, type Kit } from '../document';
import { isPlayed } from './played-tracks';
import type { Rulebook } from './types';

/** Something that a platform does otherwise than the bench, and where. */
export interface PlayedDifference {
  what: string;
  /** The part it is seen at; null where it is of the clip as a whole. */
  part: Id | null;
}

/** What a platform leaves out of a clip or does otherwise, by its rulebook: tracks by part, cues, rate, running beside others. */
export function playedDifferences(kit: Kit, clip: Clip, { title, motion }: Pick<Rulebook, 'title' | 'motion'>): PlayedDifference[] {
  const found: PlayedDifference[] = [];
  const byPart = new Map<Id, Set<string>>();
  for (const { part, property } of clip.tracks)
    if (!isPlayed({ motion }, property)) byPart.set(part, (byPart.get(part) ?? new Set()).add(property));
  for (const [part, properties] of byPart)
    found.push({ what: `“${kit.parts[part].name}” keeps its ${[...properties].join(' and ')} of rest`, part });
  const unheard = (clip.cues ?? []).filter(({ kind }) => motion?.cues && !motion.cues.includes(kind));
  if (unheard.length > 0)
    found.push({
      what: `${count(unheard.length, 'cue')} of the kind ${[...new Set(unheard.map(({ kind }) => kind))].join(' and ')} left out`,
      part: null,
    });
  if (motion?.rate !== undefined && motion.rate !== clip.rate)
    found.push({ what: `${title} plays ${motion.rate} frames a second, the clip has ${clip.rate}`, part: null });
  if (clip.overlay && motion && !motion.overlays)
    found.push({ what: `${title} plays one clip at a time: it does not run beside others`, part: null });
  return found;
}
