import { createStore, type StoreApi } from 'zustand';
import {
  type Applied,
  blobsOf,
  type Call,
  type Chosen,
  keptBlobsOf,
  type Kit,
  KitError,
  MemoryBlobs,
  type Patch,
  patchKit,
} from '@itchkit/core/document';
import { loadSimplifier } from '@itchkit/core/shape';
import { countByStage, countGrades, type Finding } from '@itchkit/core/rulebook';
import { runCall } from '@itchkit/core/operations';
import { api, ApiError, OfflineError } from '../api';
import { learnRulebooks } from '../rulebooks';
import { CheckWorker } from './check-worker';
import { Journal } from './journal';
import type { Pending, Step } from './pending';

export type SaveState = 'saved' | 'saving' | 'waiting' | 'offline' | 'conflict' | 'refused';

export interface SessionState {
  kit: Kit;
  revision: number;
  undo: Step[];
  redo: Step[];
  save: SaveState;
  /** The sentence that goes with `offline`, `conflict` and `refused`. */
  saveMessage: string | null;
  /** What is owed to the first target. */
  findings: Finding[];
  /** What is owed to each target, by the rulebook's id. */
  owed: Record<string, Finding[]>;
  /** Whether `findings` are those of `kit` as it stands. */
  checked: boolean;
  /** An old revision that is looked at, read-only; null where the kit itself is in view. */
  viewing: Viewing | null;
  /** How long the last checks took, milliseconds, from the change to the Ledger. */
  checkMilliseconds: number;
}

export interface Viewing {
  number: number;
  cause: string;
  at: string;
  kit: Kit;
}

export class ReadOnlyError extends KitError {
  constructor(number: number) {
    super('read-only', `Revision ${number} is only looked at. Go back to the kit, or restore this revision, before you change anything.`);
  }
}

const SAVE_AFTER = 300;
const RETRY_AFTER = 1000;

/** Patches that make one document another, a table at a time. */
function replacing(from: Kit, to: Kit): Patch[] {
  const keys = [...new Set([...Object.keys(from), ...Object.keys(to)])] as (keyof Kit)[];
  return keys
    .filter((key) => from[key] !== to[key])
    .map((key): Patch =>
      to[key] === undefined
        ? { op: 'remove', path: [key] }
        : { op: from[key] === undefined ? 'add' : 'replace', path: [key], value: to[key] },
    );
}

/** An open kit: its document, undo, checks and saving. */
export class Session {
  readonly store: StoreApi<SessionState>;
  readonly blobs = new MemoryBlobs();

