import type { ReadingNote } from '../document';

/** A note of a format that leaves unit and axes open. */
export function unitNotSaid(format: string): ReadingNote {
  return {
    grade: 'note',
    code: 'unit-not-said',
    message: `${format} does not say its unit or its axes. They are taken as metres, +y up, +z forward until you settle them.`,
    part: null,
  };
}
