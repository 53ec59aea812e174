import { createStore, type StoreApi } from 'zustand';
import { blobsOf, KitError, MemoryBlobs, patchKit, type Call, type Chosen, type Kit } from '@itchkit/core/document';
import type { Finding } from '@itchkit/core/rulebook';
import { loadSimplifier } from '@itchkit/core/shape';
import { api } from '../api';
import { learnRulebooks } from '../rulebooks';
import { applyCalls } from './apply-calls';
import { Checking } from './checking';
import { Journal } from './journal';
import { replacing, type Pending } from './pending';
import { Saving } from './saving';
import type { SessionCore, SessionState } from './session-state';

export type { SessionState } from './session-state';

export class ReadOnlyError extends KitError {
  constructor(number: number) {
    super('read-only', `Revision ${number} is only looked at. Go back to the kit, or restore this revision, before you change anything.`);
  }
}

/** An open kit: its document and undo. Saving and checking stand beside it. */
export class Session implements SessionCore {
  readonly store: StoreApi<SessionState>;
  readonly blobs = new MemoryBlobs();
  closed = false;

  private readonly checking: Checking;
  private readonly saving: Saving;

  private constructor(
    readonly id: string,
    kit: Kit,
    revision: number,
    journal: Journal,
    readonly notify: (message: string) => void,
  ) {
    this.store = createStore<SessionState>(() => ({
      kit,
      revision,
      undo: [],
      redo: [],
      save: 'saved',
      saveMessage: null,
      findings: [],
      owed: {},
      checked: false,
      viewing: null,
      checkMilliseconds: 0,
    }));
    this.checking = new Checking(this);
    this.saving = new Saving(this, journal, () => this.checking.report());
  }

  /** Opens a kit with its blobs; changes that an earlier page could not save are made again. */
  static async open(id: string, onNotice: (message: string) => void): Promise<Session> {
    const [{ revision, document }, own, journal] = await Promise.all([
      api.loadKit(id),
      api.listRulebooks(),
      Journal.open(id),
      loadSimplifier(),
    ]);
    learnRulebooks(own);
    performance.mark('itchkit:document');
    const session = new Session(id, document, revision, journal, onNotice);
    await session.fetchBlobs(document);
    await session.saving.bringBack(document, revision);
    void session.checking.run();
    return session;
  }

  close(): void {
    this.closed = true;
    this.saving.close();
    this.checking.close();
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
   * Runs operations as one step of undo. Gives where what was chosen went. @throws {KitError} where one can't be done; nothing is changed
   * then
   */
  run(calls: Call | Call[], title?: string): Chosen {
    this.mustBeNow();
    const list = Array.isArray(calls) ? calls : [calls];
    const applied = applyCalls(this.kit, list, this.blobs);
    if (applied.patches.length === 0) return applied.chosen;
    const step = { title: title ?? applied.title, patches: applied.patches, inverse: applied.inverse };
    this.store.setState((state) => ({ kit: applied.kit, undo: [...state.undo, step], redo: [] }));
    this.changed({ title: step.title, patches: step.patches, calls: list });
    return applied.chosen;
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

  private step(from: 'undo' | 'redo', to: 'undo' | 'redo', which: 'patches' | 'inverse', word: string): string | null {
    const state = this.store.getState();
    const step = state[from].at(-1);
    if (!step || state.viewing) return null;
    this.store.setState({ kit: patchKit(state.kit, step[which]), [from]: state[from].slice(0, -1), [to]: [...state[to], step] });
    this.changed({ title: `${word}: ${step.title}`, patches: step[which], calls: null });
    return step.title;
  }

  private changed(pending: Pending): void {
    this.saving.add(pending);
    this.replaced();
  }

  replaced(): void {
    this.store.setState({ checked: false });
    void this.checking.run();
  }

  /** Looks at an old revision, read-only. */
  async view(number: number): Promise<void> {
    const { document, ...rest } = await api.loadRevision(this.id, number);
    await this.fetchBlobs(document);
    this.store.setState({ viewing: { ...rest, kit: document } });
    this.replaced();
  }

  /** Back to the kit as it is now. */
  leaveView(): void {
    this.store.setState({ viewing: null });
    this.replaced();
  }

  /** Makes the revision in view the newest one, as a step that can be undone. */
  restoreViewed(): void {
    const { viewing, kit } = this.store.getState();
    if (!viewing) return;
    const title = `Restore revision ${viewing.number}`;
    const step = { title, patches: replacing(kit, viewing.kit), inverse: replacing(viewing.kit, kit) };
    this.store.setState(({ undo }) => ({ viewing: null, kit: patchKit(kit, step.patches), undo: [...undo, step], redo: [] }));
    this.changed({ title, patches: step.patches, calls: null });
  }

  /** Findings of any document for its first target; its blobs are fetched first. */
  async findingsOf(document: Kit): Promise<Finding[]> {
    await this.fetchBlobs(document);
    return this.checking.findingsOf(document, document.targets[0]);
  }

  /** What the kit would owe to another target, or to another version. */
  findingsFor(target: Kit['targets'][number]): Promise<Finding[]> {
    return this.checking.findingsOf(this.shown, target);
  }

  /** A document of the server beside the kit, with its blobs here. */
  async bring(document: Kit): Promise<Kit> {
    await this.fetchBlobs(document);
    return document;
  }

  async fetchBlobs(kit: Kit): Promise<void> {
    const missing = [...blobsOf(kit)].filter((sha) => !this.blobs.has(sha));
    for (const [sha, bytes] of await api.loadBlobs(missing)) this.blobs.load(sha, bytes);
  }

  /** Saves what waits. */
  flush(): Promise<void> {
    return this.saving.flush();
  }

  takeTheirs(): void {
    this.saving.takeTheirs();
  }

  keepMine(): void {
    this.saving.keepMine();
  }

  reportThumbnail(revision: number, png: Blob): void {
    void api.setThumbnail(this.id, revision, png).catch(() => undefined);
  }

  /** Builds the package of the kit as it stands, in the worker. */
  pack() {
    return this.checking.pack(this.shown);
  }

  /** Applies all safe mends as one step. Gives how many were made. */
  async mendAllSafe(): Promise<number> {
    const { viewing } = this.store.getState();
    if (viewing) {
      this.notify(new ReadOnlyError(viewing.number).message);
      return 0;
    }
    const { kit } = this;
    const calls = await this.checking.safeMends(kit);
    if (calls.length > 0 && kit === this.kit) this.run(calls, `Mend all safe (${calls.length})`);
    return calls.length;
  }
}
