import { useState, type ChangeEvent, type KeyboardEvent } from 'react';

interface DraftOptions {
  /** Takes what was typed, where it differs. */
  take: (text: string) => void;
  /** Hears what is typed while it is typed; null once it was taken or let go. */
  onDraft?: (text: string | null) => void;
}

/**
 * Text of the kit in a field: Enter or leaving the field takes what was typed, Esc lets go of it. While nothing is typed that was not
 * taken, the field shows the kit's (`data-taken`), and undo is the kit's.
 */
export function useDraft(value: string, { take, onDraft }: DraftOptions) {
  const [draft, setDraft] = useState<string | null>(null);
  const type = (text: string | null) => {
    setDraft(text);
    onDraft?.(text);
  };
  const commit = () => {
    type(null);
    if (draft !== null && draft !== value) take(draft);
  };
  return {
    draft,
    /** For the input itself. */
    taken: { 'data-taken': draft === null },
    field: {
      value: draft ?? value,
      onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => type(event.target.value),
      onBlur: commit,
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === 'Enter') commit();
        else if (event.key === 'Escape' && draft !== null) {
          event.stopPropagation();
          type(null);
        }
      },
    },
  };
}
