import { IdTakenError, PartMissingError } from './errors';
import type { Kit } from './kit';
import type { Id } from './values';

type Part = Kit['parts'][Id];

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

/** The order by which a new child comes last below a parent (null: among the roots). */
export function nextOrder(kit: Kit, parent: Id | null): number {
  return childrenOf(kit, parent).reduce((most, part) => Math.max(most, part.order + 1), 0);
}

/** `name`, or `name_2`, `name_3`… where it is taken. */
export function freeName(name: string, taken: ReadonlySet<string>, separator = '_'): string {
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name}${separator}${n}`)) return `${name}${separator}${n}`;
}
