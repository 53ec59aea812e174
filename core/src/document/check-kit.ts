import Joi from 'joi';
import { KitError } from './errors';
import { jsonSchemaOf, type Json } from './json-schema';
import { KIT_FORMAT, type Kit } from './kit';
import { idSchema } from './schemas';
import { recordsOf, SECTION_LIST } from './sections';
import type { AnySection, References, Refuse } from './sections/section';

/** A document of another format than this version reads and writes. */
export class KitFormatError extends KitError {
  constructor(format: unknown) {
    super(
      'kit-format',
      `This kit says it is “${String(format)}”; this version reads “${KIT_FORMAT}”. Open it with the version that wrote it.`,
      'format',
    );
  }
}

/** A document that would not hold together: what is wrong, and the path of where. */
export class KitSchemaError extends KitError {
  constructor(message: string, where: string) {
    super('kit-schema', `The kit would not hold together: ${message}. The change was not kept.`, where);
  }
}

const refuse: Refuse = (what, where) => {
  throw new KitSchemaError(what, where);
};

const schemaOf = ({ kind, schema }: AnySection): Joi.Schema => {
  if (kind === 'table') return Joi.object().pattern(idSchema, schema).required();
  return kind === 'value' ? schema.required() : schema;
};

const kitSchema = Joi.object({
  format: Joi.valid(KIT_FORMAT).required(),
  ...Object.fromEntries(SECTION_LIST.map((section) => [section.name, schemaOf(section)])),
}).required();

/** The JSON Schema of a kit's document. In Node alone, as `jsonSchemaOf`. */
export const kitJsonSchema = (): Json => ({
  $schema: 'http://json-schema.org/draft-07/schema#',
  $id: KIT_FORMAT,
  title: 'A kit of Itch Kit',
  ...jsonSchemaOf(kitSchema),
  description: 'docs/formats.md says what each section means. References, units and arrays are checked besides.',
});

/**
 * Checks that a value is a whole kit: every field of its type, every record sound in itself, and every reference to something that is
 * there.
 *
 * @throws {KitFormatError} where it is of another format or version
 * @throws {KitSchemaError} naming the first place that does not fit
 */
export function checkKit(value: unknown): Kit {
  const format = (value as { format?: unknown } | null)?.format;
  if (format !== KIT_FORMAT) throw new KitFormatError(format);
  const { error } = kitSchema.validate(value, { convert: false });
  if (error) refuse(error.message, error.details[0].path.join('.'));
  const kit = value as Kit;
  for (const section of SECTION_LIST) {
    if (section.kind === 'table') checkIds(section, kit);
    for (const one of recordsOf(kit, section)) section.sound(one, refuse);
  }
  checkReferences(kit);
  return kit;
}

/**
 * The same for a kit that was made out of one that holds together: what is the same record as before needs no second look in itself, and
 * references are looked at everywhere, since what they point at may have gone. Costs what was touched, and a walk over the references.
 *
 * @throws {KitSchemaError} naming the first place that does not fit
 */
export function checkTouched(before: Kit, after: Kit): void {
  for (const section of SECTION_LIST) {
    const [was, is] = [before[section.name], after[section.name]] as unknown[];
    if (was === is) continue;
    if (section.kind === 'table') {
      const old = was as Record<string, unknown>;
      checkIds(section, after);
      for (const [id, one] of Object.entries(is as object)) if (old[id] !== one) checkOne(section, one, `${section.name}.${id}`);
    } else if (is !== undefined || section.kind === 'value') checkOne(section, is, section.name);
  }
  checkReferences(after);
}

function checkOne(section: AnySection, one: unknown, where: string): void {
  const { error } = section.schema.validate(one, { convert: false });
  if (error) refuse(error.message, [where, ...error.details[0].path].join('.'));
  if (one !== null) section.sound(one, refuse);
}

/** A record stands under its own id. */
function checkIds({ name }: AnySection, kit: Kit): void {
  for (const [id, one] of Object.entries(kit[name] as unknown as Record<string, { id: string }>))
    if (one.id !== id) refuse(`a record under “${id}” that says it is “${one.id}”`, `${name}.${id}`);
}

function checkReferences(kit: Kit): void {
  const references: References = {
    kit,
    refuse,
    hung: new Set(),
    need(table, id, where) {
      if (id !== null && !Object.hasOwn(table, id)) refuse(`${where} points at something that is not in the kit`, where);
    },
  };
  for (const section of SECTION_LIST) for (const one of recordsOf(kit, section)) section.references(one, references);
}
