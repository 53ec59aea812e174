import { nanoid } from 'nanoid';
import {
  blobsOf,
  checkTouched,
  fieldChanges,
  keptBlobsOf,
  KitError,
  makeChanges,
  type Clash,
  type FieldChange,
  type Kit,
} from '@itchkit/core/document';
import { api, ApiError, OfflineError } from '../api';
import { EarlierSaves, MOST_TITLE } from './earlier-saves';
import type { Journal } from './journal';
import type { Batch } from './pending';
import type { SessionCore } from './session-state';

const SAVE_AFTER = 300;
/** Pauses between tries: a second, then twice as long each time, up to half a minute. */
const RETRY_AFTER = 1000;
const LONGEST_RETRY = 30_000;

/** A document as the server has it. */
interface Saved {
  revision: number;
  document: Kit;
}

/** Changes of this window on fields that another one changed too, or that do not hold together with what it changed. */
interface Meeting {
  theirs: Saved;
  changes: FieldChange[];
  /** The kit as this window would have it. */
  mine: Kit;
  /** What was in view when it was found: what is done since comes on top. */
  shown: Kit;
}

/** Brings changes to the server, keeps those that are not there yet, and brings in what other windows saved. */
export class Saving {
  private saved: Saved;
  /** What is on its way, the very same until there is an answer; and the document with it. */
  private sending: { batch: Batch; document: Kit } | null = null;
  private title = '';
  private failures = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private flushing: Promise<void> | null = null;
  /** The newest revision that was heard of. */
  private heard = 0;
  private meeting: Meeting | null = null;
  private readonly channel: BroadcastChannel;
  private readonly earlier: EarlierSaves;

  /** @param onSaved Called after each save that was taken. */
  constructor(
    private readonly session: SessionCore,
    private readonly journal: Journal,
    private readonly onSaved: () => void,
  ) {
    const { kit: document, revision } = session.store.getState();
    this.saved = { document, revision };
    this.earlier = new EarlierSaves(session, (changes) => this.sendBlobs(changes));
    this.channel = new BroadcastChannel(`itch-kit/${session.id}`);
    this.channel.onmessage = (event: MessageEvent<number>) => void this.heardOf(event.data);
    window.addEventListener('beforeunload', this.beforeUnload);
  }

  private get kit(): Kit {
    return this.session.store.getState().kit;
  }

  /** Whether anything here is not on the server. */
  private get waits(): boolean {
    return this.sending !== null || this.earlier.after !== null || fieldChanges(this.saved.document, this.kit).length > 0;
  }

  /**
   * Makes again what an earlier page, or a window that is gone, could not save. Each of its saves is told to the server by its own key, so
   * that none is done twice; those that came too late are made on the newest revision, and what does not fit there is set aside.
   */
  async bringBack(): Promise<void> {
    void this.earlier.tellAside();
    const { batches, blobs } = await this.journal.take();
    if (batches.length === 0) return;
    for (const [sha, bytes] of blobs) this.session.blobs.putNamed(sha, bytes);
    const { earlier } = this;
    earlier.unsent = [...batches];
    try {
      await earlier.send();
    } catch {
      // They are sent by flushing, as soon as the server takes anything.
    }
    const newest = await api.loadKit(this.session.id);
    await this.session.fetchBlobs(newest.document);
    this.show({ revision: newest.revision, document: newest.document });
    const changes = await earlier.fitting(newest.document, newest.revision);
    this.title = batches.at(-1)!.title;
    this.session.notify('Changes that had not been saved were brought back.');
    const isMet =
      changes.length === 0 ||
      this.meet({ theirs: this.saved, changes, mine: makeChanges(newest.document, changes, () => true).kit, shown: this.kit });
    // Where there is something to decide, what is decided goes as a save of its own.
    if (!isMet) earlier.clear();
    else if (earlier.unsent.length > 0) earlier.after = this.kit;
    this.keep();
    this.schedule(0);
  }

  /** The document was changed here. */
  changed(title: string): void {
    this.title = title;
    this.keep();
    if (this.session.store.getState().save !== 'conflict') this.session.store.setState({ save: 'waiting', saveMessage: null });
    this.schedule(SAVE_AFTER);
  }

  /** Writes down what is not on the server. */
  private keep(): void {
    const { late, unsent, after } = this.earlier;
    const from = this.sending?.document ?? after ?? this.saved.document;
    const changes = fieldChanges(from, this.kit);
    const batches = this.sending ? [...late, ...unsent, this.sending.batch] : [...late, ...unsent];
    if (changes.length > 0) batches.push(this.batchOf(changes, this.saved.revision + Number(this.sending !== null)));
    this.journal.write(batches, batches.length > 0 ? this.newBlobs() : []);
  }

  /** The key of what was not sent yet stays the same from one writing down to the next. */
  private nextKey = nanoid();

