import type { Id, Table } from '../values';
import type { Difference } from './section';

/** Whether two values are the same when written as JSON. */
export const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** What is new, gone or changed in a table. @param say What is different in a record that is in both; nothing said is “changed”. */
export function compareRecords<T extends { id: Id }>(
  before: Readonly<Table<T>> | readonly T[],
  after: Readonly<Table<T>> | readonly T[],
  where: (one: T) => string,
  say: (a: T, b: T) => string[] = () => [],
): Difference[] {
  const [had, has] = [before, after].map((list) => new Map(Object.values(list).map((one: T) => [one.id, one])));
  const differences: Difference[] = [];
  for (const [id, a] of had) {
    const b = has.get(id);
    if (!b) differences.push({ where: where(a), what: 'gone' });
    else {
      const what = say(a, b).join(', ') || (same(a, b) ? null : 'changed');
      if (what !== null) differences.push({ where: where(b), what });
    }
  }
  for (const [id, b] of has) if (!had.has(id)) differences.push({ where: where(b), what: 'added' });
  return differences;
}

/** What is different of a field, if anything. */
export function said<T>(a: T, b: T, what: string): string[] {
  return same(a, b) ? [] : [what];
}
