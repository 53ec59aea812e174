import Joi from 'joi';
import { jsonSchemaOf, SECTION_LIST, spaceSchema, KitError, type Json, type ManifestSections, type Space, type Target } from '../document';

/** What `format` says in a package's manifest of this version. */
export const PACKAGE_FORMAT = 'itchkit.package/1';

/**
 * What stands in `manifest.json` at the root of a package: a head, what each section of the document says, and a report. All numbers are in
 * the platform's space.
 */
export interface Manifest extends ManifestSections {
  format: typeof PACKAGE_FORMAT;
  kit: string;
  target: Target;
  space: Space;
  files: { path: string; holds: string; bytes: number; sha256: string }[];
  /** What the checks said; `aside` is the reason with which a person set it aside. */
  report: { check: string; grade: string; message: string; parts: string[]; aside?: string }[];
}

/** Sections that the manifest says something of. */
export const MANIFEST_SECTIONS = SECTION_LIST.flatMap(({ name, pack: { manifest } }) => (manifest ? [{ name, ...manifest }] : []));

const schema = Joi.object({
  format: Joi.valid(PACKAGE_FORMAT).required(),
  kit: Joi.string().required(),
  target: Joi.object({ rulebook: Joi.string().required(), version: Joi.string().required() }).required(),
  space: spaceSchema.required(),
  files: Joi.array()
    .items(
      Joi.object({
        path: Joi.string().required(),
        holds: Joi.string().required(),
        bytes: Joi.number().required(),
        sha256: Joi.string().length(64).required(),
      }),
    )
    .required(),
  ...Object.fromEntries(MANIFEST_SECTIONS.map((section) => [section.name, section.schema])),
  report: Joi.array().required(),
});

/** The same as a JSON Schema, for docs/package.schema.json. In Node alone. */
export const packageJsonSchema = (): Json => ({
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'manifest.json of an Itch Kit package',
  ...jsonSchemaOf(schema),
});

/** A manifest that does not fit its format. */
export class ManifestError extends KitError {
  constructor(detail: string, where: string | null = null) {
    super('manifest', `The package's manifest does not fit “${PACKAGE_FORMAT}”: ${detail}. Build the package again.`, where);
  }
}

/** A value as a manifest, or a {@link ManifestError}. */
export function checkManifest(value: unknown): Manifest {
  const { error } = schema.validate(value, { convert: false });
  if (error) throw new ManifestError(error.message, error.details[0].path.join('.'));
  return value as Manifest;
}
