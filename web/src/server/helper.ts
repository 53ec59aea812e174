import { KitError, MemoryBlobs, type Kit, type Sha } from '@itchkit/core/document';
import { readFile } from '@itchkit/core/intake';
import { equipNode } from '@itchkit/core/node';
import { countGrades, runChecks, type GradeCounts, type Rulebook } from '@itchkit/core/rulebook';
import { takeIn } from '@itchkit/core/node/spilled-bytes';
import { packKit, readArchiveOf, writeArchive, type BuiltPackage, type KitArchive } from '@itchkit/core/ship';
import { spillAnswer } from './helper-answers';

/** A file to be read. */
interface ReadJob {
  job: 'read';
  bytes: Uint8Array;
  fileName: string;
  /** SHA-256 of the bytes, worked out while they came in. */
  sha: Sha | null;
  /** What the kit is checked against; its counts come back. */
  rulebook: Rulebook | null;
}

/** A kit to be packaged, with the blobs that it names. */
interface PackJob {
  job: 'pack';
  kit: Kit;
  rulebook: Rulebook;
  blobs: [Sha, Uint8Array][];
}

/** A kit to be written as an archive, with its blobs. */
interface ExportJob {
  job: 'export';
  archive: KitArchive;
  blobs: [Sha, Uint8Array][];
}

/** An archive to be read. */
interface ImportJob {
  job: 'import';
  bytes: Uint8Array;
  fileName: string;
}

export type Job = ReadJob | PackJob | ExportJob | ImportJob;

interface Results {
  read: { kit: Kit; blobs: [Sha, Uint8Array][]; counts: GradeCounts | null };
  /** None where stops are open. */
  export: { bytes: Uint8Array };
  import: { archive: KitArchive; blobs: [Sha, Uint8Array][] };
  pack: { stops: number; built: Pick<BuiltPackage, 'fileName' | 'sha' | 'bytes' | 'manifest'> | null };
}

export type Result<J extends Job['job']> = Results[J];
/** What a job made, or why it was refused. */
export type Answer = { ok: true; result: Results[keyof Results] } | { ok: false; code: string; message: string; where: string | null };

const JOBS: { readonly [J in Job['job']]: (job: Extract<Job, { job: J }>) => Promise<Results[J]> } = {
  async read({ bytes: sent, fileName, sha, rulebook }) {
    // It came as a view into the message.
    const bytes = sent.slice();
    const blobs = new MemoryBlobs();
    if (sha !== null) blobs.putNamed(sha, bytes);
    const kit = await readFile(bytes, fileName, blobs);
    return { kit, blobs: [...blobs.entries()], counts: rulebook && countGrades(runChecks({ kit, rulebook, blobs })) };
  },
  async pack({ kit, rulebook, blobs: entries }) {
    const blobs = blobsOfEntries(entries);
    const findings = runChecks({ kit, rulebook, blobs });
    const { stop: stops } = countGrades(findings);
    if (stops > 0) return { stops, built: null };
    const { fileName, sha, bytes, manifest } = await packKit(kit, rulebook, blobs, findings);
    return { stops, built: { fileName, sha, bytes, manifest } };
  },
  export: async ({ archive, blobs }) => ({ bytes: writeArchive(archive, blobsOfEntries(blobs)) }),
  async import({ bytes, fileName }) {
    const { archive, blobs } = readArchiveOf(bytes.slice(), fileName);
    return { archive, blobs: [...blobs.entries()] };
  },
};

function blobsOfEntries(entries: [Sha, Uint8Array][]): MemoryBlobs {
  const blobs = new MemoryBlobs();
  for (const [sha, bytes] of entries) blobs.load(sha, bytes);
  return blobs;
}

async function answer(job: Job): Promise<Answer> {
  try {
    return { ok: true, result: await (JOBS[job.job] as (of: Job) => Promise<Results[keyof Results]>)(job) };
  } catch (error) {
    if (error instanceof KitError) return { ok: false, code: error.code, message: error.message, where: error.where };
    throw error;
  }
}

/** One heavy thing after the other in a process of its own: the one that answers people never waits, and a bad file harms nothing. */
equipNode();
process.on('message', (job: Job) => {
  takeIn(job)
    .then(answer)
    .then(spillAnswer)
    .then(
      (said) => process.send!(said),
      // What is no refusal is a fault of ours; the process dies of it, and its starter says so.
      () => process.exit(1),
    );
});
// Whoever asks is gone.
process.on('disconnect', () => process.exit(0));
