import type { Pending } from './pending';

/** Changes that are not on the server yet, kept in the browser so that a closed page or an ended server loses none. */
export class Journal {
  private readonly key: string;

  constructor(kit: string) {
    this.key = `itch-kit/unsaved/${kit}`;
  }

  read(): Pending[] {
    try {
      return JSON.parse(localStorage.getItem(this.key) ?? '[]') as Pending[];
    } catch {
      return [];
    }
  }

  write(pending: Pending[]): void {
    try {
      if (pending.length === 0) localStorage.removeItem(this.key);
      else localStorage.setItem(this.key, JSON.stringify(pending));
    } catch {
      // A full browser store: the change is still in the page and on its way to the server.
    }
  }
}
