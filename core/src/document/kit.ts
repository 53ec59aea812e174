/** What `format` says in a document of this version. */
export const KIT_FORMAT = 'itchkit.kit/1';

/**
 * The kit document: plain JSON, small enough to patch and diff. Arrays live outside it as blobs named by SHA-256.
 *
 * Canonical space: metres, +Y up, +Z forward, right-handed (glTF 2.0, section 3.4).
 *
 * Its fields are the sections: each file of `sections/` adds the one that it is about.
 */
export interface Kit {
  format: typeof KIT_FORMAT;
}

/** What `manifest.json` says of the sections, in the platform's space: each file of `sections/` that says something adds it. */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type
export interface ManifestSections {}
