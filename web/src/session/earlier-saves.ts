import { nanoid } from 'nanoid';
import { blobsOf, checkTouched, makeChanges, type FieldChange, type Kit } from '@itchkit/core/document';
import { api, ApiError } from '../api';
import { dropAside, listAside, putAside } from './journal';
import type { Batch } from './pending';
import type { SessionCore } from './session-state';

export const MOST_TITLE = 400;

/** Saves that earlier pages left, each under its own key, until the server has said of each whether it has it. */
export class EarlierSaves {
  unsent: Batch[] = [];
  /** Those that came too late. */
  late: Batch[] = [];
  /** While they are not settled with the server the kit with all of them, from which on this page's own changes count. */
  after: Kit | null = null;

  constructor(
    private readonly session: SessionCore,
    private readonly sendBlobs: (changes: readonly FieldChange[]) => Promise<void>,
  ) {}

  /** They are settled, or somebody decides. */
  clear(): void {
    this.unsent = [];
    this.late = [];
    this.after = null;
  }

  /** Tells the server of each by its own key. @throws where it does not answer; those left are told the next time */
  async send(): Promise<void> {
    for (; this.unsent.length > 0; this.unsent.shift()) if (!(await this.sendAgain(this.unsent[0]))) this.late.push(this.unsent[0]);
  }

  /** Whether the server has it, from before or by now. */
  private async sendAgain(batch: Batch): Promise<boolean> {
    try {
      await this.sendBlobs(batch.changes);
      await api.saveKit(this.session.id, batch);
      return true;
    } catch (error) {
      if (!(error instanceof ApiError) || error.status >= 500) throw error;
      return false;
    }
  }

  /**
   * What of these saves can be made on the newest document, one after another. What is in something that is gone, or does not hold together
   * with the rest, is set aside; a save that comes in part goes as a new one.
   */
  async fitting(document: Kit, revision: number): Promise<FieldChange[]> {
    const changes: FieldChange[] = [];
    const left: Batch[] = [];
    for (const batch of [...this.late, ...this.unsent]) {
      const own = this.fittingOf(document, changes, batch.changes);
      changes.push(...own);
      const isWhole = own.length === batch.changes.length;
      if (own.length > 0) left.push(isWhole && this.unsent.includes(batch) ? batch : { ...batch, key: nanoid(), changes: own });
      if (!isWhole) await this.setAside({ ...batch, changes: batch.changes.filter((change) => !own.includes(change)) }, revision);
    }
    // While the server does not answer all of them wait on; otherwise they are changes of this page now.
    if (this.unsent.length > 0) this.unsent = left;
    this.late = [];
    return changes;
  }

  private fittingOf(document: Kit, before: readonly FieldChange[], own: FieldChange[]): FieldChange[] {
    if (this.fits(document, [...before, ...own])) return own;
    const gone = new Set(goneOf(document, [...before, ...own]));
    const rest = own.filter((change) => !gone.has(change));
    return rest.length > 0 && rest.length < own.length && this.fits(document, [...before, ...rest]) ? rest : [];
  }

  /** Whether changes can be made on a document at all; that another one changed the same fields is no matter here. */
  private fits(document: Kit, changes: readonly FieldChange[]): boolean {
    try {
      const { kit, clashes } = makeChanges(document, changes);
      checkTouched(document, kit);
      if (clashes.some(({ gone }) => gone)) return false;
      return [...blobsOf(kit)].every((sha) => this.session.blobs.has(sha));
    } catch {
      return false;
    }
  }

  private async setAside({ key, title, changes }: Batch, revision: number): Promise<void> {
    await putAside({ id: key, kit: this.session.id, revision, title, changes });
    this.session.notify(`“${title}” does not fit this kit any more. It was set aside: the list of revisions has it, to be downloaded.`);
    await this.tellAside();
  }

  /** Brings to the server, as notes of revisions, what was set aside. */
  async tellAside(): Promise<void> {
    for (const { id, kit, revision, title, changes } of await listAside(this.session.id)) {
      try {
        await api.noteRevision(kit, revision, title.slice(0, MOST_TITLE) || 'Changes', changes);
        await dropAside(id);
      } catch {
        // It is tried again when the kit is opened the next time.
      }
    }
  }
}

/** Changes of fields in something that a document does not have. */
function goneOf(document: Kit, changes: readonly FieldChange[]): FieldChange[] {
  try {
    return makeChanges(document, changes)
      .clashes.filter(({ gone }) => gone)
      .map(({ change }) => change);
  } catch {
    return [];
  }
}
