import type { SpaceOptions } from './convert';

/** What the command line is asked to do with one file. */
export type Job =
  | { verb: 'inspect'; file: string }
  | { verb: 'convert'; file: string; out: string; space: SpaceOptions }
  | { verb: 'check'; file: string; target: string }
  | { verb: 'mend'; file: string; target: string; out: string }
  | { verb: 'pack'; file: string; target: string; out: string }
  | { verb: 'wire'; file: string; target: string; bindings?: string; behaviour?: string; out: string }
  | { verb: 'behaviour'; file: string; target?: string }
  | { verb: 'trial'; file: string; duty?: string; visitors?: number; minutes?: number }
  | { verb: 'weights'; file: string; out: string; resolution?: number }
  | { verb: 'formats' }
  | { verb: 'rulebooks' };

export interface Refused {
  file: string;
  ok: false;
  error: { code: string; message: string; where: string | null };
}

/** What came of a job. */
export interface Answer {
  /** For `--json`. */
  result: unknown;
  /** The same in words, for people. */
  text: string;
  exitCode: 0 | 1 | 2;
  /** Whether the words belong on stderr: it was asked for wrongly, or a file could not be written. */
  misused?: boolean;
}

/** Something stops the file for the platform. */
export const STOPS = 1;
/** Refused, or misused. */
export const FAILED = 2;

export function refusedAnswer(file: string, error: Refused['error']): Answer {
  const result: Refused = { file, ok: false, error };
  return { result, text: `${file}\n  Refused (${error.code}): ${error.message}\n`, exitCode: FAILED };
}
