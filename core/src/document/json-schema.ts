import type Joi from 'joi';

/** A schema as the validation library tells of it (`describe`). */
interface Described extends Joi.Description {
  keys?: Record<string, Described>;
  items?: Described[];
  allow?: unknown[];
  flags?: { presence?: string; only?: boolean };
  rules?: { name: string; args?: Record<string, unknown> }[];
  whens?: { then?: Described; otherwise?: Described }[];
  patterns?: { regex?: string; schema?: Described; rule: Described }[];
  matches?: { schema?: Described; switch?: { then?: Described }[]; then?: Described; otherwise?: Described }[];
}

export type Json = Record<string, unknown>;

const keysOf = (one: Described | undefined): Record<string, Described> => one?.keys ?? {};

const limit = (one: Described, name: string): unknown => {
  const args = one.rules?.find((rule) => rule.name === name)?.args;
  const value = args?.limit ?? args?.regex;
  // What stands elsewhere in the document can't be told by a JSON Schema.
  return typeof value === 'object' ? undefined : value;
};

/** What each field means, by its path. */
export type FieldWords = Readonly<Record<string, string>>;

/**
 * A schema as a JSON Schema (draft 7); what that can't say is checked besides. In Node alone: in a page the validation library does not
 * tell of itself.
 */
export const jsonSchemaOf = (schema: Joi.Schema, fieldWords: FieldWords = {}): Json =>
  toJson(schema.describe() as Described, '', fieldWords);

function toJson(one: Described, path: string, fieldWords: FieldWords): Json {
  const words = fieldWords[path];
  const out: Json = words === undefined ? {} : { description: words };
  const values = one.allow ?? [];
  if (one.flags?.only) return { ...out, ...(values.length === 1 ? { const: values[0] } : { enum: values }) };
  // A field that is asked for only beside some value of another: when it is, is left to the reader.
  const [when] = one.whens ?? [];
  if (one.type === 'any') return when?.then ? { ...out, ...toJson(when.then, path, fieldWords) } : out;
  if (one.type === 'alternatives') {
    const ways = (one.matches ?? []).flatMap((match) => [
      match.schema,
      match.then,
      match.otherwise,
      ...(match.switch ?? []).map(({ then }) => then),
    ]);
    return { ...out, anyOf: ways.filter((way) => way !== undefined).map((way) => toJson(way, path, fieldWords)) };
  }
  if (one.type === 'boolean') return { ...out, type: 'boolean' };
  const set = (key: string, value: unknown) => value !== undefined && (out[key] = value);
  const has = (name: string) => one.rules?.some((rule) => rule.name === name) ?? false;
  if (one.type === 'object') {
    const keys = Object.entries(keysOf(one));
    const needed = keys.filter(([, inner]) => inner.flags?.presence === 'required').map(([key]) => key);
    Object.assign(out, { type: 'object', additionalProperties: false });
    if (needed.length > 0) out.required = needed;
    const [pattern] = one.patterns ?? [];
    if (pattern) out.additionalProperties = toJson(pattern.rule, `${path}.*`, fieldWords);
    if (keys.length > 0)
      out.properties = Object.fromEntries(
        keys.map(([key, inner]) => [key, toJson(inner, path === '' ? key : `${path}.${key}`, fieldWords)]),
      );
  } else if (one.type === 'array') {
    out.type = 'array';
    const items = one.items?.[0];
    if (items) out.items = toJson(items, `${path}[]`, fieldWords);
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
  if (values.includes(null) && typeof out.type === 'string') out.type = [out.type, 'null'];
  return out;
}
