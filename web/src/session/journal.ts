import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Sha } from '@itchkit/core/document';
import type { Batch } from './pending';
import { isGone, ownWindow, takeLease } from './window-name';

const FORMAT = 'itchkit.unsaved/2';

/** What a window has not brought to the server yet. */
interface Unsaved {
  format: typeof FORMAT;
  kit: string;
  window: string;
  /** Milliseconds since 1970 when it was last written: the order in which windows follow one another. */
  at: number;
  batches: Batch[];
}

/** Changes that could not be made again, kept until the server has them as a note of a revision. */
export interface SetAside {
  id: string;
  kit: string;
  revision: number;
  title: string;
  changes: Batch['changes'];
}

interface Stores extends DBSchema {
  unsaved: { key: [kit: string, window: string]; value: Unsaved };
  blobs: { key: [kit: string, window: string, sha: Sha]; value: Uint8Array };
  aside: { key: string; value: SetAside };
}

let database: Promise<IDBPDatabase<Stores>> | null = null;

function open(): Promise<IDBPDatabase<Stores>> {
  database ??= openDB<Stores>('itch-kit', 1, {
    upgrade(db) {
      db.createObjectStore('unsaved', { keyPath: ['kit', 'window'] });
      db.createObjectStore('blobs');
      db.createObjectStore('aside', { keyPath: 'id' });
    },
    terminated: () => (database = null),
  });
  return database;
}

/** For tests: the page is another one from here on. */
export function forgetJournal(): void {
  database = null;
}

const ofWindow = (kit: string, window: string) => IDBKeyRange.bound([kit, window, ''], [kit, window, '\uffff']);
const ofKit = (kit: string) => IDBKeyRange.bound([kit, ''], [kit, '\uffff']);

/** What was left, in the order in which it was made, with the data blocks that may not be on the server. */
export interface Left {
  batches: Batch[];
  blobs: [Sha, Uint8Array][];
}

/**
 * Changes of a kit that are not on the server yet, kept in the browser by window, so that a closed page or an ended server loses none, and
 * no window repeats what another one is about to save.
 */
export class Journal {
  private queue: Promise<void> = Promise.resolve();
  private readonly stored = new Set<Sha>();
  private waiting: { batches: Batch[]; blobs: [Sha, Uint8Array][] } | null = null;
  private empty = true;

  private constructor(
    private readonly kit: string,
    readonly window: string,
    private readonly onFull: (message: string) => void,
  ) {}

  /** @param onFull Called with a sentence when the browser keeps no more; work goes on, kept by the page alone. */
  static async open(kit: string, onFull: (message: string) => void): Promise<Journal> {
    return new Journal(kit, await ownWindow(), onFull);
  }

  /**
   * What this window left before it was loaded again, and what windows left that are gone. It is this window's from now on: each is handed
   * out once.
   */
  async take(): Promise<Left> {
    let db: IDBPDatabase<Stores>;
    try {
      db = await open();
    } catch {
      return { batches: [], blobs: [] };
    }
    const records = (await db.getAll('unsaved', ofKit(this.kit))).sort((a, b) => a.at - b.at);
    const mine: Unsaved[] = [];
    for (const record of records)
      if (record.format === FORMAT && (record.window === this.window || (await takeLease(record.window)))) mine.push(record);
    const batches = mine.flatMap((record) => record.batches);
    const transaction = db.transaction(['unsaved', 'blobs'], 'readwrite');
    const [unsaved, blobs] = [transaction.objectStore('unsaved'), transaction.objectStore('blobs')];
    const found: [Sha, Uint8Array][] = [];
    for (const { window } of mine) {
      const range = ofWindow(this.kit, window);
      const [keys, values] = await Promise.all([blobs.getAllKeys(range), blobs.getAll(range)]);
      for (const [i, [, , sha]] of keys.entries()) found.push([sha, values[i]]);
      if (window === this.window) continue;
      for (const [i, [, , sha]] of keys.entries()) void blobs.put(values[i], [this.kit, this.window, sha]);
      void blobs.delete(range);
      void unsaved.delete([this.kit, window]);
    }
    if (batches.length > 0) void unsaved.put(this.record(batches));
    await transaction.done;
    this.empty = batches.length === 0;
    for (const [sha] of found) this.stored.add(sha);
    return { batches, blobs: found };
  }

  private record(batches: Batch[]): Unsaved {
    return { format: FORMAT, kit: this.kit, window: this.window, at: Date.now(), batches };
  }

  /** Keeps what is not saved now, in place of what was kept before. @param blobs Those that the server may not have. */
  write(batches: Batch[], blobs: [Sha, Uint8Array][] = []): void {
    if (batches.length === 0 && this.empty && !this.waiting) return;
    const first = this.waiting === null;
    this.waiting = { batches, blobs };
    // Writes that come while one is under way are one.
    if (first) this.queue = this.queue.then(() => this.writeNow());
  }

  /** When all that was to be written is. */
  settled(): Promise<void> {
    return this.queue;
  }

  private async writeNow(): Promise<void> {
    const { batches, blobs } = this.waiting!;
    this.waiting = null;
    try {
      const db = await open();
      const transaction = db.transaction(['unsaved', 'blobs'], 'readwrite');
      const stores = [transaction.objectStore('unsaved'), transaction.objectStore('blobs')] as const;
      if (batches.length === 0) {
        void stores[0].delete([this.kit, this.window]);
        void stores[1].delete(ofWindow(this.kit, this.window));
      } else {
        void stores[0].put(this.record(batches));
        for (const [sha, bytes] of blobs) if (!this.stored.has(sha)) void stores[1].put(bytes, [this.kit, this.window, sha]);
      }
      await transaction.done;
      this.empty = batches.length === 0;
      if (this.empty) this.stored.clear();
      else for (const [sha] of blobs) this.stored.add(sha);
      await this.warnWhereFull();
    } catch {
      // The change is still in the page and on its way to the server.
      this.onFull('This browser keeps no more: what is not saved yet is in this page alone. Leave it open until it says “saved”.');
    }
  }

  private warned = false;

  /** Says it before it matters. */
  private async warnWhereFull(): Promise<void> {
    const { usage, quota } = (await globalThis.navigator?.storage?.estimate?.()) ?? {};
    if (this.warned || !usage || !quota || usage < 0.9 * quota) return;
    this.warned = true;
    this.onFull('This browser’s store is nearly full. Changes made while the server is away may not outlive this page.');
  }
}

/** Kits with changes of windows that are gone. */
export async function unsavedKits(): Promise<Set<string>> {
  const kits = new Set<string>();
  try {
    for (const { kit, window } of await (await open()).getAll('unsaved')) if (await isGone(window)) kits.add(kit);
  } catch {
    // A browser without a store keeps nothing.
  }
  return kits;
}

/** Keeps changes that could not be made again. */
export async function putAside(one: SetAside): Promise<void> {
  await (await open()).put('aside', one).catch(() => undefined);
}

/** What was set aside of a kit and is not on the server yet. */
export async function listAside(kit: string): Promise<SetAside[]> {
  try {
    return (await (await open()).getAll('aside')).filter((one) => one.kit === kit);
  } catch {
    return [];
  }
}

/** The server has it. */
export async function dropAside(id: string): Promise<void> {
  await (await open()).delete('aside', id).catch(() => undefined);
}
