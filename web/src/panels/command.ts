import { matchKeyBindingPress, type KeyBindingPress } from 'tinykeys';
import type { Call } from '@itchkit/core/document';

/** Something that can be done by key, or found by name. */
export interface Command {
  id: string;
  title: string;
  group: string;
  /** As written in the list of keys, such as `Ctrl Z` or `Shift F`; several are alternatives. */
  keys: string[];
  /** Why it can't be done just now, or null. */
  blocked?: string | null;
  run: () => void;
  /** Its keys are no text: they work in a field too. */
  whileTyping?: boolean;
  /** They work in a field, too, in which nothing is typed that the kit has not taken. */
  whileTaken?: boolean;
  /** What it would do, shown on the bench while it is the one in view in the finder. */
  calls?: () => Call | Call[];
}

const NAMES: Record<string, string> = { Esc: 'Escape' };

/** A combination as the key library writes it. `Ctrl` is also the ⌘ key; a sign is taken with Shift or without, as keyboards differ. */
function presses(combination: string): KeyBindingPress[] {
  const words = combination.split(' ');
  const key = NAMES[words.at(-1)!] ?? words.at(-1)!;
  const isSign = key.length === 1 && !/[a-z0-9]/i.test(key);
  const shifts = isSign ? [[], ['Shift']] : [words.includes('Shift') ? ['Shift'] : []];
  const controls = words.includes('Ctrl') ? [['Control'], ['Meta']] : [[]];
  return controls.flatMap((control) => shifts.map((shift): KeyBindingPress => [[...control, ...shift], key]));
}

/** Whether a key press is one of these. */
export function matchesKey(event: KeyboardEvent, keys: string[]): boolean {
  return keys.flatMap(presses).some((press) => matchKeyBindingPress(event, press));
}

/** Keys typed into a field are text. */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && !['checkbox', 'radio', 'button', 'range'].includes(target.type))
  );
}

/** Whether a field holds nothing but what the kit has taken. */
export const isTaken = (target: EventTarget | null): boolean => target instanceof HTMLElement && target.dataset.taken === 'true';
