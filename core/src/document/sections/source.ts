import Joi from 'joi';
import type { Sha } from '../blobs';
import { countSchema, shaSchema, spaceSchema } from '../schemas';
import type { Space } from '../values';
import { said } from './compare';
import { nothing, type Section } from './section';

export interface ReadingNote {
  grade: 'note' | 'warn';
  code: string;
  message: string;
  part: string | null;
}

/** What was taken in, and what the file said of itself. */
export interface Source {
  fileName: string;
  format: string;
  bytes: number;
  sha: Sha;
  generator: string | null;
  /** The space the numbers of the file are taken to be in. */
  space: Space;
  /** Whether a person has settled unit and axes. */
  settled: boolean;
  notes: ReadingNote[];
  /** Counts as read, before any change; joints and morph targets are not in kits of older versions. */
  counts: {
    parts: number;
    meshes: number;
    triangles: number;
    vertices: number;
    materials: number;
    images: number;
    skins: number;
    clips: number;
    joints?: number;
    morphTargets?: number;
  };
}

declare module '../kit' {
  interface Kit {
    source: Source | null;
  }
}

const note = Joi.object({
  grade: Joi.valid('note', 'warn').required(),
  code: Joi.string().required(),
  message: Joi.string().required(),
  part: Joi.string().allow('', null).required(),
});

/** The file that the kit was read from, and how it was understood. */
export const sourceSection: Section<'source'> = {
  kind: 'value',
  merges: 'records',
  schema: Joi.object({
    fileName: Joi.string().allow('').max(400).required(),
    format: Joi.string().max(20).required(),
    bytes: countSchema.required(),
    sha: shaSchema.required(),
    generator: Joi.string().allow('').max(400).allow(null).required(),
    space: spaceSchema.required(),
    settled: Joi.boolean().required(),
    notes: Joi.array().items(note).required(),
    counts: Joi.object().pattern(Joi.string(), countSchema).required(),
  }).allow(null),
  fields: [],
  sound: nothing,
  references: nothing,
  // The file itself is kept beside the document, and needed for nothing but a new version: see `keptBlobsOf`.
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  // It says what the file said.
  conform: nothing,
  compare: (before, after) => said(before.source?.sha, after.source?.sha, 'another file').map((what) => ({ where: 'The source', what })),
  pack: {
    model: false,
    manifest: null,
    leftOut: ({ source }) => (source ? [{ what: source.fileName, why: 'the source as it came; kept with the kit' }] : []),
  },
  newVersion: { from: 'file' },
};
