import { ascending } from '../document';

/** JSON whose bytes do not depend on the order in which objects were filled: keys sorted, two spaces, a last line break. */
export function stableJson(value: unknown): string {
  return `${JSON.stringify(sorted(value), null, 2)}\n`;
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => ascending(a, b))
      .map(([key, inner]) => [key, sorted(inner)]),
  );
}
