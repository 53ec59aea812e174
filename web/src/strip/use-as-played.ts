import { useMemo } from 'react';
import { BlobsOver, type Blobs, type Clip, type Kit, type SampleTrack } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { asPlayed, bakeOf, type AsPlayed } from '@itchkit/core/ship';
import { useRulebook, useUi } from '../session/context';
import { formatCount } from '../format';
import { denseRows, keyProperty, type Drawn } from './curve-lines';

let last: { kit: Kit; clip: Clip; rulebook: Rulebook | undefined; made: { played: AsPlayed; blobs: Blobs } } | null = null;

/** A clip as the platform will play it, worked out once for all that show it; its arrays stay out of the kit's. */
export function playedOnce(kit: Kit, clip: Clip, blobs: Blobs, rulebook: Rulebook | undefined): { played: AsPlayed; blobs: Blobs } {
  if (last?.clip !== clip || last.rulebook !== rulebook || last.kit.parts !== kit.parts || last.kit.meshes !== kit.meshes) {
    const own = new BlobsOver(blobs);
    last = { kit, clip, rulebook, made: { played: asPlayed(kit, clip, own, rulebook ? bakeOf(rulebook) : {}), blobs: own } };
  }
  return last.made;
}

/** What differs, in a sentence. */
export function playedWords(kit: Kit, { keys, millimetres, degrees, part, time }: AsPlayed): string {
  const where = part === null ? '' : ` at “${kit.parts[part]?.name}”, ${time.toFixed(2)} s`;
  return `${formatCount(keys.made)} → ${formatCount(keys.played)} keys; ${millimetres < 0.05 ? 'nothing is off by a twentieth of a millimetre' : `at most ${millimetres.toFixed(2)} mm off${where}`}, ${degrees.toFixed(2)}°`;
}

/** The values of some tracks in the played clip, as lines; null where it is not shown. */
export function usePlayedValues(
  kit: Kit,
  clip: Clip,
  blobs: Blobs,
  tracks: readonly Drawn[],
): { lines: [number, number][][]; says: string } | null {
  const on = useUi((state) => state.strip.asPlayed);
  const rulebook = useRulebook();
  return useMemo(() => {
    if (!on) return null;
    const { played, blobs: own } = playedOnce(kit, clip, blobs, rulebook);
    return { lines: tracks.map((track) => playedValues(kit, played.clip, track, own)), says: playedWords(kit, played) };
  }, [on, kit, clip, blobs, rulebook, tracks]);
}

function playedValues(kit: Kit, played: Clip, { part, property, axis }: Drawn, blobs: Blobs): [number, number][] {
  const moved = property === 'shown' ? 'size' : property;
  const track = played.tracks.find((one): one is SampleTrack => one.kind === 'samples' && one.part === part && keyProperty(one) === moved);
  if (!track) return [];
  const { times, rows } = denseRows(kit, track, blobs);
  return rows.map((row, i) => [times[i], row[axis]]);
}
