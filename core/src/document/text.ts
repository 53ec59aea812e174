import { KitError } from './errors';

/** Text that no database and no file format takes: a NUL, or half of a surrogate pair. */
export class TextError extends KitError {
  constructor(where: string) {
    super('text', 'A text holds a character that can’t be kept (a NUL, or half of a character). Take it out and try again.', where);
  }
}

const NUL = '\u0000';
const LONE = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/** Whether a text can be kept as it is. */
export const isKeepable = (text: string): boolean => !text.includes(NUL) && text.search(LONE) < 0;

/** The same text without what can't be kept. */
export const keepable = (text: string): string => text.replaceAll(NUL, '').replace(LONE, '');

/** Looks at every text in plain data, names of fields too. @throws {TextError} with the path of the first that can't be kept */
export function mustBeKeepable(value: unknown, where = ''): void {
  if (typeof value === 'string') {
    if (!isKeepable(value)) throw new TextError(where);
  } else if (Array.isArray(value)) {
    if (typeof value[0] !== 'number') value.forEach((one, i) => mustBeKeepable(one, `${where}.${i}`));
  } else if (typeof value === 'object' && value !== null && !ArrayBuffer.isView(value)) {
    for (const [name, one] of Object.entries(value)) {
      if (!isKeepable(name)) throw new TextError(where);
      mustBeKeepable(one, where === '' ? name : `${where}.${name}`);
    }
  }
}

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** A text cut to at most so many UTF-16 units, at the end of a character as people see it. */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text;
  let end = 0;
  // A few more units than are kept, so that the character at the cut is seen whole.
  for (const { index, segment } of graphemes.segment(text.slice(0, most + 64))) {
    if (index + segment.length > most) break;
    end = index + segment.length;
  }
  return text.slice(0, end);
}
