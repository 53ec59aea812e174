import { nanoid } from 'nanoid';
import type { Pending } from './pending';

const FORMAT = 'itchkit.unsaved/1';
const OWN = 'itch-kit/window';

interface Entry {
  format: typeof FORMAT;
  pending: Pending[];
}

const keyOf = (kit: string, window: string) => `itch-kit/unsaved/${kit}/${window}`;
const leaseOf = (window: string) => `itch-kit/window/${window}`;

/**
 * Holds a lock for as long as the page lives, so that others can tell that it does. Where the browser has no locks every window is taken
 * to be the only one.
 *
 * @returns Whether it was free.
 */
async function lease(name: string): Promise<boolean> {
  if (!globalThis.navigator?.locks) return true;
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock === null ? undefined : new Promise(() => undefined);
    });
  });
}

let own: Promise<string> | null = null;

/** The name of this window, with its lease. It outlives a reload; a window that was doubled with its store gets one of its own. */
function ownWindow(): Promise<string> {
  own ??= (async () => {
    const known = sessionStorage.getItem(OWN);
    if (known !== null && (await lease(leaseOf(known)))) return known;
    const made = nanoid(12);
    await lease(leaseOf(made));
    sessionStorage.setItem(OWN, made);
    return made;
  })();
  return own;
}

/** For tests: the page is another one from here on. */
export function forgetWindow(): void {
  own = null;
}

/**
 * Changes of a kit that are not on the server yet, kept in the browser by window, so that a closed page or an ended server loses none, and
 * no window repeats what another one is about to save.
 */
export class Journal {
  private constructor(
    private readonly kit: string,
    private readonly window: string,
  ) {}

  static async open(kit: string): Promise<Journal> {
    return new Journal(kit, await ownWindow());
  }

  /** What this window left before it was loaded again, and what windows left that are gone: each is handed out once. */
  async take(): Promise<Pending[]> {
    const left = this.read(this.window);
    const prefix = keyOf(this.kit, '');
    const others = Object.keys(localStorage).filter((key) => key.startsWith(prefix) && key !== keyOf(this.kit, this.window));
    for (const key of others.sort()) {
      const other = key.slice(prefix.length);
      // A window that lives holds its lease, and saves by itself. One that is gone leaves it free, and we keep it from then on.
      if (!(await lease(leaseOf(other)))) continue;
      left.push(...this.read(other));
      this.write(left);
      localStorage.removeItem(key);
    }
    return left;
  }

  private read(window: string): Pending[] {
    try {
      const entry = JSON.parse(localStorage.getItem(keyOf(this.kit, window)) ?? 'null') as Entry | null;
      return entry?.format === FORMAT ? entry.pending : [];
    } catch {
      return [];
    }
  }

  write(pending: Pending[]): void {
    const key = keyOf(this.kit, this.window);
    try {
      if (pending.length === 0) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify({ format: FORMAT, pending } satisfies Entry));
    } catch {
      // A full browser store: the change is still in the page and on its way to the server.
    }
  }
}
