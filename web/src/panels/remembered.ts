/** What this browser remembers of how it is worked with; lost without harm. Kits are never kept so. */
export function remembered<T>(name: string, otherwise: T): T {
  try {
    const kept = localStorage.getItem(`itch-kit/${name}`);
    return kept === null ? otherwise : (JSON.parse(kept) as T);
  } catch {
    return otherwise;
  }
}

export function remember(name: string, value: unknown): void {
  try {
    localStorage.setItem(`itch-kit/${name}`, JSON.stringify(value));
  } catch {
    // A browser without a store forgets.
  }
}
