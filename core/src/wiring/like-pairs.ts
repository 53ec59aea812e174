import { childrenOf, type Id, type Kit, type Part } from '../document';

/** A name without what tells one of several apart: sides, ends, numbers. */
const stemOf = (name: string) =>
  name
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '' && !/^(\d+|l|r|left|right|front|back|rear|fore|aft|upper|lower|top|bottom)$/.test(word))
    .join(' ');

/**
 * Which parts below one stand for which below another: those of one mesh, or whose names differ by a side, an end or a number alone, level
 * by level; where there are as many below one as below the other, the rest by their order.
 */
export function likePairs(kit: Kit, from: Id, to: Id): Record<Id, Id> {
  const pairs: Record<Id, Id> = { [from]: to };
  const here = childrenOf(kit, from);
  const there = childrenOf(kit, to);
  const free = new Set(there.map(({ id }) => id));
  const take = (part: Part, twin: Part | undefined) => {
    if (!twin) return;
    free.delete(twin.id);
    Object.assign(pairs, likePairs(kit, part.id, twin.id));
  };
  for (const part of here)
    take(
      part,
      there.find(({ id, name, mesh }) => free.has(id) && (stemOf(name) === stemOf(part.name) || (mesh !== null && mesh === part.mesh))),
    );
  if (here.length === there.length)
    for (const part of here)
      if (!pairs[part.id])
        take(
          part,
          there.find(({ id }) => free.has(id)),
        );
  return pairs;
}
