import { customType, index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { Kit } from '@itchkit/core/document';
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

export const revisions = pgTable(
  'revisions',
  {
    kit: text('kit')
      .notNull()
      .references(() => kits.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    document: jsonb('document').$type<Kit>().notNull(),
    cause: text('cause').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.kit, table.number] })],
);

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
