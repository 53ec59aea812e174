import { nanoid } from 'nanoid';

const OWN = 'itch-kit/window';
const NAME = 'itch-kit/window-name';

/** What windows are called until a person says otherwise: what is seen from the quay at Tallow Point. */
const NAMES = [
  'Heron',
  'Tern',
  'Curlew',
  'Plover',
  'Cormorant',
  'Gannet',
  'Petrel',
  'Avocet',
  'Dunlin',
  'Sandpiper',
  'Turnstone',
  'Wigeon',
];

const leaseOf = (window: string) => `itch-kit/window/${window}`;

/**
 * Holds a lock for as long as the page lives, so that others can tell that it does. Where the browser has no locks every window is taken
 * to be the only one.
 *
 * @returns Whether it was free.
 */
async function hold(name: string): Promise<boolean> {
  if (!globalThis.navigator?.locks) return true;
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock === null ? undefined : new Promise(() => undefined);
    });
  });
}

/** Whether a window is gone. Then it is ours from now on: no other page gets its lease. */
export const takeLease = (window: string): Promise<boolean> => hold(leaseOf(window));

/** Whether a window is gone, with its lease left free. */
export async function isGone(window: string): Promise<boolean> {
  if (!globalThis.navigator?.locks) return true;
  const { held } = await navigator.locks.query();
  return !held!.some(({ name }) => name === leaseOf(window));
}

let own: Promise<string> | null = null;

/** The id of this window, with its lease. It outlives a reload; a window that was doubled with its store gets one of its own. */
export function ownWindow(): Promise<string> {
  own ??= (async () => {
    const known = sessionStorage.getItem(OWN);
    if (known !== null && (await hold(leaseOf(known)))) return known;
    const made = nanoid(12);
    await hold(leaseOf(made));
    sessionStorage.setItem(OWN, made);
    return made;
  })();
  return own;
}

/** For tests: the page is another one from here on. */
export function forgetWindow(): void {
  own = null;
}

/** What others see this window by: what its person chose, or a bird by the window's id. */
export function windowName(window: string): string {
  const chosen = localStorage.getItem(NAME);
  if (chosen) return chosen;
  let sum = 0;
  for (const letter of window) sum = (sum * 31 + letter.charCodeAt(0)) >>> 0;
  return NAMES[sum % NAMES.length];
}

/** Empty gives the bird back. */
export function chooseWindowName(name: string): void {
  if (name.trim() === '') localStorage.removeItem(NAME);
  else localStorage.setItem(NAME, name.trim().slice(0, 40));
}
