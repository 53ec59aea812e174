import { IntakeError } from './intake-error';

/** Parts that a kit can have: more stand in the way of every list and every step. */
export const MAX_PARTS = 20_000;

/** Refuses a file for its many parts. @param what What the format calls them. */
export function tooManyParts(fileName: string, found: string, what = 'nodes'): IntakeError {
  return new IntakeError(
    'too-large',
    `“${fileName}” has ${found} ${what}; ${MAX_PARTS.toLocaleString('en')} can be taken in. Join or drop some first.`,
    what,
  );
}

/** The same where they were not counted to the end. */
export const moreThanMost = (fileName: string, what = 'nodes'): IntakeError =>
  tooManyParts(fileName, `more than ${MAX_PARTS.toLocaleString('en')}`, what);
