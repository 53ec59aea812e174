import { wrap, type Remote } from 'comlink';
import { blobsOf, deltaOf, type Blobs, type Kit } from '@itchkit/core/document';
import type { Mends } from '@itchkit/core/operations';
import type { Finding, Rulebook } from '@itchkit/core/rulebook';
import { rulebookOf } from '../rulebooks';
import type { Workshop } from './checks.worker';

/** The worker beside a session: it is given each blob and each rulebook once, and of the kit what changed. */
export class CheckWorker {
  private readonly worker: Worker;
  private readonly workshop: Remote<Workshop>;
  private readonly sent = new Set<string>();
  private readonly rulebooks = new Set<Rulebook>();
  private last: Kit | null = null;

  constructor(private readonly blobs: Blobs) {
    this.worker = new Worker(new URL('./checks.worker.ts', import.meta.url), { type: 'module' });
    this.workshop = wrap<Workshop>(this.worker);
  }

  /** What is owed to each target whose rulebook is here, by the rulebook's id. */
  async check(kit: Kit): Promise<Record<string, Finding[]>> {
    await this.give(kit);
    return this.workshop.check();
  }

  /** What any document owes to a target. */
  async checkOther(document: Kit, target: Kit['targets'][number]): Promise<Finding[]> {
    await this.feed(document);
    await this.teach([target]);
    return this.workshop.checkOther(document, target);
  }

  /** The safe mends of a kit, in the order in which they are to be applied. */
  async mends(kit: Kit, chosen: readonly string[] | null): Promise<Mends> {
    await this.give(kit);
    return this.workshop.mends(chosen);
  }

  /** Builds the package of a kit. */
  async pack(kit: Kit) {
    await this.give(kit);
    return this.workshop.pack();
  }

  close(): void {
    this.worker.terminate();
  }

  private async give(kit: Kit): Promise<void> {
    await this.feed(kit);
    await this.teach(kit.targets);
    const delta = deltaOf(this.last, kit);
    this.last = kit;
    await this.workshop.take(delta);
  }

  private async teach(targets: Kit['targets']): Promise<void> {
    const fresh = targets
      .map(rulebookOf)
      .filter((rulebook): rulebook is Rulebook => rulebook !== undefined && !this.rulebooks.has(rulebook));
    if (fresh.length === 0) return;
    for (const rulebook of fresh) this.rulebooks.add(rulebook);
    await this.workshop.loadRulebooks(fresh);
  }

  private async feed(kit: Kit): Promise<void> {
    const fresh = [...blobsOf(kit)].filter((sha) => !this.sent.has(sha) && this.blobs.has(sha));
    if (fresh.length === 0) return;
    for (const sha of fresh) this.sent.add(sha);
    await this.workshop.loadBlobs(fresh.map((sha) => [sha, this.blobs.get(sha)]));
  }
}