  private readonly bench: CheckWorker;
  private readonly channel: BroadcastChannel;
  private readonly journal: Journal;
  private pending: Pending[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving = false;
  private checking = false;
  private theirs: { revision: number; document: Kit } | null = null;
  private closed = false;

  private constructor(
    readonly id: string,
    kit: Kit,
    revision: number,
    private readonly onNotice: (message: string) => void,
  ) {
    this.store = createStore(() => ({
      kit,
      revision,
      undo: [],
      redo: [],
      save: 'saved' as SaveState,
      saveMessage: null,
      findings: [],
      owed: {},
      checked: false,
      viewing: null,
      checkMilliseconds: 0,
    }));
    this.bench = new CheckWorker(this.blobs);
    this.journal = new Journal(id);
    this.channel = new BroadcastChannel(`itch-kit/${id}`);
    this.channel.onmessage = (event: MessageEvent<number>) => void this.heardOf(event.data);
    window.addEventListener('beforeunload', this.beforeUnload);
  }

  /** Opens a kit with its blobs; changes that an earlier page could not save are made again. */
  static async open(id: string, onNotice: (message: string) => void): Promise<Session> {
    const [{ revision, document }, own] = await Promise.all([api.loadKit(id), api.listRulebooks(), loadSimplifier()]);
    learnRulebooks(own);
    performance.mark('itchkit:document');
    const session = new Session(id, document, revision, onNotice);
    await session.fetchBlobs(document);
    const left = session.journal.read();
    if (left.length > 0) {
      session.pending = left;
      session.replay(document, revision);
      onNotice('Changes that had not been saved were brought back.');
      session.scheduleSave(0);
    }
    void session.runChecks();
    return session;
  }

  close(): void {
    this.closed = true;
    void this.flush();
    clearTimeout(this.timer);
    window.removeEventListener('beforeunload', this.beforeUnload);
    this.channel.close();
    this.bench.close();
  }

  get kit(): Kit {
    return this.store.getState().kit;
  }

  /** What is in view: the kit, or an old revision. */
  get shown(): Kit {
    const { kit, viewing } = this.store.getState();
    return viewing?.kit ?? kit;
  }

  /**
   * Runs operations as one step of undo. Gives where what was chosen went.
   * @throws {KitError} where one can't be done; nothing is changed then
   */
  run(calls: Call | Call[], title?: string): Chosen {
    this.mustBeNow();
    const list = Array.isArray(calls) ? calls : [calls];
    const applied = this.applyAll(this.kit, list);
    if (applied.patches.length === 0) return applied.chosen;
    const step = { title: title ?? applied.title, patches: applied.patches, inverse: applied.inverse };
    this.store.setState((state) => ({ kit: applied.kit, undo: [...state.undo, step], redo: [] }));
    this.changed({ title: step.title, patches: step.patches, calls: list });
    return applied.chosen;
  }

  private applyAll(kit: Kit, calls: Call[]): Applied {
    const steps: Applied[] = [];
    for (const call of calls) steps.push(runCall(steps.at(-1)?.kit ?? kit, call, this.blobs));
    return {
      kit: steps.at(-1)!.kit,
      title: steps.length === 1 ? steps[0].title : `${steps[0].title} and ${steps.length - 1} more`,
      patches: steps.flatMap((step) => step.patches),
      inverse: steps.toReversed().flatMap((step) => step.inverse),
      chosen: Object.assign({}, ...steps.map((step) => step.chosen)) as Chosen,
    };
  }

  undo(): string | null {
    return this.step('undo', 'redo', 'inverse', 'Undo');
  }

  redo(): string | null {
    return this.step('redo', 'undo', 'patches', 'Redo');
  }

  private mustBeNow(): void {
    const { viewing } = this.store.getState();
    if (viewing) throw new ReadOnlyError(viewing.number);
  }

  /** Goes back or on to where so many steps are done. */
  stepTo(done: number): void {
    while (this.store.getState().undo.length > done && this.undo() !== null);
    while (this.store.getState().undo.length < done && this.redo() !== null);
  }

  /** Looks at an old revision, read-only. */
  async view(number: number): Promise<void> {
    const { document, ...rest } = await api.loadRevision(this.id, number);
    await this.fetchBlobs(document);
    this.store.setState({ viewing: { ...rest, kit: document }, checked: false });
    void this.runChecks();
  }

  /** Back to the kit as it is now. */
  leaveView(): void {
    this.store.setState({ viewing: null, checked: false });
    void this.runChecks();
  }

  /** Makes the revision in view the newest one, as a step that can be undone. */
  restoreViewed(): void {
    const { viewing } = this.store.getState();
    if (!viewing) return;
    this.store.setState({ viewing: null });
    this.become(viewing.kit, `Restore revision ${viewing.number}`);
  }

  /** Makes the kit what a document says, as one step. */
  private become(document: Kit, title: string): void {
    const { kit } = this;
    const step = { title, patches: replacing(kit, document), inverse: replacing(document, kit) };
    this.store.setState((state) => ({ kit: patchKit(kit, step.patches), undo: [...state.undo, step], redo: [] }));
    this.changed({ title, patches: step.patches, calls: null });
  }

  /** Findings of any document; its blobs are fetched first. */
  async findingsOf(document: Kit): Promise<Finding[]> {
    await this.fetchBlobs(document);
    return document.targets[0] ? this.bench.checkOther(document, document.targets[0]) : [];
  }

  /** What the kit would owe to another target, or to another version. */
  findingsFor(target: Kit['targets'][number]): Promise<Finding[]> {
    return this.bench.checkOther(this.shown, target);
  }

  /** A document of the server beside the kit, with its blobs here. */
  async bring(document: Kit): Promise<Kit> {
    await this.fetchBlobs(document);
    return document;
  }

  private step(from: 'undo' | 'redo', to: 'undo' | 'redo', which: 'patches' | 'inverse', word: string): string | null {
    const state = this.store.getState();
    const step = state[from].at(-1);
    if (!step || state.viewing) return null;
    this.store.setState({ kit: patchKit(state.kit, step[which]), [from]: state[from].slice(0, -1), [to]: [...state[to], step] });
    this.changed({ title: `${word}: ${step.title}`, patches: step[which], calls: null });
    return step.title;
  }

  private changed(pending: Pending): void {
    this.pending.push(pending);
    this.journal.write(this.pending);
    this.store.setState({ checked: false, ...(this.store.getState().save === 'conflict' ? {} : { save: 'waiting', saveMessage: null }) });
    this.scheduleSave(SAVE_AFTER);
    void this.runChecks();
  }

  private scheduleSave(after: number): void {
    if (this.closed) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), after);
  }

  /** Saves what waits. */
  async flush(): Promise<void> {
    if (this.saving || this.pending.length === 0 || this.store.getState().save === 'conflict') return;
    this.saving = true;
    this.store.setState({ save: 'saving' });
    const batch = this.pending.slice();
    try {
      await this.sendNewBlobs();
      const patches = batch.flatMap((one) => one.patches);
      const { revision } = await api.saveKit(this.id, this.store.getState().revision, patches, batch.at(-1)!.title.slice(0, 400));
      this.pending.splice(0, batch.length);
      this.journal.write(this.pending);
      this.store.setState({ revision, save: this.pending.length > 0 ? 'waiting' : 'saved', saveMessage: null });
      if (!this.closed) {
        this.channel.postMessage(revision);
        this.reportCounts();
        if (this.pending.length > 0) this.scheduleSave(SAVE_AFTER);
      }
    } catch (error) {
      await this.saveFailed(error);
    } finally {
      this.saving = false;
    }
  }

  private async sendNewBlobs(): Promise<void> {
    // What was only made on the way and is not in the kit stays here, for undo may bring it back.
    const wanted = keptBlobsOf(this.store.getState().kit);
    const names = [...this.blobs.added].filter((sha) => wanted.has(sha));
    if (names.length === 0) return;
    await api.storeBlobs(names.map((sha) => [sha, this.blobs.get(sha)]));
    for (const sha of names) this.blobs.added.delete(sha);
  }

  private async saveFailed(error: unknown): Promise<void> {
    if (error instanceof OfflineError || (error instanceof ApiError && error.status >= 500)) {
      this.store.setState({ save: 'offline', saveMessage: error.message });
      this.scheduleSave(RETRY_AFTER);
    } else if (error instanceof ApiError && error.code === 'blobs-missing') {
      for (const sha of error.body.missing ?? []) if (this.blobs.has(sha)) this.blobs.added.add(sha);
      this.store.setState({ save: 'waiting' });
      this.scheduleSave(RETRY_AFTER);
    } else if (error instanceof ApiError && error.code === 'stale') {
      await this.rebase(error.body.document!, error.body.revision!);
    } else {
      this.store.setState({ save: 'refused', saveMessage: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Another page saved: its changes come first, ours are made again on top. Where they don't fit, the person decides. */
  private async rebase(document: Kit, revision: number): Promise<void> {
    await this.fetchBlobs(document);
    if (this.replay(document, revision)) {
      this.onNotice('This kit was changed in another window. Those changes were brought in below yours.');
      this.scheduleSave(0);
    }
  }

  private replay(document: Kit, revision: number): boolean {
    try {
      let kit = document;
      const again: Pending[] = [];
      const undo: Step[] = [];
      for (const one of this.pending) {
        if (one.calls) {
          const applied = this.applyAll(kit, one.calls);
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
      this.store.setState({ kit, revision, undo, redo: [], save: 'waiting', saveMessage: null, checked: false });
      void this.runChecks();
      return true;
    } catch {
      this.theirs = { document, revision };
      this.store.setState({
        save: 'conflict',
        saveMessage: 'This kit was changed in another window in a way that your latest changes do not fit.',
      });
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
    this.store.setState({ kit: document, revision, undo: [], redo: [], save: 'saved', saveMessage: null, checked: false });
    void this.runChecks();
  }

  /** Settles a conflict: this window's kit becomes the newest revision; the other window's stays in the kit's revisions. */
  keepMine(): void {
    if (!this.theirs) return;
    const mine = this.kit;
    const { document, revision } = this.theirs;
    this.theirs = null;
    this.pending = [{ title: 'Kept this window’s kit', patches: replacing(document, mine), calls: null }];
    this.journal.write(this.pending);
    for (const sha of blobsOf(mine)) this.blobs.added.add(sha);
    this.store.setState({ revision, save: 'waiting', saveMessage: null });
    this.scheduleSave(0);
  }

  private async heardOf(revision: number): Promise<void> {
    if (revision <= this.store.getState().revision || this.pending.length > 0 || this.saving) return;
    const newer = await api.loadKit(this.id);
    if (this.pending.length > 0) return;
    await this.fetchBlobs(newer.document);
    this.store.setState({ kit: newer.document, revision: newer.revision, undo: [], redo: [], checked: false });
    void this.runChecks();
  }

  private async fetchBlobs(kit: Kit): Promise<void> {
    const missing = [...blobsOf(kit)].filter((sha) => !this.blobs.has(sha));
    for (const [sha, bytes] of await api.loadBlobs(missing)) this.blobs.load(sha, bytes);
  }

  private async runChecks(): Promise<void> {
    if (this.checking || this.closed) return;
    this.checking = true;
    try {
      for (let kit: Kit | null = null; kit !== this.shown && !this.closed;) {
        kit = this.shown;
        const started = performance.now();
        const owed = await this.bench.check(kit);
        const findings = owed[kit.targets[0]?.rulebook ?? ''] ?? [];
        this.store.setState({ findings, owed, checked: kit === this.shown, checkMilliseconds: performance.now() - started });
      }
    } catch (error) {
      if (!this.closed)
        this.onNotice(error instanceof KitError ? error.message : 'The checks stopped. Reload the page; everything saved is kept.');
    } finally {
      this.checking = false;
    }
    if (!this.closed && this.pending.length === 0) this.reportCounts();
  }

  private reportCounts(): void {
    const { checked, findings, owed, revision, viewing } = this.store.getState();
    if (!checked || viewing) return;
    const byStage = Object.fromEntries(Object.entries(owed).map(([id, list]) => [id, countByStage(list)]));
    void api.setSummary(this.id, revision, countGrades(findings), byStage).catch(() => undefined);
  }

  reportThumbnail(revision: number, png: Blob): void {
    void api.setThumbnail(this.id, revision, png).catch(() => undefined);
  }

  /** Builds the package of the kit as it stands, in the worker. */
  pack() {
    return this.bench.pack(this.shown);
  }

  /** Applies all safe mends as one step. Gives how many were made. */
  async mendAllSafe(): Promise<number> {
    const { viewing } = this.store.getState();
    if (viewing) {
      this.onNotice(new ReadOnlyError(viewing.number).message);
      return 0;
    }
    const kit = this.kit;
    const calls = await this.bench.safeMends(kit);
    if (calls.length > 0 && kit === this.kit) this.run(calls, `Mend all safe (${calls.length})`);
    return calls.length;
  }

  private readonly beforeUnload = (event: BeforeUnloadEvent) => {
    if (this.pending.length === 0) return;
    void this.flush();
    event.preventDefault();
  };
}
