import { partsInOrder, type Id, type Kit, type Part } from '../document';
import { emptyBounds, growBounds, restWorlds, sizeOf } from '../geometry';

const SIDES: [RegExp, string][] = [
  [/(^|[ _.-])(l|lf|left)(?=$|[ _.-])/g, '$1<'],
  [/(^|[ _.-])(r|rt|right)(?=$|[ _.-])/g, '$1>'],
];

/** A name without what programs add to it: a namespace, a mark of the kind, separators; sides as one sign each. */
export function plainName(name: string): string {
  let plain = name
    .replace(/^.*[:|]/, '')
    .replace(/([a-z])([A-Z])/g, '$1_$2')
    .toLowerCase();
  for (const [pattern, sign] of SIDES) plain = plain.replace(pattern, sign);
  plain = plain.replace(/^(left|right)/, (side) => (side === 'left' ? '<' : '>')).replace(/(left|right)$/, (side) => (side === 'left' ? '<' : '>'));
  const letters = plain
    .replace(/[ _.-]+/g, ' ')
    .replace(/\b(jnt|joint|bone|def|ctrl|bip\d*)\b/g, '')
    .replace(/[^a-z0-9<>]/g, '');
  const side = /[<>]/.exec(letters)?.[0] ?? '';
  return side + letters.replace(/[<>]/g, '');
}

/** Which part of a kit each moving part of another one is, by name: exactly, else by its plain name; each part once. */
export function matchByNames(source: Kit, kit: Kit): Record<Id, Id | null> {
  const moving = new Set(Object.values(source.clips).flatMap((clip) => clip.tracks.map((track) => track.part)));
  const wanted = partsInOrder(source).filter((part) => moving.has(part.id));
  const result: Record<Id, Id | null> = Object.fromEntries(wanted.map((part) => [part.id, null]));
  const taken = new Set<Id>();
  const pass = (keyOf: (part: Part) => string) => {
    const byKey = new Map<string, Part[]>();
    for (const part of partsInOrder(kit)) byKey.set(keyOf(part), [...(byKey.get(keyOf(part)) ?? []), part]);
    for (const part of wanted) {
      const found = keyOf(part) === '' ? undefined : byKey.get(keyOf(part))?.find((one) => !taken.has(one.id));
      if (result[part.id] !== null || !found) continue;
      result[part.id] = found.id;
      taken.add(found.id);
    }
  };
  pass((part) => part.name);
  pass((part) => plainName(part.name));
  return result;
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
