import { partsInOrder, type Blobs, type Id, type Kit, type Part } from '../document';
import { VersionMoves } from './part-movement';
import { baseOfParts, keysOf, sourcePath } from './source-paths';
import { boundsByPart, joinBounds, meshCounts, restWorlds, sizeOf, type Bounds } from '../geometry';

export type MatchReason = 'path' | 'name' | 'shape' | 'children';

/** Which part of the kit a part of a new version of its source is; by the new part's id. */
export type VersionMatches = Record<Id, { part: Id; reason: MatchReason }>;

export interface VersionRow {
  /** In the kit; null where the part is new. */
  part: Id | null;
  /** In the new version; null where it is gone. */
  next: Id | null;
  name: string;
  nextName: string | null;
  reason: MatchReason | null;
  /** `moved` is what the new file has elsewhere and otherwise as it was. */
  state: 'same' | 'moved' | 'changed' | 'new' | 'gone';
  renamed: boolean;
  /** Before and after; null where there is none. */
  triangles: [number | null, number | null];
  /** Longest side, metres. */
  size: [number | null, number | null];
  /** How far the pivot stands from where it stood in the source, metres. */
  pivotMoved: number;
  /** How far it was moved, metres; 0 where it was not, or was changed as well. */
  moved: number;
  /** Of one that was moved: whether its pivot goes along, or stays where a person put it. */
  pivotGoes: boolean;
  tracks: number;
  bindings: number;
}

/** At least this alike, two shapes are taken to be one. */
const ALIKE = 0.75;

const last = (path: string) => path.slice(path.lastIndexOf('/') + 1);

/**
 * Matches the parts of a new version to those of a kit: by path in the file, then by name, then by the likeness of their
 * meshes (same arrays; else triangles, size and place), then empty parts by what hangs below them.
 *
 * @param base The kit's source as it was read, in the same space; null where it is not kept any more.
 */
export function matchVersion(kit: Kit, base: Kit | null, next: Kit, blobs: Blobs): VersionMatches {
  const matches: VersionMatches = {};
  const takenParts = new Set<Id>();
  const take = (one: Part, part: Part, reason: MatchReason) => {
    if (matches[one.id] || takenParts.has(part.id)) return;
    matches[one.id] = { part: part.id, reason };
    takenParts.add(part.id);
  };
  const theirs = partsInOrder(next);
  const fromSource = partsInOrder(kit).filter((part) => sourcePath(kit, part) !== undefined);
  const ourKeys = keysOf(fromSource, (part) => sourcePath(kit, part));
  for (const [key, part] of keysOf(theirs, (one) => one.from)) {
    const found = ourKeys.get(key);
    if (found) take(part, found, 'path');
  }
  const left = () => [theirs.filter((one) => !matches[one.id]), fromSource.filter((one) => !takenParts.has(one.id))] as const;

  const [newOnes, lost] = left();
  for (const one of newOnes) {
    const named = lost.filter((part) => last(sourcePath(kit, part)!) === one.name || part.name === one.name);
    if (named.length === 1 && newOnes.filter((other) => other.name === one.name).length === 1) take(one, named[0], 'name');
  }
  matchShapes(kit, base, next, blobs, left(), take);
  matchByChildren(kit, next, matches, left(), take);
  return matches;
}

function matchShapes(
  kit: Kit,
  base: Kit | null,
  next: Kit,
  blobs: Blobs,
  [newOnes, lost]: readonly [Part[], Part[]],
  take: (one: Part, part: Part, reason: MatchReason) => void,
): void {
  if (newOnes.every((one) => one.mesh === null) || lost.every((part) => part.mesh === null)) return;
  const baseOf = base ? baseOfParts(kit, base) : new Map<Id, Part>();
  const [ours, olds, theirs] = [figuresOf(kit, blobs), base && figuresOf(base, blobs), figuresOf(next, blobs)];
  const pairs: { one: Part; part: Part; score: number }[] = [];
  for (const one of newOnes) {
    if (one.mesh === null) continue;
    for (const part of lost) {
      const before = base && baseOf.get(part.id);
      const score = before ? likeness(olds!, before, theirs, one) : likeness(ours, part, theirs, one);
      if (score >= ALIKE) pairs.push({ one, part, score });
    }
  }
  pairs.sort((a, b) => b.score - a.score);
  for (const { one, part } of pairs) take(one, part, 'shape');
}

/** Names of the arrays that make a part's mesh: the same names are the same mesh. */
function arraysOf(kit: Kit, part: Part): string {
  return part.mesh === null
    ? ''
    : kit.meshes[part.mesh].primitives.map((primitive) => `${primitive.attributes.POSITION.blob}/${primitive.indices.blob}`).join();
}

/** What likeness is judged by, worked out once for a whole kit. */
interface Figures {
  kit: Kit;
  bounds: Map<Id, Bounds>;
  /** Diagonal of all together, metres. */
  size: number;
}

function figuresOf(kit: Kit, blobs: Blobs): Figures {
  const bounds = boundsByPart(kit, blobs);
  return { kit, bounds, size: Math.hypot(...sizeOf(joinBounds(bounds.values()))) };
}

