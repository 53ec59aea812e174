import { jsonSchemaOf, type Json } from '../document';
import { FIELD_WORDS, rulebookSchema } from './fields';

/**
 * The JSON Schema of a rulebook, made of the schema that reads it. In Node alone: in a page the validation library does not tell of
 * itself.
 */
export function rulebookJsonSchema(): Json {
  return {
    $schema: 'http://json-schema.org/draft-07/schema#',
    $id: 'itchkit.rulebook/1',
    title: 'A rulebook of Itch Kit',
    ...jsonSchemaOf(rulebookSchema, FIELD_WORDS),
    description: 'What one platform asks of a kit. docs/rulebooks.md says what each field means.',
  };
}
