import type { Clip, Kit } from '@itchkit/core/document';
import { overlaysOf } from '@itchkit/core/motion';
import type { Rulebook } from '@itchkit/core/rulebook';

/**
 * What uses a clip: targets that ask for it by its name, or play it in the place of their own; overlays that run with it. In words, one
 * each.
 */
export function usedBy(kit: Kit, clip: Clip, targets: readonly Rulebook[]): string[] {
  const words: string[] = [];
  for (const { title, motion } of targets) {
    const slot = motion?.clips?.find(({ name }) => name === clip.name);
    if (slot) words.push(slot.needed ? `asked for by ${title}` : `played by ${title} in place of its own`);
    else if (motion?.rest === clip.name) words.push(`the rest pose of ${title}`);
    if (clip.overlay && motion && motion.overlays !== true) words.push(`${title} runs no overlays along`);
  }
  if (clip.overlay) return [`runs ${clip.overlay.place} every other clip`, ...words];
  const parts = new Set(clip.tracks.map(({ part }) => part));
  for (const other of overlaysOf(kit)) {
    const moves = other.overlay?.parts ?? other.tracks.map(({ part }) => part);
    words.push(`“${other.name}” runs ${other.overlay!.place} it${moves.some((part) => parts.has(part)) ? ', on parts that it moves' : ''}`);
  }
  return words;
}
