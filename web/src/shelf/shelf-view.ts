import type { ShelfKit } from '../api';
import { newestOf } from '../rulebooks';

/** Ways to order the shelf. */
export const ORDERS = { changed: 'Changed last', name: 'By name', owed: 'Most owed' } as const;
export type Order = keyof typeof ORDERS;

const weight = ({ counts }: ShelfKit) => (counts ? 1_000_000 * counts.stop + 1000 * counts.warn + counts.note : -1);
const byName = (a: ShelfKit, b: ShelfKit) => a.name.localeCompare(b.name, 'en', { numeric: true });

const COMPARE: Record<Order, (a: ShelfKit, b: ShelfKit) => number> = {
  changed: (a, b) => Date.parse(b.changedAt) - Date.parse(a.changedAt),
  name: byName,
  owed: (a, b) => weight(b) - weight(a) || byName(a, b),
};

/** Kits in whose name or platform every word stands, in an order. */
export function shelfView(kits: readonly ShelfKit[], search: string, order: Order): ShelfKit[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const textOf = ({ name, targets }: ShelfKit) =>
    [name, ...targets.map(({ rulebook }) => newestOf(rulebook)?.title ?? rulebook)].join(' ').toLowerCase();
  return kits
    .filter((kit) => {
      const text = textOf(kit);
      return words.every((word) => text.includes(word));
    })
    .sort(COMPARE[order]);
}
