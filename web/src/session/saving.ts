import { blobsOf, keptBlobsOf, patchKit, type Kit } from '@itchkit/core/document';
import { api, ApiError, OfflineError } from '../api';
import { applyCalls } from './apply-calls';
import type { Journal } from './journal';
import { replacing, type Pending, type Step } from './pending';
import type { SessionCore } from './session-state';

const SAVE_AFTER = 300;
const RETRY_AFTER = 1000;

/** Brings changes to the server, keeps those that are not there yet, and brings in what other windows saved. */
export class Saving {
  pending: Pending[] = [];

  private readonly channel: BroadcastChannel;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving = false;
  private theirs: { revision: number; document: Kit } | null = null;

  /** @param onSaved Called after each save that was taken. */
  constructor(
    private readonly session: SessionCore,
    private readonly journal: Journal,
    private readonly onSaved: () => void,
  ) {
    this.channel = new BroadcastChannel(`itch-kit/${session.id}`);
    this.channel.onmessage = (event: MessageEvent<number>) => void this.heardOf(event.data);
    window.addEventListener('beforeunload', this.beforeUnload);
  }

  /** Makes again what an earlier page, or a window that is gone, could not save. */
  async bringBack(document: Kit, revision: number): Promise<void> {
    const left = await this.journal.take();
    if (left.length === 0) return;
    this.pending = left;
    if (this.replay(document, revision)) this.session.notify('Changes that had not been saved were brought back.');
    this.schedule(0);
  }

  /** A change that the server does not have yet. */
  add(one: Pending): void {
    this.pending.push(one);
    this.journal.write(this.pending);
    if (this.session.store.getState().save !== 'conflict') this.session.store.setState({ save: 'waiting', saveMessage: null });
    this.schedule(SAVE_AFTER);
  }

  private schedule(after: number): void {
    if (this.session.closed) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), after);
  }

  /** Saves what waits. */
  async flush(): Promise<void> {
    const { store, id } = this.session;
    if (this.saving || this.pending.length === 0 || store.getState().save === 'conflict') return;
    this.saving = true;
    store.setState({ save: 'saving' });
    const batch = this.pending.slice();
    try {
      await this.sendNewBlobs();
      const patches = batch.flatMap((one) => one.patches);
      const { revision } = await api.saveKit(id, store.getState().revision, patches, batch.at(-1)!.title.slice(0, 400));
      this.pending.splice(0, batch.length);
      this.journal.write(this.pending);
      store.setState({ revision, save: this.pending.length > 0 ? 'waiting' : 'saved', saveMessage: null });
      if (!this.session.closed) {
        this.channel.postMessage(revision);
        this.onSaved();
        if (this.pending.length > 0) this.schedule(SAVE_AFTER);
      }
    } catch (error) {
      await this.failed(error);
    } finally {
      this.saving = false;
    }
  }

  private async sendNewBlobs(): Promise<void> {
    const { blobs, store } = this.session;
    // What was only made on the way and is not in the kit stays here, for undo may bring it back.
    const wanted = keptBlobsOf(store.getState().kit);
    const names = [...blobs.added].filter((sha) => wanted.has(sha));
    if (names.length === 0) return;
    await api.storeBlobs(names.map((sha) => [sha, blobs.get(sha)]));
    for (const sha of names) blobs.added.delete(sha);
  }

  private async failed(error: unknown): Promise<void> {
    const { blobs, store } = this.session;
    if (error instanceof OfflineError || (error instanceof ApiError && error.status >= 500)) {
      store.setState({ save: 'offline', saveMessage: error.message });
      this.schedule(RETRY_AFTER);
    } else if (error instanceof ApiError && error.code === 'blobs-missing') {
      for (const sha of error.body.missing ?? []) if (blobs.has(sha)) blobs.added.add(sha);
      store.setState({ save: 'waiting' });
      this.schedule(RETRY_AFTER);
    } else if (error instanceof ApiError && error.code === 'stale') {
      await this.rebase(error.body.document!, error.body.revision!);
    } else {
      store.setState({ save: 'refused', saveMessage: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Another page saved: its changes come first, ours are made again on top. Where they don't fit, the person decides. */
  private async rebase(document: Kit, revision: number): Promise<void> {
    await this.session.fetchBlobs(document);
    if (this.replay(document, revision)) {
      this.session.notify('This kit was changed in another window. Those changes were brought in below yours.');
      this.schedule(0);
    }
  }

  /** Makes what waits, all that came meanwhile too, on another document. */
  private replay(document: Kit, revision: number): boolean {
    const { store, blobs } = this.session;
    try {
      let kit = document;
      const again: Pending[] = [];
      const undo: Step[] = [];
      for (const one of this.pending) {
        if (one.calls) {
          const applied = applyCalls(kit, one.calls, blobs);
          kit = applied.kit;
          again.push({ ...one, patches: applied.patches });
          undo.push({ title: one.title, patches: applied.patches, inverse: applied.inverse });
        } else {
          kit = patchKit(kit, one.patches);
          again.push(one);
        }
      }
      this.pending = again;
      this.journal.write(again);
      store.setState({ kit, revision, undo, redo: [], save: 'waiting', saveMessage: null });
      this.session.replaced();
      return true;
    } catch {
      this.theirs = { document, revision };
      const saveMessage = 'This kit was changed in another window in a way that your latest changes do not fit.';
      store.setState({ save: 'conflict', saveMessage });
      return false;
    }
  }

  /** Settles a conflict: take what the other window saved, and let go of what was not saved here. */
  takeTheirs(): void {
    if (!this.theirs) return;
    this.pending = [];
    this.journal.write([]);
    const { document, revision } = this.theirs;
    this.theirs = null;
    this.session.store.setState({ kit: document, revision, undo: [], redo: [], save: 'saved', saveMessage: null });
    this.session.replaced();
  }

  /** Settles a conflict: this window's kit becomes the newest revision; the other window's stays in the kit's revisions. */
  keepMine(): void {
    if (!this.theirs) return;
    const mine = this.session.store.getState().kit;
    const { document, revision } = this.theirs;
    this.theirs = null;
    this.pending = [{ title: 'Kept this window’s kit', patches: replacing(document, mine), calls: null }];
    this.journal.write(this.pending);
    for (const sha of blobsOf(mine)) this.session.blobs.added.add(sha);
    this.session.store.setState({ revision, save: 'waiting', saveMessage: null });
    this.schedule(0);
  }

  /**
   * Another window saved while nothing waits here: its document comes in. A change that is made meanwhile stays, and is made again on top
   * when it is saved.
   */
  private async heardOf(revision: number): Promise<void> {
    const { store } = this.session;
    const busy = () => this.pending.length > 0 || this.saving || this.session.closed;
    if (revision <= store.getState().revision || busy()) return;
    const newer = await api.loadKit(this.session.id);
    if (busy()) return;
    await this.session.fetchBlobs(newer.document);
    if (busy() || newer.revision <= store.getState().revision) return;
    store.setState({ kit: newer.document, revision: newer.revision, undo: [], redo: [] });
    this.session.replaced();
  }

  close(): void {
    void this.flush();
    clearTimeout(this.timer);
    window.removeEventListener('beforeunload', this.beforeUnload);
    this.channel.close();
  }

  private readonly beforeUnload = (event: BeforeUnloadEvent) => {
    if (this.pending.length === 0) return;
    void this.flush();
    event.preventDefault();
  };
}
