import { ThemeProvider } from '@mui/material/styles';
import { createElement, Fragment, type ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { fieldPaths, type Rulebook } from '@itchkit/core/rulebook';
import { allRulebooks } from '../rulebooks';
import { theme } from '../theme/theme';
import { bookletSections } from './booklet-sections';

const themed = (...content: ReactNode[]) => createElement(ThemeProvider, { theme }, ...content);
const pages = (rulebook: Rulebook) =>
  renderToStaticMarkup(themed(...bookletSections(rulebook).map(({ id, content }) => createElement(Fragment, { key: id }, content))))
    .replace(/<style[^>]*>[^<]*<\/style>/g, '')
    .replace(/<[^>]+>/g, ' ')
    .replace(/&#x27;/g, "'")
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

/** Everything that is written somewhere in a value. */
function* written(value: unknown): Generator<string> {
  if (typeof value === 'object' && value !== null) for (const one of Object.values(value)) yield* written(one);
  else if (typeof value === 'string' && value !== '') yield value;
}

const HEAD = ['format', 'id', 'version', 'title', 'summary'];

test.each(allRulebooks().map((rulebook) => [rulebook.id, rulebook] as const))('the booklet of %s tells of every field', (_, rulebook) => {
  const text = pages(rulebook).toLowerCase();
  // A media type is told by its last word.
  const told = (word: string) => text.includes(word.slice(word.indexOf('/') + 1).toLowerCase());
  for (const path of fieldPaths().filter((one) => !HEAD.includes(one))) {
    const value = path.split('.').reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], rulebook);
    const words = [...written(value)];
    if (words.length > 0) expect([path, words.some(told)]).toEqual([path, true]);
  }
});

test('what a later version of rulebooks says is shown too, as it stands', () => {
  const [rulebook] = allRulebooks();
  const later = { ...rulebook, moorings: [{ name: 'quay north' }] } as Rulebook;
  expect(pages(later)).toContain('quay north');
  expect(pages(rulebook)).not.toContain('moorings');
});
