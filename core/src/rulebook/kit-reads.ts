import { SECTION_LIST, type Kit, type SectionName } from '../document';

/** Fields of the records of a kit's tables: reading one of them is noted by table and field; an id never changes. */
const FIELDS = new Map(
  SECTION_LIST.filter(({ kind }) => kind === 'table').map(({ name, fields }) => [
    name,
    fields.map((field) => ({ name: field, noted: field !== 'id' })),
  ]),
);
/** What a kit has besides its tables: lists are read as a whole, what has fields is noted by field. */
const OTHERS = ['format', ...SECTION_LIST.filter(({ kind }) => kind !== 'table').map(({ name }) => name)] as const;
const TABLES = [...FIELDS.keys()];
type Table = SectionName;
type Row = Record<string, unknown>;

/**
 * A kit as its readers see it: the same records, with every field that is read noted in `reads`. Records are kept while theirs of the
 * document stay the same.
 */
export class KitReads {
  /** Where what is read is noted just now. */
  reads = new Set<string>();
  readonly view: Kit;

  private kit: Kit | null = null;
  private readonly makers: Record<Table, (row: Row) => Row>;
  private tables = {} as Record<Table, Row>;
  private others: Row = {};
  private readonly made = new WeakMap<object, Row>();

  constructor() {
    this.makers = Object.fromEntries(TABLES.map((table) => [table, this.maker(table)])) as Record<Table, (row: Row) => Row>;
    const view = {} as Kit;
    for (const table of TABLES) {
      Object.defineProperty(view, table, {
        enumerable: true,
        get: () => {
          this.reads.add(table);
          return this.tables[table];
        },
      });
    }
    for (const other of OTHERS) {
      Object.defineProperty(view, other, {
        enumerable: true,
        get: () => {
          this.reads.add(other);
          return this.others[other];
        },
      });
    }
    this.view = view;
  }

  /** Takes the next state of the kit. Gives what changed, in the words of `reads`. */
  take(kit: Kit): Set<string> {
    const before = this.kit;
    const changed = new Set<string>();
    for (const other of OTHERS) if (before?.[other] !== kit[other]) this.takeOther(other, before?.[other], kit[other], changed);
    for (const table of TABLES)
      if (before?.[table] !== kit[table]) this.takeTable(table, (before?.[table] ?? {}) as Row, kit[table] as unknown as Row, changed);
    this.kit = kit;
    return changed;
  }

  private takeOther(other: string, before: unknown, after: unknown, changed: Set<string>): void {
    if (!isRow(after)) {
      changed.add(other);
      this.others[other] = after;
      return;
    }
    const view: Row = {};
    const key = (field: string) => `${other}.${field}`;
    for (const field of Object.keys(after))
      Object.defineProperty(view, field, {
        enumerable: true,
        get: () => {
          this.reads.add(key(field));
          return (this.kit![other as keyof Kit] as unknown as Row)[field];
        },
      });
    this.others[other] = view;
    // Another set of fields is seen by whoever has looked at it at all.
    if (!isRow(before) || Object.keys({ ...before, ...after }).some((field) => field in before !== field in after)) changed.add(other);
    else for (const field in after) if (before[field] !== after[field]) changed.add(key(field));
  }

  private takeTable(table: Table, before: Row, after: Row, changed: Set<string>): void {
    const next: Row = {};
    for (const id in after) {
      const row = after[id] as Row;
      const old = before[id] as Row | undefined;
      let view = this.made.get(row);
      if (!view) this.made.set(row, (view = this.makers[table](row)));
      next[id] = view;
      if (old === row) continue;
      if (old === undefined) changed.add(table);
      else for (const { name } of FIELDS.get(table)!) if (old[name] !== row[name]) changed.add(`${table}.${name}`);
    }
    for (const id in before) if (!(id in after)) changed.add(table);
    // Another order of the same ids is no change; a table that was emptied and filled is one by its ids.
    this.tables[table] = next;
  }

  /** Makes a record's view: getters on a prototype of the table's own. */
  private maker(table: Table): (row: Row) => Row {
    // The record itself is no enumerable field: going over a view's fields gives those of the record.
    class View {
      readonly #row: Row;
      constructor(row: Row) {
        this.#row = row;
      }
      static read(view: View, name: string): unknown {
        return view.#row[name];
      }
    }
    // The same field is read again and again: the last one noted needs no second look at the set.
    let noted: string | null = null;
    let where: Set<string> | null = null;
    const note = (key: string) => {
      if (noted === key && where === this.reads) return;
      noted = key;
      where = this.reads;
      this.reads.add(key);
    };
    for (const { name, noted: isNoted } of FIELDS.get(table)!) {
      const key = `${table}.${name}`;
      Object.defineProperty(View.prototype, name, {
        enumerable: true,
        get(this: View) {
          if (isNoted) note(key);
          return View.read(this, name);
        },
      });
    }
    return (row) => new View(row) as unknown as Row;
  }
}

const isRow = (value: unknown): value is Row =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;
