import { countGrades, runChecks } from '@itchkit/core/rulebook';
import { MemoryBlobs } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { newestOf } from '../rulebooks';
import type { Database } from './database';
import { createKit, onceUnder } from './kit-store';
import { storeKept } from './take-in';

/** Platform and file that the seven tasks are written for. */
const PLATFORM = 'brinework';
const FILE = 'sluice-crane.glb';

/**
 * Puts the raw crane on the shelf once more, as it came from its file, to learn by.
 *
 * @param id The new kit's: told twice, it is there once.
 */
export async function learnKit(db: Database, id?: string): Promise<string> {
  return onceUnder(db, id, async () => {
    const { buildSluiceCraneGlb } = await import('@itchkit/demo');
    const rulebook = newestOf(PLATFORM)!;
    const blobs = new MemoryBlobs();
    const kit = await readFile(await buildSluiceCraneGlb(), FILE, blobs);
    kit.name = 'Sluice crane, to learn by';
    kit.targets = [{ rulebook: rulebook.id, version: rulebook.version }];
    await storeKept(db, kit, [...blobs.entries()]);
    return createKit(db, kit, 'a crane to learn by', { counts: countGrades(runChecks({ kit, rulebook, blobs })), id });
  });
}
