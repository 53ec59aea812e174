import type { Blobs, Kit, Space } from '../../document';
import { CANONICAL } from '../../geometry';
import type { Companions } from '../companions';

/** All that there is to a file format. Readers take what they are given as it is; what a format leaves open is said here. */
export interface Format {
  /** As a kit's source names it. */
  id: string;
  /** In a list of formats. */
  short: string;
  title: string;
  /** Of file names, without a dot, lower case. */
  endings: readonly string[];
  /** What a file of it is beside a model: the model itself, or a motion that can be taken onto one. */
  holds: 'model' | 'motion';
  /** Whether a file of it may hold clips. */
  clips: boolean;
  /** Whether a row of numbered files is a set of mesh frames. */
  numbered: boolean;
  /** Endings of what comes with it, for those who choose files one by one. */
  beside: readonly string[];
  /** The space that its numbers are taken to be in. */
  space: Space;
  /** Whether it says its unit and axes itself, in its standard or in the file. */
  says: boolean;
  /** Told by its contents; the name only where contents leave it open. */
  isOne(bytes: Uint8Array, fileName: string): boolean;
  /** @throws {IntakeError} where it can't be read honestly */
  read(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions): Kit | Promise<Kit>;
}

/** Endings of pictures that may come with a model. */
export const PICTURES = ['png', 'jpg', 'jpeg', 'webp'] as const;

/** What most formats are: a model whose file says no unit, taken in metres, +y up, +z forward. */
export const PLAIN = {
  holds: 'model',
  clips: false,
  numbered: false,
  beside: [],
  space: CANONICAL,
  says: false,
} as const satisfies Partial<Format>;
