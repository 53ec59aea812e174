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
  /** What it would do, shown on the bench while it is the one in view in the finder. */
  calls?: () => Call | Call[];
}

/** Whether a key press is one of these. `Ctrl` is also the ⌘ key. */
export function matchesKey(event: KeyboardEvent, keys: string[]): boolean {
  return keys.some((combination) => {
    const words = combination.split(' ');
    const key = words.at(-1)!;
    const wantsShift = words.includes('Shift');
    const wantsCtrl = words.includes('Ctrl');
    if ((event.ctrlKey || event.metaKey) !== wantsCtrl || event.altKey) return false;
    if (key.length === 1 && /[a-z]/i.test(key)) return event.key.toLowerCase() === key.toLowerCase() && event.shiftKey === wantsShift;
    return event.key === (key === 'Space' ? ' ' : key === 'Esc' ? 'Escape' : key);
  });
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
