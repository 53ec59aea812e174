import { createStore, type StoreApi } from 'zustand';
import {
  blobsOf,
  checkTouched,
  count,
  fieldChanges,
  KitError,
  makeChanges,
  MemoryBlobs,
  type Call,
  type Chosen,
  type Clash,
  type FieldChange,
  type Kit,
} from '@itchkit/core/document';
import { mendedInWords, type MendedCount } from '@itchkit/core/operations';
import type { Finding } from '@itchkit/core/rulebook';
import { loadSimplifier } from '@itchkit/core/shape';
import { api } from '../api';
import { learnRulebooks } from '../rulebooks';
import { applyCalls } from './apply-calls';
import { Checking } from './checking';
import { Company } from './company';
import { Journal } from './journal';
import { blobsOfSteps, KeptSteps } from './kept-steps';
import { Saving } from './saving';
import type { SessionCore, SessionState } from './session-state';
import { chooseWindowName, windowName } from './window-name';

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
  private readonly steps: KeptSteps;
  private company: Company | null = null;

  private constructor(
    readonly id: string,
    kit: Kit,
    revision: number,
    private readonly journal: Journal,
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
      clashes: null,
      others: [],
    }));
    this.steps = new KeptSteps(id, journal.window);
    this.checking = new Checking(this);
    this.saving = new Saving(this, journal, () => this.checking.report());
  }

  /** Opens a kit with its blobs; changes that an earlier page could not save are made again. */
  static async open(id: string, onNotice: (message: string) => void): Promise<Session> {
    const [{ revision, document }, own, journal] = await Promise.all([
      api.loadKit(id),
      api.listRulebooks(),
      Journal.open(id, onNotice),
      loadSimplifier(),
    ]);
    learnRulebooks(own);
    performance.mark('itchkit:document');
    const session = new Session(id, document, revision, journal, onNotice);
    try {
      await session.fetchBlobs(document);
      await session.saving.bringBack();
      await session.bringSteps();
    } catch (error) {
      session.abandon();
      throw error;
    }
    session.keepCompany();
    void session.checking.run();
    return session;
  }

  /** What was done before the page was loaded again can be taken back; its data comes a little later. */
  private async bringSteps(): Promise<void> {
    const steps = await this.steps.load();
    this.store.setState(steps);
    const missing = [...blobsOfSteps(steps)].filter((sha) => !this.blobs.has(sha));
    // What is not kept any more is missing when it is asked for.
    for (const sha of missing) void this.fetchNamed([sha]).catch(() => undefined);
    this.store.subscribe(({ undo, redo }, before) => {
      if (undo !== before.undo || redo !== before.redo) this.steps.keep({ undo, redo });
    });
  }

  /** It could not be opened: nothing more is done for it. */
  private abandon(): void {
    this.closed = true;
    this.saving.abandon();
    this.checking.close();
  }

  private keepCompany(): void {
    const others = (list: SessionState['others']) => this.store.setState({ others: list });
    this.company = new Company(this.id, this.journal.window, (revision) => void this.saving.heardOf(revision), others);
  }

  /** What others see this window by. */
  get windowName(): string {
    return windowName(this.journal.window);
  }

  renameWindow(name: string): void {
    chooseWindowName(name);
    this.company?.connect();
  }

  close(): void {
    this.closed = true;
    this.company?.close();
    void this.steps.flush();
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
    this.did(title ?? applied.title, applied.kit);
    if (applied.chosen.told) this.notify(applied.chosen.told);
    return applied.chosen;
  }

  /** A step of undo that leads to another document. */
  private did(title: string, kit: Kit): void {
    const before = this.kit;
    const step = { title, changes: fieldChanges(before, kit), inverse: fieldChanges(kit, before) };
    this.store.setState((state) => ({ viewing: null, kit, undo: [...state.undo, step], redo: [] }));
    this.changed(title);
  }

  undo(): string | null {
    return this.step('undo', 'redo', 'inverse', 'Undo');
  }

  redo(): string | null {
    return this.step('redo', 'undo', 'changes', 'Redo');
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

  private step(from: 'undo' | 'redo', to: 'undo' | 'redo', which: 'changes' | 'inverse', word: string): string | null {
    const state = this.store.getState();
    const step = state[from].at(-1);
    if (!step || state.viewing) return null;
    const made = this.made(step[which]);
    if (made && [...blobsOf(made)].some((sha) => !this.blobs.has(sha))) {
      this.notify(`The data of “${step.title}” is not here yet, or is not kept any more. Try again in a moment.`);
      return null;
    }
    this.store.setState({ kit: made ?? state.kit, [from]: state[from].slice(0, -1), [to]: made ? [...state[to], step] : state[to] });
    if (made) this.changed(`${word}: ${step.title}`);
    else this.notify(`“${step.title}” can’t be taken back or done again: another window changed what it was about.`);
    return step.title;
  }

  /** The kit with changes of a step made on it. What another window changed since stays as it is. */
  private made(changes: readonly FieldChange[]): Kit | null {
    const { kit, clashes } = makeChanges(this.kit, changes);
    if (clashes.length === 0) return kit;
    try {
      checkTouched(this.kit, kit);
    } catch {
      return null;
    }
    if (kit === this.kit) return null;
    this.notify('What another window changed meanwhile was left as it is.');
    return kit;
  }

  private changed(title: string): void {
    this.saving.changed(title);
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
    const { viewing } = this.store.getState();
    if (viewing) this.did(`Restore revision ${viewing.number}`, viewing.kit);
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
    await this.fetchNamed([...blobsOf(kit)].filter((sha) => !this.blobs.has(sha)));
  }

  private async fetchNamed(names: string[]): Promise<void> {
    for (const [sha, bytes] of await api.loadBlobs(names)) this.blobs.load(sha, bytes);
  }

  /** Saves what waits. */
  flush(): Promise<void> {
    return this.saving.flush();
  }

  /** When what is not saved, and what can be taken back, is written down in the browser. */
  async kept(): Promise<void> {
    await Promise.all([this.journal.settled(), this.steps.flush()]);
  }

  /** Settles fields that two windows changed. @param isMine Whether this window has its way at a field. */
  decide(isMine: (clash: Clash) => boolean): void {
    this.saving.decide(isMine);
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

  /**
   * Applies all safe mends, or those of chosen findings, as one step. Gives what came of it; null where none could be made.
   *
   * @param chosen Ids of findings; all that are safe where left out
   */
  async mendAll(chosen: readonly string[] | null = null): Promise<MendedCount | null> {
    const { viewing } = this.store.getState();
    if (viewing) {
      this.notify(new ReadOnlyError(viewing.number).message);
      return null;
    }
    const { kit } = this;
    const { calls, mended } = await this.checking.mends(kit, chosen);
    if (calls.length === 0 || kit !== this.kit) return null;
    this.run(calls, chosen === null ? `Mend all safe (${mended.asked})` : `Mend ${count(mended.asked, 'finding')}`);
    this.notify(mendedInWords(mended));
    return mended;
  }
}
