import { partsInOrder, subtreeOf, type Clip, type Id, type KeyProperty, type Kit, type Part, type Track } from '@itchkit/core/document';

/** A row of the strip: a part with all its keys, or one of its tracks. */
export type Row = { kind: 'part'; part: Part; tracks: Track[]; folded: boolean } | { kind: 'track'; part: Part; track: Track };

interface Shown {
  rows: 'all' | 'moving' | 'chosen' | 'below';
  property: KeyProperty | 'all';
  folded: readonly Id[];
  selection: readonly Id[];
}

/** Whether a track moves something: its values are not all the same. */
function moves(track: Track): boolean {
  return track.kind !== 'keys' || track.keys.some((key) => Math.abs(key.value - track.keys[0].value) > 1e-9);
}

const isOf = (track: Track, property: KeyProperty) =>
  track.property === property ||
  (property === 'turn' && track.property === 'rotation') ||
  (property === 'weight' && track.property === 'weights');

/** What the strip lists, top to bottom; parts without tracks are left out, and those of which the filters leave none. */
export function rowsOf(kit: Kit, clip: Clip, { rows, property, folded, selection }: Shown): Row[] {
  const byPart = new Map<Id, Track[]>();
  for (const track of clip.tracks) {
    if (property !== 'all' && !isOf(track, property)) continue;
    if (rows === 'moving' && !moves(track)) continue;
    const list = byPart.get(track.part);
    if (list) list.push(track);
    else byPart.set(track.part, [track]);
  }
  const hidden = new Set(folded);
  const chosen = new Set(rows === 'below' ? selection.flatMap((id) => (kit.parts[id] ? [...subtreeOf(kit, id)] : [])) : selection);
  return partsInOrder(kit).flatMap((part): Row[] => {
    const tracks = byPart.get(part.id);
    if (!tracks || ((rows === 'chosen' || rows === 'below') && !chosen.has(part.id))) return [];
    const isFolded = hidden.has(part.id);
    return [
      { kind: 'part', part, tracks, folded: isFolded },
      ...(isFolded ? [] : tracks.map((track): Row => ({ kind: 'track', part, track }))),
    ];
  });
}

/** Times of a part's keys, each once. */
export function keyTimes(tracks: readonly Track[]): number[] {
  const times = tracks.flatMap((track) => (track.kind === 'keys' ? track.keys.map(({ time }) => time) : []));
  return [...new Set(times.map((time) => Number(time.toFixed(6))))].sort((a, b) => a - b);
}
