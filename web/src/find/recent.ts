const STORE = 'itch-kit/found';
const MOST = 8;

/** Ids of what was done by the finder last, the latest first. */
export function recentlyFound(): string[] {
  try {
    return JSON.parse(localStorage.getItem(STORE) ?? '[]') as string[];
  } catch {
    return [];
  }
}

export function rememberFound(id: string): void {
  try {
    localStorage.setItem(STORE, JSON.stringify([id, ...recentlyFound().filter((one) => one !== id)].slice(0, MOST)));
  } catch {
    // A browser without a store forgets.
  }
}