  private batchOf(changes: FieldChange[], base: number): Batch {
    return { key: this.nextKey, base, title: this.title.slice(0, MOST_TITLE) || 'Changes', changes };
  }

  /** Data blocks of the kit that the server may not have. What was only made on the way is not among them: undo may bring it back. */
  private newBlobs(): [string, Uint8Array][] {
    const { blobs } = this.session;
    const wanted = keptBlobsOf(this.kit);
    return [...blobs.added].filter((sha) => wanted.has(sha)).map((sha) => [sha, blobs.get(sha)]);
  }

  private schedule(after: number): void {
    if (this.session.closed) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.start(), after);
  }

  /** Saves what waits now; where a save is under way, after that one. */
  flush(): Promise<void> {
    return this.flushing ? this.flushing.then(() => this.start()) : this.start();
  }

  private start(): Promise<void> {
    this.flushing ??= this.flushNow().finally(() => {
      this.flushing = null;
      if (this.heard > this.saved.revision) void this.heardOf(this.heard);
    });
    return this.flushing;
  }

  private async flushNow(): Promise<void> {
    const { store, id } = this.session;
    if (this.meeting) return;
    if (this.earlier.after) return this.flushUnsent();
    if (!this.sending) {
      const changes = fieldChanges(this.saved.document, this.kit);
      if (changes.length === 0) return this.nothingWaits();
      this.sending = { batch: this.batchOf(changes, this.saved.revision), document: this.kit };
      this.nextKey = nanoid();
      this.keep();
    }
    // What failed before stays “not saved yet” until it is.
    if (this.failures === 0) store.setState({ save: 'saving' });
    const { batch, document } = this.sending;
    try {
      await this.sendBlobs(batch.changes);
      const { revision } = await api.saveKit(id, batch);
      this.saved = { revision, document };
      this.sending = null;
      this.failures = 0;
      this.keep();
      store.setState({ revision, save: this.waits ? 'waiting' : 'saved', saveMessage: null });
      if (!this.session.closed) {
        this.channel.postMessage(revision);
        this.onSaved();
        if (this.waits) this.schedule(SAVE_AFTER);
      }
    } catch (error) {
      await this.failed(error);
    }
  }

  /** What earlier pages sent comes first: what the server had of it is in the newest revision, the rest and what came since goes on top. */
  private async flushUnsent(): Promise<void> {
    try {
      await this.earlier.send();
      this.failures = 0;
      const theirs = await api.loadKit(this.session.id);
      await this.session.fetchBlobs(theirs.document);
      const { earlier } = this;
      const late = earlier.late.flatMap(({ changes }) => changes);
      const changes = [...late, ...fieldChanges(earlier.after!, this.kit)];
      earlier.clear();
      this.meet({ theirs, changes, mine: this.kit, shown: this.kit });
      this.schedule(0);
    } catch (error) {
      await this.failed(error);
    }
  }

  private nothingWaits(): void {
    this.keep();
    if (this.session.store.getState().save !== 'saved') this.session.store.setState({ save: 'saved', saveMessage: null });
  }

  /** Brings data blocks to the server that changes name, or the kit as it is. */
  private async sendBlobs(changes: readonly FieldChange[]): Promise<void> {
    const { blobs } = this.session;
    const told = JSON.stringify(changes);
    const named = keptBlobsOf(this.kit);
    const names = [...blobs.added].filter((sha) => named.has(sha) || told.includes(sha));
    if (names.length === 0) return;
    await api.storeBlobs(names.map((sha) => [sha, blobs.get(sha)]));
    for (const sha of names) blobs.added.delete(sha);
  }

  private async failed(error: unknown): Promise<void> {
    const { blobs, store } = this.session;
    if (error instanceof OfflineError || (error instanceof ApiError && error.status >= 500)) {
      const pause = Math.min(LONGEST_RETRY, RETRY_AFTER * 2 ** this.failures++);
      store.setState({ save: 'offline', saveMessage: `${error.message} The next try is in ${Math.round(pause / 1000)} s.` });
      this.schedule(pause);
    } else if (error instanceof ApiError && error.code === 'blobs-missing') {
      for (const sha of error.body.missing ?? []) if (blobs.has(sha)) blobs.added.add(sha);
      store.setState({ save: 'waiting' });
      this.schedule(RETRY_AFTER);
    } else if (error instanceof ApiError && error.code === 'stale') {
      await this.rebase({ document: error.body.document!, revision: error.body.revision! });
    } else {
      // It was not done and never will be: the next change goes as another save, with this one in it.
      this.sending = null;
      this.nextKey = nanoid();
      this.keep();
      store.setState({ save: 'refused', saveMessage: error instanceof Error ? error.message : String(error) });
    }
  }

  /**
   * Another page saved: its changes come first, ours are made on top, field by field. Where both changed a field, or what comes out does
   * not hold together, the person decides.
   */
  private async rebase(theirs: Saved): Promise<void> {
    try {
      await this.session.fetchBlobs(theirs.document);
    } catch (error) {
      return this.failed(error);
    }
    const changes = fieldChanges(this.saved.document, this.kit);
    this.sending = null;
    this.nextKey = nanoid();
    if (this.meet({ theirs, changes, mine: this.kit, shown: this.kit })) {
      this.session.notify('This kit was changed in another window. Those changes were brought in below yours.');
      this.schedule(0);
    }
  }

  /** Whether changes could be made on theirs with nothing to ask. */
  private meet(meeting: Meeting): boolean {
    const { theirs, changes } = meeting;
    const { kit, clashes } = makeChanges(theirs.document, changes);
    if (clashes.length === 0 && holds(theirs.document, kit)) {
      this.show(theirs, kit);
      this.keep();
      return true;
    }
    this.meeting = meeting;
    this.session.store.setState({
      save: 'conflict',
      // What stood in something that is gone is asked with the whole.
      clashes: clashes.length > 0 && !clashes.some(({ gone }) => gone) ? clashes : null,
      saveMessage: 'This kit was changed in another window, and your latest changes meet those.',
    });
    return false;
  }

  /** A kit on top of what the server has. Undo stays: its steps name fields. */
  private show(saved: Saved, kit = saved.document): void {
    this.saved = saved;
    this.session.store.setState({ kit, revision: saved.revision, save: kit === saved.document ? 'saved' : 'waiting', saveMessage: null });
    this.session.replaced();
  }

  /** What was changed here since a conflict was found comes on top of how it is settled. */
  private settle(meeting: Meeting, kit: Kit): void {
    const since = fieldChanges(meeting.shown, this.kit);
    this.meeting = null;
    this.session.store.setState({ clashes: null });
    this.show(meeting.theirs, makeChanges(kit, since, () => true).kit);
    for (const sha of keptBlobsOf(this.kit))
      if (this.session.blobs.has(sha) && !blobsOf(meeting.theirs.document).has(sha)) this.session.blobs.added.add(sha);
    this.keep();
    this.schedule(0);
  }

  /**
   * Settles fields that both changed. @param isMine Whether this window has its way at a field.
   *
   * Where what comes out does not hold together, the whole is asked.
   */
  decide(isMine: (clash: Clash) => boolean): void {
    const { meeting } = this;
    if (!meeting) return;
    const { kit } = makeChanges(meeting.theirs.document, meeting.changes, isMine);
    if (holds(meeting.theirs.document, kit)) this.settle(meeting, kit);
    else this.session.store.setState({ clashes: null });
  }

  /** Settles a conflict: take what the other window saved, and let go of what was not saved here. */
  takeTheirs(): void {
    const { meeting } = this;
    if (!meeting) return;
    this.meeting = null;
    this.session.store.setState({ clashes: null, undo: [], redo: [] });
    this.show(meeting.theirs);
    this.keep();
  }

  /** Settles a conflict: this window's kit becomes the newest revision; the other window's stays in the kit's revisions. */
  keepMine(): void {
    const { meeting } = this;
    if (!meeting) return;
    this.title = 'Kept this window’s kit';
    this.settle(meeting, meeting.mine);
  }

  /**
   * The server has a newer revision. Where nothing waits here its document comes in; otherwise saving finds it. A change that is made
   * meanwhile stays, and is made on top when it is saved.
   */
  async heardOf(revision: number): Promise<void> {
    const { session } = this;
    const busy = () => this.waits || this.flushing !== null || this.meeting !== null || session.closed;
    if (revision <= this.saved.revision || session.closed) return;
    this.heard = revision;
    if (this.waits && !this.flushing && !this.meeting) return this.schedule(0);
    if (busy()) return;
    try {
      const newer = await api.loadKit(session.id);
      if (busy()) return;
      await session.fetchBlobs(newer.document);
      if (busy() || newer.revision <= this.saved.revision) return;
      this.show({ revision: newer.revision, document: newer.document });
    } catch {
      // The next thing that is heard, or the next save, brings it in.
    }
  }

  /** Leaves all as it is: another page brings back what is in the journal. */
  abandon(): void {
    clearTimeout(this.timer);
    window.removeEventListener('beforeunload', this.beforeUnload);
    this.channel.close();
  }

  close(): void {
    void this.flush();
    this.abandon();
  }

  private readonly beforeUnload = (event: BeforeUnloadEvent) => {
    if (!this.waits) return;
    void this.flush();
    event.preventDefault();
  };
}

function holds(before: Kit, after: Kit): boolean {
  try {
    checkTouched(before, after);
    return true;
  } catch (error) {
    if (error instanceof KitError) return false;
    throw error;
  }
}
