import { countGrades, MemoryBlobs, readFile, runChecks } from '@itchkit/core';
import { RULEBOOKS } from '../rulebooks';
import { storeBlobs } from './blob-store';
import type { Database } from './database';
import { createKit } from './kit-store';

/** Reads a file into a new kit for the first rulebook. @throws {IntakeError} where the file is refused; nothing is kept then */
export async function takeInFile(db: Database, bytes: Uint8Array, fileName: string): Promise<string> {
  const blobs = new MemoryBlobs();
  const kit = await readFile(bytes, fileName, blobs);
  const rulebook = RULEBOOKS[0];
  kit.targets = [{ rulebook: rulebook.id, version: rulebook.version }];
  const counts = countGrades(runChecks({ kit, rulebook, blobs }));
  await storeBlobs(db, blobs.entries());
  return createKit(db, kit, `taken in from “${fileName}”`, counts);
}
