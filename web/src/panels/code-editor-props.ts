import type { Ref } from 'react';
import type { CodeLanguage } from './code-languages';

/** Something that is wrong at a place of a text: characters from 0. */
export interface Wrong {
  from: number;
  to: number;
  message: string;
}

export interface CodeEditorProps {
  label: string;
  text: string;
  language: CodeLanguage;
  wrong?: Wrong | null;
  /** Hears every change; a text without is read-only. */
  onChange?: (text: string) => void;
  /** Hears the line, from 1, that the cursor goes to. */
  onLine?: (line: number) => void;
  /** Gives whoever holds it a way to a place of the text. */
  goTo?: Ref<(from: number, to: number) => void>;
  /** A line or a few, without numbers at their side. */
  small?: boolean;
  /** Whether long lines are broken; they are, unless it says no. */
  wraps?: boolean;
  /** What stands there while it is empty. */
  hint?: string;
  /** Whether it takes the keyboard as it appears. */
  focused?: boolean;
  sx?: object;
}

/** A whole line as a place of a text. @param line From 1; one that is not there is the last. */
export function wrongLine(text: string, line: number, message: string): Wrong {
  const lines = text.split('\n');
  const at = Math.min(Math.max(1, line), lines.length) - 1;
  const from = lines.slice(0, at).reduce((sum, one) => sum + one.length + 1, 0);
  return { from, to: from + lines[at].length, message };
}

/** What an error about a text says of its line (“line 3”), as a place in it; the first line where it names none. */
export function wrongOf(text: string, { message, where }: { message: string; where: string | null }): Wrong {
  return wrongLine(text, Number(/^line (\d+)$/.exec(where ?? '')?.[1] ?? 1), message);
}
