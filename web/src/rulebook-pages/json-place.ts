import { findNodeAtLocation, parseTree, type Node } from 'jsonc-parser';

/** Where a value begins in a JSON text: the offset of what a path such as `rules.3.limit` names, or of the nearest thing above it. */
export function jsonPlace(text: string, path: string): number {
  const root = parseTree(text);
  if (!root) return 0;
  const steps = path === '' ? [] : path.split('.');
  let best: Node = root;
  for (let depth = 1; depth <= steps.length; depth++) {
    const found = findNodeAtLocation(
      root,
      steps.slice(0, depth).map((step) => (/^\d+$/.test(step) ? Number(step) : step)),
    );
    if (!found) break;
    best = found;
  }
  return best.offset;
}

export function lineOf(text: string, offset: number): number {
  return text.slice(0, offset).split('\n').length;
}
