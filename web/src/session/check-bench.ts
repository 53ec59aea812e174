import { wrap, type Remote } from 'comlink';
import { blobsOf, type Blobs, type Call, type Finding, type Kit } from '@itchkit/core';
import type { Workshop } from './checks.worker';

/** The worker beside a session: it is given each blob once, and works on whole documents. */
export class CheckBench {
  private readonly worker: Worker;
  private readonly workshop: Remote<Workshop>;
  private readonly sent = new Set<string>();

  constructor(private readonly blobs: Blobs) {
    this.worker = new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' });
    this.workshop = wrap<Workshop>(this.worker);
  }

  async check(kit: Kit): Promise<Finding[]> {
    await this.feed(kit);
    return this.workshop.check(kit);
  }

  /** The safe mends of a kit, in the order in which they are to be applied. */
  async safeMends(kit: Kit): Promise<Call[]> {
    await this.feed(kit);
    return this.workshop.safeMends(kit);
  }

  /** Builds the package of a kit. */
  async pack(kit: Kit) {
    await this.feed(kit);
    return this.workshop.pack(kit);
  }

  close(): void {
    this.worker.terminate();
  }

  private async feed(kit: Kit): Promise<void> {
    const fresh = [...blobsOf(kit)].filter((sha) => !this.sent.has(sha) && this.blobs.has(sha));
    if (fresh.length === 0) return;
    for (const sha of fresh) this.sent.add(sha);
    await this.workshop.loadBlobs(fresh.map((sha) => [sha, this.blobs.get(sha)]));
  }
}
