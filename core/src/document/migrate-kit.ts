import { KitFormatError } from './check-kit';
import { KIT_FORMAT } from './kit';

type Document = Record<string, unknown>;

/** What makes a document of one version one of the next. */
export interface Migration {
  from: string;
  to: string;
  /** @param kit A copy; it may be written to. */
  migrate(kit: Document): Document;
}

/** Every version that was ever written, in order: a new one adds the way from the last. Each has a fixture in `tests/kits/`. */
const MIGRATIONS: readonly Migration[] = [];

/**
 * Brings a document of an older version to this one. What it holds is looked at by `checkKit` afterwards.
 *
 * @throws {KitFormatError} where it is of no version that is known here
 */
export function migrateKit(value: unknown, migrations = MIGRATIONS, latest: string = KIT_FORMAT): unknown {
  let kit = value as Document | null;
  for (;;) {
    const format = kit?.format;
    if (format === latest) return kit;
    const next = migrations.find(({ from }) => from === format);
    if (!next) throw new KitFormatError(format);
    kit = { ...next.migrate(structuredClone(kit!)), format: next.to };
  }
}
