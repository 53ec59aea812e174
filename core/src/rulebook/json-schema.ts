import type Joi from 'joi';
import { FIELD_WORDS, rulebookSchema } from './fields';

/** A schema as the validation library tells of it (`describe`). */
interface Described extends Joi.Description {
  keys?: Record<string, Described>;
  items?: Described[];
  allow?: unknown[];
  flags?: { presence?: string; only?: boolean };
  rules?: { name: string; args?: Record<string, unknown> }[];
  whens?: { then?: Described }[];
}

type Json = Record<string, unknown>;

const described = rulebookSchema.describe() as Described;

/** The fields of what is described, in their order. */
export const keysOf = (one: Described | undefined): Record<string, Described> => one?.keys ?? {};

/** Paths of the fields of a rulebook, and of those within fields that are no lists: `naming`, `naming.root`, … */
export function fieldPaths(): string[] {
  return Object.entries(keysOf(described)).flatMap(([key, one]) => {
    // Space and unit are told of as a whole.
    const own = key === 'space' || key === 'unit' ? [] : Object.keys(keysOf(one));
    return [key, ...own.map((inner) => `${key}.${inner}`)];
  });
}

const limit = (one: Described, name: string): unknown => {
  const args = one.rules?.find((rule) => rule.name === name)?.args;
  const value = args?.limit ?? args?.regex;
  // What stands elsewhere in the document can't be told by a JSON Schema.
  return typeof value === 'object' ? undefined : value;
};

/** As a JSON Schema (draft 7); what a schema can't say is checked by `checkRulebook` besides. */
function toJson(one: Described, path: string): Json {
  const words = FIELD_WORDS[path];
  const out: Json = words === undefined ? {} : { description: words };
  const values = one.allow ?? [];
  if (one.flags?.only) return { ...out, ...(values.length === 1 ? { const: values[0] } : { enum: values }) };
  // A field that is asked for only beside some value of another: when it is, is left to the reader.
  const [when] = one.whens ?? [];
  if (one.type === 'any') return when?.then ? { ...out, ...toJson(when.then, path) } : out;
  if (one.type === 'boolean') return { ...out, type: 'boolean' };
  const set = (key: string, value: unknown) => value !== undefined && (out[key] = value);
  const has = (name: string) => one.rules?.some((rule) => rule.name === name) ?? false;
  if (one.type === 'object') {
    const keys = Object.entries(keysOf(one));
    const needed = keys.filter(([, inner]) => inner.flags?.presence === 'required').map(([key]) => key);
    Object.assign(out, { type: 'object', additionalProperties: false });
    if (needed.length > 0) out.required = needed;
    out.properties = Object.fromEntries(keys.map(([key, inner]) => [key, toJson(inner, path === '' ? key : `${path}.${key}`)]));
  } else if (one.type === 'array') {
    out.type = 'array';
    const items = one.items?.[0];
    if (items) out.items = toJson(items, `${path}[]`);
    const length = limit(one, 'length');
    set('minItems', length ?? limit(one, 'min'));
    set('maxItems', length ?? limit(one, 'max'));
    if (has('unique') && items?.type !== 'object') out.uniqueItems = true;
  } else if (one.type === 'number') {
    out.type = has('integer') ? 'integer' : 'number';
    set('minimum', limit(one, 'min'));
    set('maximum', limit(one, 'max'));
    set('exclusiveMinimum', one.rules?.some(({ name, args }) => name === 'sign' && args?.sign === 'positive') ? 0 : limit(one, 'greater'));
    set('exclusiveMaximum', limit(one, 'less'));
  } else {
    out.type = values.includes(null) ? ['string', 'null'] : 'string';
    const pattern = one.rules?.find(({ name }) => name === 'pattern')?.args?.regex;
    if (typeof pattern === 'string') out.pattern = pattern.slice(1, pattern.lastIndexOf('/'));
    const least = limit(one, 'min');
    set('minLength', least ?? (values.includes('') || out.pattern !== undefined ? undefined : 1));
    set('maxLength', limit(one, 'max'));
  }
  return out;
}

/** The JSON Schema of a rulebook, made of the schema that reads it. */
export function rulebookJsonSchema(): Json {
  return {
    $schema: 'http://json-schema.org/draft-07/schema#',
    $id: 'itchkit.rulebook/1',
    title: 'A rulebook of Itch Kit',
    ...toJson(described, ''),
    description: 'What one platform asks of a kit. docs/rulebooks.md says what each field means.',
  };
}

/** A value with the fields of every object in the order of the schema; what it does not know comes last. */
export function inFieldOrder(value: unknown, at: Described | undefined = described): unknown {
  if (Array.isArray(value)) return value.map((one) => inFieldOrder(one, at?.items?.[0]));
  if (typeof value !== 'object' || value === null) return value;
  const places = new Map(Object.keys(keysOf(at)).map((key, i) => [key, i]));
  const place = (key: string) => places.get(key) ?? places.size;
  const entries = Object.entries(value).sort(([a], [b]) => place(a) - place(b));
  return Object.fromEntries(entries.map(([key, one]) => [key, inFieldOrder(one, keysOf(at)[key])]));
}

/** The table of fields for docs/rulebooks.md. */
export function fieldTable(): string {
  const rows = fieldPaths().map((path) => `| \`${path}\` | ${FIELD_WORDS[path]} |`);
  return ['| field | what it says |', '| --- | --- |', ...rows].join('\n');
}
