import { parentPort } from 'node:worker_threads';
import { KitError, MemoryBlobs, type Kit, type Sha } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { countGrades, runChecks, type GradeCounts, type Rulebook } from '@itchkit/core/rulebook';
import { equipNode } from '@itchkit/core/node';

export interface ReadRequest {
  bytes: Uint8Array;
  fileName: string;
  /** SHA-256 of the bytes, worked out while they came in. */
  sha: Sha | null;
  /** What the kit is checked against; its counts come back. */
  rulebook: Rulebook | null;
}

export type ReadAnswer =
  | { ok: true; kit: Kit; blobs: [Sha, Uint8Array][]; counts: GradeCounts | null }
  | { ok: false; code: string; message: string; where: string | null };

/** Reads one file after the other in a thread of its own, so that a bad one harms nothing but itself. */
equipNode();
parentPort?.on('message', (request: ReadRequest) => {
  answer(request).then(
    (result) => parentPort!.postMessage(result, buffersOf(result)),
    (error: unknown) => {
      // What is no refusal is a fault of ours; the thread dies of it, and its starter says so.
      setImmediate(() => {
        throw error;
      });
    },
  );
});

async function answer({ bytes, fileName, sha, rulebook }: ReadRequest): Promise<ReadAnswer> {
  try {
    const blobs = new MemoryBlobs();
    if (sha !== null) blobs.putNamed(sha, bytes);
    const kit = await readFile(bytes, fileName, blobs);
    if (rulebook) kit.targets = [{ rulebook: rulebook.id, version: rulebook.version }];
    return { ok: true, kit, blobs: [...blobs.entries()], counts: rulebook && countGrades(runChecks({ kit, rulebook, blobs })) };
  } catch (error) {
    if (error instanceof KitError) return { ok: false, code: error.code, message: error.message, where: error.where };
    throw error;
  }
}

function buffersOf(result: ReadAnswer): ArrayBuffer[] {
  return result.ok ? [...new Set(result.blobs.map(([, bytes]) => bytes.buffer as ArrayBuffer))] : [];
}
