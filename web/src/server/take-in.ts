import { keptBlobsOf, type Kit, type Sha } from '@itchkit/core';
import { RULEBOOKS } from '../rulebooks';
import { storeBlobs } from './blob-store';
import type { Database } from './database';
import { createKit } from './kit-store';
import { readInWorker } from './reading';

/** Reads a file into a new kit for the first rulebook. @throws {IntakeError} where the file is refused; nothing is kept then */
export async function takeInFile(db: Database, bytes: Uint8Array, fileName: string): Promise<string> {
  const { kit, blobs, counts } = await readInWorker(bytes, fileName, RULEBOOKS[0]);
  await storeKept(db, kit, blobs);
  return createKit(db, kit, `taken in from “${fileName}”`, counts);
}

/** Stores of the blobs those that the kit needs, its source among them. */
export async function storeKept(db: Database, kit: Kit, blobs: [Sha, Uint8Array][]): Promise<void> {
  const kept = keptBlobsOf(kit);
  await storeBlobs(
    db,
    blobs.filter(([sha]) => kept.has(sha)),
  );
}