/** 0 to 1: 1 for the same arrays; else by triangles, size of the bounds and place in the whole. */
function likeness(a: Figures, one: Part, b: Figures, other: Part): number {
  const [first, second] = [a.bounds.get(one.id), b.bounds.get(other.id)];
  if (!first || !second) return 0;
  const same = arraysOf(a.kit, one) === arraysOf(b.kit, other);
  const ratio = (x: number, y: number) => (Math.max(x, y) === 0 ? 1 : Math.min(x, y) / Math.max(x, y));
  const triangles = ratio(meshCounts(a.kit, one.mesh).triangles, meshCounts(b.kit, other.mesh).triangles);
  const size = Math.min(...[0, 1, 2].map((axis) => ratio(sizeOf(first)[axis] + 1e-4, sizeOf(second)[axis] + 1e-4)));
  const whole = a.size || 1;
  const apart = Math.hypot(...[0, 1, 2].map((axis) => (first.min[axis] + first.max[axis] - second.min[axis] - second.max[axis]) / 2));
  // Of several copies of one mesh the one that stands nearest is meant.
  const place = Math.max(0, 1 - (4 * apart) / whole);
  return same ? 0.9 + 0.1 * place : 0.35 * triangles + 0.35 * size + 0.3 * place;
}

/** Empty parts are what their children say: the parent of most of those that are matched. */
function matchByChildren(
  kit: Kit,
  next: Kit,
  matches: VersionMatches,
  [newOnes, lost]: readonly [Part[], Part[]],
  take: (one: Part, part: Part, reason: MatchReason) => void,
): void {
  for (const one of newOnes.filter((part) => part.mesh === null).reverse()) {
    const votes = new Map<Id, number>();
    for (const [id, { part }] of Object.entries(matches)) {
      const parent = kit.parts[part].parent;
      if (parent !== null && lost.some((other) => other.id === parent) && next.parts[id].parent === one.id)
        votes.set(parent, (votes.get(parent) ?? 0) + 1);
    }
    const [best] = [...votes].sort((a, b) => b[1] - a[1]);
    if (best) take(one, kit.parts[best[0]], 'children');
  }
}

/** The rows of the table that is shown before a new version is taken in. */
export function compareVersion(kit: Kit, base: Kit | null, next: Kit, matches: VersionMatches, blobs: Blobs): VersionRow[] {
  const baseOf = base ? baseOfParts(kit, base) : new Map<Id, Part>();
  const nextWorlds = restWorlds(next);
  const baseWorlds = base ? restWorlds(base) : null;
  const bounds = new Map<Kit, Map<Id, Bounds>>();
  const longest = (of: Kit, part: Part): number | null => {
    if (!bounds.has(of)) bounds.set(of, boundsByPart(of, blobs));
    const own = bounds.get(of)!.get(part.id);
    return own ? Math.max(...sizeOf(own)) : null;
  };
  const triangles = (of: Kit, part: Part) => (part.mesh === null ? null : meshCounts(of, part.mesh).triangles);
  const moved = (part: Part) => ({
    tracks: Object.values(kit.clips).reduce((sum, clip) => sum + clip.tracks.filter((track) => track.part === part.id).length, 0),
    bindings: Object.values(kit.bindings).filter((binding) => binding.part === part.id).length,
  });
  const moves = new VersionMoves(kit, base, next, new Map(Object.entries(matches).map(([id, { part }]) => [id, part])), blobs);
  const rows: VersionRow[] = [];
  const matched = new Set<Id>();
  for (const one of partsInOrder(next)) {
    const match = matches[one.id];
    if (!match) {
      rows.push({
        part: null,
        next: one.id,
        name: one.name,
        nextName: one.name,
        reason: null,
        state: 'new',
        renamed: false,
        triangles: [null, triangles(next, one)],
        size: [null, longest(next, one)],
        pivotMoved: 0,
        moved: 0,
        pivotGoes: false,
        tracks: 0,
        bindings: 0,
      });
      continue;
    }
    matched.add(match.part);
    const part = kit.parts[match.part];
    const before = baseOf.get(part.id);
    const [beforeKit, beforePart] = base && before ? [base, before] : [kit, part];
    const a = baseWorlds && before ? baseWorlds.get(before.id)! : null;
    const b = nextWorlds.get(one.id)!;
    const pivotMoved = a ? Math.hypot(a[12] - b[12], a[13] - b[13], a[14] - b[14]) : 0;
    const counts: [number | null, number | null] = [triangles(beforeKit, beforePart), triangles(next, one)];
    const sizes: [number | null, number | null] = [longest(beforeKit, beforePart), longest(next, one)];
    const renamed = last(sourcePath(kit, part) ?? part.name) !== one.name;
    const changed =
      (base !== null && arraysOf(beforeKit, beforePart) !== arraysOf(next, one)) ||
      counts[0] !== counts[1] ||
      Math.abs((sizes[0] ?? 0) - (sizes[1] ?? 0)) > 1e-4 ||
      pivotMoved > 1e-4;
    const state = (changed && moves.isMoved(one.id) && 'moved') || (changed ? 'changed' : 'same');
    rows.push({
      part: part.id,
      next: one.id,
      name: part.name,
      nextName: one.name,
      reason: match.reason,
      state,
      renamed,
      triangles: counts,
      size: sizes,
      pivotMoved,
      moved: state === 'moved' ? moves.metresMoved(one.id) : 0,
      pivotGoes: state === 'moved' && moves.whereTo(one.id) !== null,
      ...moved(part),
    });
  }
  for (const part of partsInOrder(kit)) {
    if (matched.has(part.id) || sourcePath(kit, part) === undefined) continue;
    rows.push({
      part: part.id,
      next: null,
      name: part.name,
      nextName: null,
      reason: null,
      state: 'gone',
      renamed: false,
      triangles: [triangles(kit, part), null],
      size: [longest(kit, part), null],
      pivotMoved: 0,
      moved: 0,
      pivotGoes: false,
      ...moved(part),
    });
  }
  return rows;
}
