import { partsInOrder, type Id, type Kit, type Part } from '../document';
import { emptyBounds, growBounds, restWorlds, sizeOf } from '../geometry';
import { rolesOf } from './library/motion-role';
import { plainName } from './plain-name';

/**
 * Which part of a kit each moving part of another one is, by name: exactly, else by its plain name, else by what a joint of that name is
 * for; each part once. Parts that stand still below one which moves and has none here are among them.
 */
export function matchByNames(source: Kit, kit: Kit): Record<Id, Id | null> {
  const moving = new Set(Object.values(source.clips).flatMap((clip) => clip.tracks.map((track) => track.part)));
  const all = partsInOrder(source);
  const found = new Map<Id, Id>();
  const taken = new Set<Id>();
  const pass = (keyOf: (part: Part) => string) => {
    const byKey = new Map<string, Part[]>();
    for (const part of partsInOrder(kit)) byKey.set(keyOf(part), [...(byKey.get(keyOf(part)) ?? []), part]);
    for (const part of all) {
      const ours = keyOf(part) === '' ? undefined : byKey.get(keyOf(part))?.find((one) => !taken.has(one.id));
      if (found.has(part.id) || !ours) continue;
      found.set(part.id, ours.id);
      taken.add(ours.id);
    }
  };
  pass((part) => part.name);
  pass((part) => plainName(part.name));
  const roles = new Map([source, kit].flatMap((one) => Object.entries(rolesOf(one)).map(([role, id]) => [id, role])));
  pass((part) => roles.get(part.id) ?? '');
  // What stands still itself is moved by a part above that has none here.
  const isCarried = (id: Id | null): boolean => id !== null && !found.has(id) && (moving.has(id) || isCarried(source.parts[id].parent));
  const asked = all.filter((part) => moving.has(part.id) || (found.has(part.id) && isCarried(part.parent)));
  return Object.fromEntries(asked.map(({ id }) => [id, found.get(id) ?? null]));
}

/** How much larger the matched parts of a kit stand apart than those of another one: what its moves are to be multiplied by. */
export function guessClipScale(source: Kit, kit: Kit, pairs: Record<Id, Id | null>): number {
  const height = (of: Kit, ids: Id[]) => {
    const worlds = restWorlds(of);
    const bounds = emptyBounds();
    for (const id of ids) growBounds(bounds, worlds.get(id)!.slice(12, 15));
    return Math.hypot(...sizeOf(bounds));
  };
  const matched = Object.entries(pairs).filter((pair): pair is [Id, Id] => pair[1] !== null);
  const there = height(
    source,
    matched.map(([id]) => id),
  );
  const here = height(
    kit,
    matched.map(([, id]) => id),
  );
  const ratio = here / there;
  return Number.isFinite(ratio) && ratio > 0 && Math.abs(ratio - 1) > 0.02 ? Number(ratio.toPrecision(4)) : 1;
}
