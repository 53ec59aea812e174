import type { Kit } from './kit';
import { SECTION_LIST, TABLES } from './sections';
import type { SectionName } from './sections/section';

type Row = Record<string, unknown>;

/** What makes one state of a kit the next: records that changed, ids that went, and what stands outside of tables. */
export interface KitDelta {
  tables: Partial<Record<SectionName, { set: Row; gone: string[] }>>;
  others: Row;
  /** Fields outside of tables that went. */
  dropped: string[];
}

const OTHERS = ['format', ...SECTION_LIST.filter(({ kind }) => kind !== 'table').map(({ name }) => name)] as const;

/** Compares by identity, as immer keeps it: what was not touched costs nothing to send. */
export function deltaOf(before: Kit | null, after: Kit): KitDelta {
  const delta: KitDelta = { tables: {}, others: {}, dropped: [] };
  for (const table of TABLES) {
    if (before?.[table] === after[table]) continue;
    const old = (before?.[table] ?? {}) as Row;
    const now = after[table] as unknown as Row;
    delta.tables[table] = {
      set: Object.fromEntries(Object.entries(now).filter(([id, row]) => old[id] !== row)),
      gone: Object.keys(old).filter((id) => !(id in now)),
    };
  }
  for (const key of OTHERS) {
    if (!(key in after)) {
      if (before && key in before) delta.dropped.push(key);
    } else if (before?.[key] !== after[key]) delta.others[key] = after[key];
  }
  return delta;
}

/** The next state; records that the delta does not name stay the very same. */
export function applyDelta(before: Kit | null, { tables, others, dropped }: KitDelta): Kit {
  const next = { ...before, ...others } as Row;
  for (const key of dropped) delete next[key];
  for (const table of TABLES) {
    const delta = tables[table];
    if (!delta) continue;
    const rows = { ...(before?.[table] as Row | undefined), ...delta.set };
    for (const id of delta.gone) delete rows[id];
    next[table] = rows;
  }
  return next as unknown as Kit;
}
