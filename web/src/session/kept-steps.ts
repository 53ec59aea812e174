import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Step } from './pending';

/** Steps of undo and redo of one window on one kit. */
export interface Steps {
  undo: Step[];
  redo: Step[];
}

interface Stores extends DBSchema {
  steps: { key: [kit: string, window: string]; value: Steps & { kit: string; window: string; at: number } };
}

/** The latest steps are kept, up to this many, and up to so many characters of them. */
const MOST_STEPS = 200;
const MOST_TEXT = 4_000_000;
/** Milliseconds. */
const WRITE_AFTER = 300;
const KEPT_FOR = 7 * 86_400_000;

let database: Promise<IDBPDatabase<Stores>> | null = null;

function open(): Promise<IDBPDatabase<Stores>> {
  database ??= openDB<Stores>('itch-kit-steps', 1, {
    upgrade: (db) => void db.createObjectStore('steps', { keyPath: ['kit', 'window'] }),
    terminated: () => (database = null),
  });
  return database;
}

/** For tests: the page is another one from here on. */
export function forgetSteps(): void {
  database = null;
}

/** Keeps steps in the browser, so that what was done can be taken back after the page was loaded again. */
export class KeptSteps {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private latest: Steps | null = null;
  private writing: Promise<void> = Promise.resolve();

  constructor(
    private readonly kit: string,
    private readonly window: string,
  ) {}

  /** What this window kept before it was loaded again. What windows left long ago goes. */
  async load(): Promise<Steps> {
    try {
      const db = await open();
      for (const { kit, window, at } of await db.getAll('steps')) if (Date.now() - at > KEPT_FOR) void db.delete('steps', [kit, window]);
      const { undo = [], redo = [] } = (await db.get('steps', [this.kit, this.window])) ?? {};
      return { undo, redo };
    } catch {
      return { undo: [], redo: [] };
    }
  }

  /** Writes them down a little later: of many changes at once the last. */
  keep(steps: Steps): void {
    this.latest = steps;
    this.timer ??= setTimeout(() => void this.flush(), WRITE_AFTER);
  }

  /** Writes down what waits. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    const steps = this.latest;
    this.latest = null;
    if (steps) this.writing = this.writing.then(() => this.write(steps));
    return this.writing;
  }

  private async write({ undo, redo }: Steps): Promise<void> {
    try {
      const kept = { undo: latestOf(undo), redo: latestOf(redo) };
      await (await open()).put('steps', { kit: this.kit, window: this.window, at: Date.now(), ...kept });
    } catch {
      // They are in the page all the same.
    }
  }
}

/** The last steps that fit; one before a step that does not could not be made without it. */
function latestOf(steps: readonly Step[]): Step[] {
  let text = 0;
  let first = steps.length;
  while (first > 0 && steps.length - first < MOST_STEPS) {
    text += JSON.stringify(steps[first - 1]).length;
    if (text > MOST_TEXT) break;
    first--;
  }
  return steps.slice(first);
}

const SHA = /[0-9a-f]{64}/g;

/** Names of data blocks that steps may bring back. */
export function blobsOfSteps({ undo, redo }: Steps): Set<string> {
  return new Set(JSON.stringify([undo, redo]).match(SHA) ?? []);
}
