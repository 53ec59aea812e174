import { expose, transfer } from 'comlink';
import { MemoryBlobs, mendAllSafe, packKit, runChecks, type Call, type Finding, type Kit, type Manifest } from '@itchkit/core';
import { rulebookById } from '../rulebooks';

const blobs = new MemoryBlobs();

/** What runs beside the interface: checks as you work, and packages for the trial. */
const workshop = {
  loadBlobs(entries: [string, Uint8Array][]): void {
    for (const [sha, bytes] of entries) blobs.load(sha, bytes);
  },

  check(kit: Kit): Finding[] {
    const rulebook = kit.targets[0] && rulebookById(kit.targets[0].rulebook);
    return rulebook ? runChecks({ kit, rulebook, blobs }) : [];
  },

  /** The safe mends of a kit, in the order in which they are to be applied. */
  safeMends(kit: Kit): Call[] {
    const rulebook = kit.targets[0] && rulebookById(kit.targets[0].rulebook);
    return rulebook ? mendAllSafe(kit, rulebook, blobs).calls : [];
  },

  async pack(kit: Kit): Promise<{ bytes: Uint8Array; sha: string; fileName: string; manifest: Manifest; milliseconds: number }> {
    const started = performance.now();
    const rulebook = rulebookById(kit.targets[0].rulebook)!;
    const built = await packKit(kit, rulebook, blobs, runChecks({ kit, rulebook, blobs }));
    const bytes = built.bytes.slice();
    return transfer({ bytes, sha: built.sha, fileName: built.fileName, manifest: built.manifest, milliseconds: performance.now() - started }, [bytes.buffer]);
  },
};

export type Workshop = typeof workshop;

expose(workshop);
