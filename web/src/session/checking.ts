import { KitError, type Kit } from '@itchkit/core/document';
import type { Mends } from '@itchkit/core/operations';
import { countByStage, countGrades, type Finding } from '@itchkit/core/rulebook';
import { api } from '../api';
import { CheckWorker } from './check-worker';
import type { SessionCore } from './session-state';

/** Keeps the findings those of the kit in view, and tells the shelf what is owed. */
export class Checking {
  private readonly worker: CheckWorker;
  private running = false;

  constructor(private readonly session: SessionCore) {
    this.worker = new CheckWorker(session.blobs);
  }

  /** Checks what is in view, again and again until it has not changed meanwhile. */
  async run(): Promise<void> {
    if (this.running || this.session.closed) return;
    this.running = true;
    try {
      for (let kit: Kit | null = null; kit !== this.session.shown && !this.session.closed;) {
        kit = this.session.shown;
        const started = performance.now();
        const owed = await this.worker.check(kit);
        const findings = owed[kit.targets[0]?.rulebook ?? ''] ?? [];
        const checkMilliseconds = performance.now() - started;
        this.session.store.setState({ findings, owed, checked: kit === this.session.shown, checkMilliseconds });
      }
    } catch (error) {
      const said = error instanceof KitError ? error.message : 'The checks stopped. Reload the page; everything saved is kept.';
      if (!this.session.closed) this.session.notify(said);
    } finally {
      this.running = false;
    }
    if (!this.session.closed && this.session.store.getState().save === 'saved') this.report();
  }

  /** Tells the shelf what the kit owes, as it is saved. */
  report(): void {
    const { checked, findings, owed, revision, viewing } = this.session.store.getState();
    if (!checked || viewing) return;
    const byStage = Object.fromEntries(
      Object.entries(owed)
        .filter(([id]) => id !== '')
        .map(([id, list]) => [id, countByStage(list)]),
    );
    void api.setSummary(this.session.id, revision, countGrades(findings), byStage).catch(() => undefined);
  }

  /** What any document owes to a target; its blobs have to be here. */
  findingsOf(document: Kit, target: Kit['targets'][number] | undefined): Promise<Finding[]> {
    return target ? this.worker.checkOther(document, target) : Promise.resolve([]);
  }

  /** Mends of the findings chosen, by id; of all that are safe for null. */
  mends(kit: Kit, chosen: readonly string[] | null): Promise<Mends> {
    return this.worker.mends(kit, chosen);
  }

  /** Builds the package of a kit, beside the page. */
  pack(kit: Kit) {
    return this.worker.pack(kit);
  }

  close(): void {
    this.worker.close();
  }
}
