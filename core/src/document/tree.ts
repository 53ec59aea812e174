import { IdTakenError, PartMissingError } from './errors';
import type { FormulaTrack, Key, KeyTrack, Id, Kit, Part, Vec3 } from './types';

/** @throws {PartMissingError} */
export function partOf(kit: Kit, id: Id): Part {
  const part = kit.parts[id];
  if (!part) throw new PartMissingError(id);
  return part;
}

/** Puts a new part into the kit. Writes to the draft. @throws {IdTakenError} */
export function putNewPart(kit: Kit, part: Part): void {
  if (Object.hasOwn(kit.parts, part.id)) throw new IdTakenError(part.id);
  kit.parts[part.id] = part;
}

function byOrder(a: Part, b: Part): number {
  return a.order - b.order || (a.id < b.id ? -1 : 1);
}

/** Children of a part (of the kit itself for null), in order. */
export function childrenOf(kit: Kit, parent: Id | null): Part[] {
  return Object.values(kit.parts)
    .filter((part) => part.parent === parent)
    .sort(byOrder);
}

/** Every part, parents before children, siblings in order. */
export function partsInOrder(kit: Kit): Part[] {
  const byParent = new Map<Id | null, Part[]>();
  for (const part of Object.values(kit.parts)) {
    const list = byParent.get(part.parent);
    if (list) list.push(part);
    else byParent.set(part.parent, [part]);
  }
  for (const list of byParent.values()) list.sort(byOrder);
  const result: Part[] = [];
  const stack = [...(byParent.get(null) ?? [])].reverse();
  while (stack.length > 0) {
    const part = stack.pop()!;
    result.push(part);
    const children = byParent.get(part.id);
    if (children) for (let i = children.length - 1; i >= 0; i--) stack.push(children[i]);
  }
  return result;
}

/** The part and all below it. */
export function subtreeOf(kit: Kit, id: Id): Set<Id> {
  const result = new Set<Id>([id]);
  for (const part of partsInOrder(kit)) if (part.parent !== null && result.has(part.parent)) result.add(part.id);
  return result;
}

/** Names from the root down, joined by slashes. */
export function pathOf(kit: Kit, id: Id): string {
  const names: string[] = [];
  for (let part: Part | undefined = partOf(kit, id); part; part = part.parent === null ? undefined : kit.parts[part.parent])
    names.unshift(part.name);
  return names.join('/');
}

/** Parts that a skin follows, and those that are joints by their role. */
export function jointsOf(kit: Kit): Set<Id> {
  return new Set([
    ...Object.values(kit.skins).flatMap((skin) => skin.joints),
    ...Object.values(kit.parts).flatMap((part) => (part.role === 'joint' ? [part.id] : [])),
  ]);
}

export function nextOrder(kit: Kit, parent: Id | null): number {
  return childrenOf(kit, parent).reduce((most, part) => Math.max(most, part.order + 1), 0);
}

/** `name`, or `name_2`, `name_3`… where it is taken. */
export function freeName(name: string, taken: ReadonlySet<string>, separator = '_'): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name}${separator}${n}`)) return `${name}${separator}${n}`;
}

/** Takes out the measures that hold on to parts which are gone. Writes to the draft. */
export function dropWhatIsOn(kit: Kit, gone: ReadonlySet<Id>): void {
  if (kit.callouts) {
    const kept = kit.callouts.filter(({ points }) => !points.some(({ part }) => gone.has(part)));
    if (kept.length > 0) kit.callouts = kept;
    else delete kit.callouts;
  }
  for (const body of kit.bodies ?? [])
    if (body.parts.some((part) => gone.has(part))) body.parts = body.parts.filter((part) => !gone.has(part));
  dropEmptyBodies(kit);
  forgetInClips(kit, gone);
}

/** Cues and overlays say nothing more of parts that go. Writes to the draft. */
export function forgetInClips(kit: Kit, gone: ReadonlySet<Id>): void {
  for (const clip of Object.values(kit.clips)) {
    if (clip.cues?.some(({ part }) => part !== null && gone.has(part)))
      clip.cues = clip.cues.map((cue) => (cue.part !== null && gone.has(cue.part) ? { ...cue, part: null } : cue));
    if (clip.overlay?.parts?.some((part) => gone.has(part)))
      clip.overlay = { ...clip.overlay, parts: clip.overlay.parts.filter((part) => !gone.has(part)) };
  }
}

/** A track of one number with its values times a factor, and so its slopes. */
export function scaleTrack<T extends KeyTrack | FormulaTrack>(track: T, factor: number): T {
  if (track.kind === 'formula') return { ...track, gain: track.gain * factor + 0 };
  return { ...track, keys: track.keys.map((key) => scaleKey(key, factor)) };
}

export function scaleKey(key: Key, factor: number): Key {
  const out: Key = { ...key, value: key.value * factor + 0 };
  if (key.slopeIn !== undefined) out.slopeIn = key.slopeIn * factor + 0;
  if (key.slopeOut !== undefined) out.slopeOut = key.slopeOut * factor + 0;
  return out;
}

/** Bodies without parts go, and couplings without their bodies. Writes to the draft. */
export function dropEmptyBodies(kit: Kit): void {
  if (!kit.bodies) return;
  if (kit.bodies.some(({ parts }) => parts.length === 0)) kit.bodies = kit.bodies.filter(({ parts }) => parts.length > 0);
  const ids = new Set(kit.bodies.map(({ id }) => id));
  if (kit.couplings?.some(({ from, to }) => !ids.has(from) || !ids.has(to)))
    kit.couplings = kit.couplings.filter(({ from, to }) => ids.has(from) && ids.has(to));
  if (kit.bodies.length === 0) delete kit.bodies;
  if (kit.couplings?.length === 0) delete kit.couplings;
}

/** Puts the points that measures hold on a part elsewhere in its axes, since its geometry was moved in them. Writes to the draft. */
export function moveWhatIsOn(kit: Kit, part: Id, move: (at: Vec3) => Vec3): void {
  for (const { points } of kit.callouts ?? []) for (const point of points) if (point.part === part) point.at = move(point.at);
  for (const coupling of kit.couplings ?? []) {
    if (kit.bodies?.find(({ id }) => id === coupling.from)?.parts[0] !== part) continue;
    const [at, end] = [move(coupling.at), move(coupling.at.map((value, axis) => value + coupling.axis[axis]) as Vec3)];
    const along = end.map((value, axis) => value - at[axis]);
    const length = Math.hypot(...along);
    coupling.at = at;
    if (length > 1e-12) coupling.axis = along.map((value) => value / length + 0) as Vec3;
  }
}
