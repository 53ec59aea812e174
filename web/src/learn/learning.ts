import { api } from '../api';
import { remember, remembered } from '../panels/remembered';

/** The kit that somebody learns by in this browser. */
export interface Learning {
  kit: string;
  /** Whether its lines are shown; they can be left and taken up. */
  on: boolean;
}

const listeners = new Set<() => void>();

// The same object as long as nothing is different, as React wants it.
let known: { text: string; learning: Learning | null } = { text: '', learning: null };

export function learning(): Learning | null {
  const now = remembered<Learning | null>('learning', null);
  const text = JSON.stringify(now);
  if (text !== known.text) known = { text, learning: now };
  return known.learning;
}

export function setLearning(next: Learning | null): void {
  remember('learning', next);
  for (const listener of listeners) listener();
}

export function onLearning(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The kit to go on with, or a new one where there is none on the shelf any more; with its lines shown. Gives its id. */
export async function takeUpLearning(): Promise<string> {
  const before = learning();
  const there = before && (await api.listKits()).some(({ id }) => id === before.kit);
  const kit = there ? before.kit : (await api.learnKit()).id;
  setLearning({ kit, on: true });
  return kit;
}
