import { clipsInOrder } from '../../document';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';
import type { Check, CheckContext, Said } from '../types';

/** Anchors stand still: no clip and no variable moves them, or anything that carries them. */
export const hierarchyAnchors: Check = {
  id: 'hierarchy.anchors',
  family: 'hierarchy',
  stage: 'motion',
  about: 'Anchors stand still: no clip and no variable moves them, or anything that carries them',
  needs: ({ hierarchy }) => (hierarchy?.anchors?.length ? null : 'which parts stand still (hierarchy.anchors)'),
  run(context) {
    const { kit, rulebook } = context;
    const still = anchored(context);
    const found = clipsInOrder(kit).flatMap((clip): Said[] => {
      const tracks = clip.tracks.filter((track) => still.has(track.part) && track.property !== 'weights');
      if (tracks.length === 0) return [];
      const parts = [...new Set(tracks.map((track) => track.part))].map((id) => kit.parts[id]);
      return [
        {
          key: clip.id,
          title: 'Anchor is moved',
          message: `“${clip.name}” moves ${nameList(namesOf(parts))}, which ${rulebook.title} holds still.`,
          measured: count(tracks.length, 'track'),
          limit: '0',
          parts: idsOf(parts),
          mend: {
            title: `Delete ${count(tracks.length, 'track')}`,
            safe: false,
            call: { operation: 'motion.remove-tracks', args: { clip: clip.id, tracks: tracks.map((track) => track.id) } },
            changes: tracks.map((track) => `${kit.parts[track.part].name}: its ${track.property} in ${clip.name}`),
          },
        },
      ];
    });
    const bound = Object.values(kit.bindings).filter(({ part }) => still.has(part));
    return found.concat(
      bound.map(({ id, part, variable }) => ({
        key: id,
        title: 'Anchor is bound',
        message: `“${kit.parts[part].name}” follows ${variable}, but ${rulebook.title} holds it still.`,
        measured: variable,
        limit: 'no variable',
        parts: [part],
        mend: {
          title: 'Unbind it',
          safe: false,
          call: { operation: 'wiring.remove-binding', args: { bindings: [id] } },
          changes: [`${kit.parts[part].name}: no longer follows ${variable}`],
        },
      })),
    );
  },
};

/** Ids of the anchors and of all that carries them. */
function anchored({ kit, rulebook, parts }: CheckContext): Set<string> {
  const still = new Set<string>();
  for (const { id, name } of parts) {
    if (!rulebook.hierarchy!.anchors!.includes(name)) continue;
    for (let up: string | null = id; up !== null; up = kit.parts[up].parent) still.add(up);
  }
  return still;
}
