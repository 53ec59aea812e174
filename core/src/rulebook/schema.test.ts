import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv from 'ajv';
import { SHIPPED } from '../tests/sound-kits';
import { CHECKS } from './checks';
import { FIELD_WORDS } from './fields';
import { fieldPaths, fieldTable } from './field-order';
import { rulebookJsonSchema } from './json-schema';
import { rulebookText } from './rulebook-text';
import { checkRulebook, RulebookError } from './schema';

const docs = join(__dirname, '../../../docs');
const byJsonSchema = new Ajv().compile(JSON.parse(readFileSync(join(docs, 'rulebook.schema.json'), 'utf8')) as object);

type Json = Record<string, unknown>;
const books = Object.values(SHIPPED) as unknown as Json[];

/** Every way to take one field out of a value, or to make it a wrong one. */
function* spoilt(value: unknown, path: string[] = []): Generator<string[]> {
  if (typeof value !== 'object' || value === null) return;
  const entries = Array.isArray(value) ? value.slice(0, 2).map((one, i) => [String(i), one] as const) : Object.entries(value);
  for (const [key, one] of entries) {
    yield [...path, key];
    yield* spoilt(one, [...path, key]);
  }
}

function edit(book: Json, path: string[], change: (holder: Json, key: string) => void): Json {
  const copy = structuredClone(book);
  const holder = path.slice(0, -1).reduce((at, key) => at[key] as Json, copy);
  change(holder, path.at(-1)!);
  return copy;
}

const taken = (value: unknown): boolean => {
  try {
    checkRulebook(value);
    return true;
  } catch (error) {
    expect(error).toBeInstanceOf(RulebookError);
    return false;
  }
};

test('the JSON Schema takes what ships', () => {
  for (const book of books) expect([book.id, byJsonSchema(book), byJsonSchema.errors]).toEqual([book.id, true, null]);
});

test('whatever the JSON Schema refuses, the reader refuses too', () => {
  let refused = 0;
  for (const book of books) {
    for (const path of spoilt(book)) {
      for (const value of [undefined, null, 'Ä ', -7, {}, []]) {
        const wrong = edit(book, path, (holder, key) => {
          if (value === undefined && !Array.isArray(holder)) delete holder[key];
          else if (value !== undefined) holder[key] = value;
        });
        if (byJsonSchema(wrong)) continue;
        refused++;
        expect([path.join('.'), value, taken(wrong)]).toEqual([path.join('.'), value, false]);
      }
    }
  }
  expect(refused).toBeGreaterThan(1000);
}, 120_000);

test('a rulebook that does not hold together is refused with its field', () => {
  const { brinework, plotwick } = SHIPPED;
  const [pattern] = brinework.naming.patterns;
  const withPattern = (fields: Partial<typeof pattern>) => ({
    ...brinework,
    naming: { ...brinework.naming, patterns: [{ ...pattern, ...fields }] },
  });
  const cases: [unknown, string, RegExp][] = [
    [{ ...brinework, variables: [{ ...brinework.variables[0], min: 5, max: 1 }] }, 'variables.0.max', /greater/],
    [withPattern({ examples: ['Base!'] }), 'naming.patterns.0.examples.0', /Base!/],
    [withPattern({ pattern: '^(a+)+$', examples: ['a'] }), 'naming.patterns.0.pattern', /exponential time/],
    [withPattern({ pattern: '(a', examples: ['a'] }), 'naming.patterns.0.pattern', /never closed/],
    [{ ...brinework, rules: [{ id: 'a', check: 'no.such', grade: 'stop', why: 'x' }] }, 'rules.0.check', /no\.such/],
    [{ ...brinework, rules: [{ id: 'a', check: 'budgets.triangles', grade: 'stop', why: 'x' }] }, 'rules.0.limit', /needs a limit/],
    [{ ...brinework, rules: [{ id: 'a', check: 'skin.skeleton', grade: 'stop', why: 'x' }] }, 'rules.0.check', /needs a skeleton/],
    [{ ...brinework, hierarchy: { drivenOrder: ['crane_slew_angle', 'moon'] } }, 'hierarchy.drivenOrder.1', /moon/],
    [{ ...plotwick, packaging: [{ path: '../{kit}.glb', holds: 'model' }] }, 'packaging.0.path', /no path/],
    [{ ...plotwick, packaging: [{ path: 'clips.glb', holds: 'clip' }] }, 'packaging.0.path', /\{clip\}/],
    [{ ...plotwick, skeleton: [{ name: 'hips', parent: 'ground', needed: true }] }, 'skeleton.0.parent', /ground/],
  ];
  for (const [value, where, message] of cases) {
    expect(() => checkRulebook(value)).toThrow(message);
    try {
      checkRulebook(value);
    } catch (error) {
      expect((error as RulebookError).where).toBe(where);
    }
  }
});

test('every check is told of in docs/rulebooks.md', () => {
  const text = readFileSync(join(docs, 'rulebooks.md'), 'utf8');
  expect([...CHECKS.keys()].filter((id) => !text.includes(`\`${id}\``))).toEqual([]);
});

test('fields, their JSON Schema and the table of them are one description', () => {
  expect(fieldPaths().filter((path) => FIELD_WORDS[path] === undefined)).toEqual([]);
  expect(Object.keys(FIELD_WORDS).filter((path) => !fieldPaths().includes(path))).toEqual([]);
  // `npm run docs` writes them.
  expect(JSON.parse(readFileSync(join(docs, 'rulebook.schema.json'), 'utf8'))).toEqual(rulebookJsonSchema());
  expect(readFileSync(join(docs, 'rulebooks.md'), 'utf8')).toContain(fieldTable());
});

test('a rulebook is written with every field in the order of the schema, whatever order it came in', () => {
  const order = (value: unknown): string[] =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.entries(value).flatMap(([key, one]) => [key, ...order(one).map((inner) => `${key}.${inner}`)])
      : [];
  const paths = fieldPaths();
  for (const book of Object.values(SHIPPED)) {
    const shuffled = JSON.parse(JSON.stringify(book), (_, value: unknown) =>
      typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).reverse()) : value,
    ) as typeof book;
    const text = rulebookText(shuffled);
    expect(JSON.parse(text)).toEqual(book);
    const written = order(JSON.parse(text)).filter((path) => paths.includes(path));
    expect(written).toEqual(paths.filter((path) => written.includes(path)));
  }
});
