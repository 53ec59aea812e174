import MiniSearch from 'minisearch';
import { SYNONYMS } from './synonyms';

/** Something that can be found. */
export interface Found {
  id: string;
  title: string;
  /** Where it is: a stage, a section. */
  group: string;
  words?: string;
}

const plain = (text: string) =>
  ` ${text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;

/** What else a title is looked for by: all words of every group of which one stands in it. */
function alsoCalled(title: string): string {
  const text = plain(title);
  return SYNONYMS.filter((group) => group.some((word) => text.includes(plain(word)) || text.includes(` ${word.toLowerCase()}s `)))
    .flat()
    .join(' ');
}

/** Words that say nothing of what is looked for. */
const LITTLE = new Set([
  'a',
  'an',
  'the',
  'of',
  'to',
  'my',
  'i',
  'do',
  'how',
  'is',
  'it',
  'on',
  'in',
  'for',
  'with',
  'and',
  'want',
  'make',
  'set',
  'this',
]);

const words = (text: string) => plain(text).trim().split(' ');

/**
 * Finds by words in any order, parts of words, small slips and what else the trade calls things.
 *
 * @param recent Ids of what was done last, the latest first: of what fits as well they come before others.
 */
export class Finder<T extends Found> {
  private readonly index = new MiniSearch<T>({
    fields: ['title', 'words', 'also', 'group'],
    extractField: (entry, name) =>
      name === 'also' ? alsoCalled(`${entry.title} ${entry.words ?? ''}`) : String(entry[name as keyof T] ?? ''),
    tokenize: words,
    searchOptions: {
      boost: { title: 6, words: 2.5, also: 1.5, group: 0.7 },
      prefix: (term) => term.length > 1,
      fuzzy: (term) => (term.length > 3 ? 0.25 : false),
      weights: { prefix: 0.6, fuzzy: 0.4 },
    },
  });
  private readonly byId: Map<string, T>;

  constructor(private readonly entries: readonly T[]) {
    this.byId = new Map(entries.map((entry) => [entry.id, entry]));
    this.index.addAll([...this.byId.values()]);
  }

  find(text: string, recent: readonly string[] = []): T[] {
    const late = new Map(recent.map((id, i) => [id, i]));
    if (text.trim() === '') {
      const first = recent.flatMap((id) => this.byId.get(id) ?? []);
      return [...first, ...this.entries.filter(({ id }) => !late.has(id))];
    }
    const asked = words(text);
    const telling = asked.filter((word) => !LITTLE.has(word));
    const query = (telling.length > 0 ? telling : asked).join(' ');
    const boostDocument = (id: string) => (late.has(id) ? 3 : 1);
    // What has every word comes first, what has some of them after it.
    const every = this.index.search(query, { combineWith: 'AND', boostDocument });
    const found = new Set([...every, ...this.index.search(query, { combineWith: 'OR', boostDocument })].map(({ id }) => id as string));
    return [...found].map((id) => this.byId.get(id)!);
  }
}
