import { customType, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex } from 'drizzle-orm/pg-core';
import type { FieldChange, Kit } from '@itchkit/core/document';
import type { GradeCounts, OwedByStage, Rulebook } from '@itchkit/core/rulebook';
import type { Manifest } from '@itchkit/core/ship';

const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value.buffer, value.byteOffset, value.byteLength),
  fromDriver: (value) => new Uint8Array(value),
});

export const kits = pgTable('kits', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  document: jsonb('document').$type<Kit>().notNull(),
  revision: integer('revision').notNull(),
  /** What the checks say of the revision named beside it; worked out by the page that has the kit open. */
  counts: jsonb('counts').$type<GradeCounts>(),
  /** The same for every target, by stage. */
  owed: jsonb('owed').$type<Record<string, OwedByStage>>(),
  countsRevision: integer('counts_revision'),
  thumbnail: bytea('thumbnail'),
  thumbnailRevision: integer('thumbnail_revision'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  changedAt: timestamp('changed_at', { withTimezone: true }).notNull().defaultNow(),
  deletedAt: timestamp('deleted_at', { withTimezone: true }),
});

/** Changes that did not fit, kept beside the revision that they were to go on. */
export interface RevisionNote {
  title: string;
  /** What was kept of them, as it can be downloaded. */
  changes: FieldChange[];
  at: string;
}

export const revisions = pgTable(
  'revisions',
  {
    kit: text('kit')
      .notNull()
      .references(() => kits.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    document: jsonb('document').$type<Kit>().notNull(),
    cause: text('cause').notNull(),
    /** The save's own, made in the page: the same save told twice is one revision. */
    key: text('key'),
    /** Given by a person: a revision with a name stays. */
    name: text('name'),
    notes: jsonb('notes').$type<RevisionNote[]>(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.kit, table.number] }),
    uniqueIndex('revisions_key').on(table.kit, table.key),
    index('revisions_at').on(table.at),
  ],
);

/** From which to which revision of a kit a blob is needed; up to now where there is no last one. */
export const blobUses = pgTable(
  'blob_uses',
  {
    kit: text('kit')
      .notNull()
      .references(() => kits.id, { onDelete: 'cascade' }),
    sha: text('sha').notNull(),
    first: integer('first').notNull(),
    last: integer('last'),
  },
  (table) => [primaryKey({ columns: [table.kit, table.sha, table.first] }), index('blob_uses_sha').on(table.sha)],
);

/** Windows that have a kit open. */
export const windows = pgTable(
  'windows',
  {
    kit: text('kit')
      .notNull()
      .references(() => kits.id, { onDelete: 'cascade' }),
    window: text('window').notNull(),
    name: text('name').notNull(),
    seenAt: timestamp('seen_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.kit, table.window] })],
);

/** What a person chose for the whole shelf. */
export const settings = pgTable('settings', {
  name: text('name').primaryKey(),
  value: jsonb('value').notNull(),
});

export const blobs = pgTable('blobs', {
  sha: text('sha').primaryKey(),
  bytes: bytea('bytes').notNull(),
  size: integer('size').notNull(),
  storedAt: timestamp('stored_at', { withTimezone: true }).notNull().defaultNow(),
});

export const packages = pgTable(
  'packages',
  {
    id: text('id').primaryKey(),
    kit: text('kit')
      .notNull()
      .references(() => kits.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    rulebook: text('rulebook').notNull(),
    version: text('version').notNull(),
    fileName: text('file_name').notNull(),
    sha: text('sha').notNull(),
    size: integer('size').notNull(),
    manifest: jsonb('manifest').$type<Manifest>().notNull(),
    bytes: bytea('bytes').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('packages_kit').on(table.kit, table.at)],
);

/** People's own rulebooks, each version as it was saved. */
export const rulebooks = pgTable(
  'rulebooks',
  {
    id: text('id').notNull(),
    version: text('version').notNull(),
    document: jsonb('document').$type<Rulebook>().notNull(),
    savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.id, table.version] })],
);
