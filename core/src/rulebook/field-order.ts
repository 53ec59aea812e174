import type Joi from 'joi';
import { FIELD_WORDS, rulebookSchema } from './fields';

/** What a schema is made of, as the validation library keeps it for those who extend it. */
interface Terms {
  keys?: { key: string; schema: Joi.Schema }[];
  items?: Joi.Schema[];
}

const termsOf = (schema: Joi.Schema | undefined): Terms => (schema as unknown as { $_terms?: Terms } | undefined)?.$_terms ?? {};
const keysOf = (schema: Joi.Schema | undefined) => termsOf(schema).keys ?? [];

/** Paths of the fields of a rulebook, and of those within fields that are no lists: `naming`, `naming.root`, … */
export function fieldPaths(): string[] {
  return keysOf(rulebookSchema).flatMap(({ key, schema }) => {
    // Space and unit are told of as a whole.
    const own = key === 'space' || key === 'unit' ? [] : keysOf(schema);
    return [key, ...own.map((inner) => `${key}.${inner.key}`)];
  });
}

/** A value with the fields of every object in the order of the schema; what it does not know comes last. */
export function inFieldOrder(value: unknown, schema: Joi.Schema | undefined = rulebookSchema): unknown {
  if (Array.isArray(value)) return value.map((one) => inFieldOrder(one, termsOf(schema).items?.[0]));
  if (typeof value !== 'object' || value === null) return value;
  const known = new Map(keysOf(schema).map((one, place) => [one.key, { place, schema: one.schema }]));
  const place = (key: string) => known.get(key)?.place ?? known.size;
  const entries = Object.entries(value).sort(([a], [b]) => place(a) - place(b));
  return Object.fromEntries(entries.map(([key, one]) => [key, known.has(key) ? inFieldOrder(one, known.get(key)!.schema) : one]));
}

/** The table of fields for docs/rulebooks.md. */
export function fieldTable(): string {
  const rows = fieldPaths().map((path) => `| \`${path}\` | ${FIELD_WORDS[path]} |`);
  return ['| field | what it says |', '| --- | --- |', ...rows].join('\n');
}
