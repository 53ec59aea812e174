import { json } from '@codemirror/lang-json';
import { StreamLanguage, type StreamParser } from '@codemirror/language';
import type { Extension } from '@codemirror/state';

/** What a text is: JSON, a formula of time or of a variable, or a table with a row a line. */
export type CodeLanguage = 'json' | 'formula' | 'table';

const NUMBER = /[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?/i;

const FORMULA: StreamParser<unknown> = {
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/(\d+\.?\d*|\.\d+)(e[-+]?\d+)?/i)) return 'number';
    if (stream.match(/[A-Za-z_]\w*(?=\s*\()/)) return 'keyword';
    if (stream.match(/[A-Za-z_]\w*/)) return 'propertyName';
    stream.next();
    return 'punctuation';
  },
};

const TABLE: StreamParser<unknown> = {
  token(stream) {
    if (stream.sol() && stream.match(/\s*#.*/)) return 'comment';
    if (stream.match(/[\t,;|]/)) return 'punctuation';
    if (stream.match(NUMBER)) return 'number';
    if (stream.match(/[^\t,;|\d.+-]+/)) return stream.current().trim() === '' ? null : 'propertyName';
    stream.next();
    return null;
  },
};

/** How each is read for its colours, folds and brackets. */
export function languageOf(language: CodeLanguage): Extension {
  if (language === 'json') return json();
  return StreamLanguage.define(language === 'formula' ? FORMULA : TABLE);
}
