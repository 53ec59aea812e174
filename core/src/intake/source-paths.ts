import { partsInOrder, pathOf, type Id, type Kit, type Part } from '../document';

/** Paths in a file, made unique by counting those that are the same. */
export function keysOf(parts: Part[], pathOfPart: (part: Part) => string | undefined): Map<string, Part> {
  const seen = new Map<string, number>();
  const result = new Map<string, Part>();
  for (const part of parts) {
    const path = pathOfPart(part);
    if (path === undefined) continue;
    const count = (seen.get(path) ?? 0) + 1;
    seen.set(path, count);
    result.set(`${path}#${count}`, part);
  }
  return result;
}

/** Where a part of a kit was in its source; kits of older versions did not keep it, so their own path stands in. */
export function sourcePath(kit: Kit, part: Part): string | undefined {
  return Object.values(kit.parts).some((one) => one.from !== undefined) ? part.from : pathOf(kit, part.id);
}

/** The part of the source, as it was read, that a part of the kit came from. */
export function baseOfParts(kit: Kit, base: Kit): Map<Id, Part> {
  const baseKeys = keysOf(partsInOrder(base), (part) => part.from);
  const result = new Map<Id, Part>();
  for (const [key, part] of keysOf(partsInOrder(kit), (one) => sourcePath(kit, one))) {
    const found = baseKeys.get(key);
    if (found) result.set(part.id, found);
  }
  return result;
}
