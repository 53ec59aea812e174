import type { FieldChange } from '@itchkit/core/document';

/** One step of undo: what it changed, field by field, and what takes that back. */
export interface Step {
  title: string;
  changes: FieldChange[];
  inverse: FieldChange[];
}

/** Changes that go to the server as one save. */
export interface Batch {
  /** Its own for good: the server does a save once, however often it is told. */
  key: string;
  /** The revision that they were made on. */
  base: number;
  title: string;
  changes: FieldChange[];
}
