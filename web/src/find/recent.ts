import { remember, remembered } from '../panels/remembered';

const MOST = 8;

/** Ids of what was done by the finder last, the latest first. */
export const recentlyFound = (): string[] => remembered('found', []);

export function rememberFound(id: string): void {
  remember('found', [id, ...recentlyFound().filter((one) => one !== id)].slice(0, MOST));
}
