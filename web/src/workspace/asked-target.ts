import { remember, remembered } from '../panels/remembered';

/** Kits that are new here, and of which nobody has said yet what platform they are for. */
const MOST = 200;

/** A kit has just been taken in: what it is for is asked when it is opened. */
export const askLater = (kits: readonly string[]) => remember('to-ask', [...kits, ...remembered<string[]>('to-ask', [])].slice(0, MOST));

export const isToAsk = (kit: string): boolean => remembered<string[]>('to-ask', []).includes(kit);

/** It was answered: a rulebook, or that it is decided later. */
export function answered(kit: string, rulebook: string | null): void {
  remember(
    'to-ask',
    remembered<string[]>('to-ask', []).filter((one) => one !== kit),
  );
  if (rulebook !== null) remember('last-target', rulebook);
}

/** The rulebook that was chosen last; null where none was. */
export const lastTarget = (): string | null => remembered<string | null>('last-target', null);
