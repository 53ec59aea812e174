import { EditorState } from '@codemirror/state';
import { syntaxTree } from '@codemirror/language';
import { languageOf, type CodeLanguage } from './code-languages';
import { wrongLine, wrongOf } from './code-editor-props';

test('what is wrong on a line is marked along that line, and nowhere else', () => {
  const text = 'a, 1\nbad, x\nc, 3';
  const { from, to } = wrongLine(text, 2, 'no');
  expect(text.slice(from, to)).toBe('bad, x');
  expect(text.slice(...placesOf(wrongLine(text, 99, 'no')))).toBe('c, 3');
  expect(wrongLine('', 1, 'no')).toEqual({ from: 0, to: 0, message: 'no' });
});

const placesOf = ({ from, to }: { from: number; to: number }): [number, number] => [from, to];

test('an error that names its line is marked there; one that names none, on the first', () => {
  const text = 'one\ntwo\nthree';
  expect(text.slice(...placesOf(wrongOf(text, { message: '', where: 'line 3' })))).toBe('three');
  expect(text.slice(...placesOf(wrongOf(text, { message: '', where: 'part' })))).toBe('one');
});

/** Kinds of the words of a text, in order. */
function kindsIn(language: CodeLanguage, text: string): string[] {
  const out: string[] = [];
  syntaxTree(EditorState.create({ doc: text, extensions: [languageOf(language)] })).iterate({
    enter: ({ name, from, to }) => {
      if (name !== 'Document') out.push(`${name} ${text.slice(from, to)}`);
    },
  });
  return out;
}

test('a formula’s functions, names and numbers are told apart', () => {
  expect(kindsIn('formula', '0.1 * sin(tau * u)')).toEqual([
    'number 0.1',
    'punctuation *',
    'keyword sin',
    'punctuation (',
    'propertyName tau',
    'punctuation *',
    'propertyName u',
    'punctuation )',
  ]);
});

test('a table’s cells are read as numbers with their units, words and remarks', () => {
  const kinds = kindsIn('table', '# rows\n-10\t0.5 rad');
  expect(kinds[0]).toBe('comment # rows');
  expect(kinds.filter((kind) => kind.startsWith('number'))).toEqual(['number -10', 'number 0.5']);
  expect(kinds.some((kind) => kind.includes('rad'))).toBe(true);
});
