import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { IDBFactory } from 'fake-indexeddb';
import { callOf, checkKit, newPart, emptyKit, makeChanges, type Kit } from '@itchkit/core/document';
import { addClip } from '@itchkit/core/motion';
import { removeParts, renameParts, reparentParts, setTransform } from '@itchkit/core/shape';
import { api, ApiError, OfflineError } from '../api';
import { forgetJournal, unsavedKits } from './journal';
import { MemoryStorage } from './memory-storage';
import type { Batch } from './pending';
import { forgetSteps } from './kept-steps';
import { forgetWindow } from './window-name';
import { Session } from './session';

jest.mock('./check-worker', () => ({
  CheckWorker: class {
    check = () => Promise.resolve({});
    safeMends = () => Promise.resolve({ calls: [], mended: { asked: 0, settled: 0, others: 0 } });
    close = () => undefined;
  },
}));

/** A server of one kit that keeps the rules of the real one: a change is taken on the newest revision alone, and once. */
class Shelf {
  revision = 1;
  offline = false;
  /** Saves whose answer gets lost, though they are done. */
  answersLost = 0;
  causes: string[] = [];
  notes: { title: string }[] = [];
  private readonly done = new Map<string, number>();

  constructor(public document: Kit) {}

  save({ base, key, title, changes }: Batch): { revision: number } {
    if (this.offline) throw new OfflineError();
    const before = this.done.get(key);
    if (before !== undefined) return { revision: before };
    if (base !== this.revision) throw new ApiError(409, 'stale', 'changed', { revision: this.revision, document: this.document });
    const { kit, clashes } = makeChanges(this.document, JSON.parse(JSON.stringify(changes)) as Batch['changes']);
    if (clashes.length > 0) throw new ApiError(422, 'patch', 'does not fit');
    this.document = checkKit(kit);
    this.causes.push(title);
    this.done.set(key, ++this.revision);
    if (this.answersLost-- > 0) throw new OfflineError();
    return { revision: this.revision };
  }

  /** What another window saves. */
  elsewhere(change: (kit: Kit) => Kit): void {
    this.document = change(this.document);
    this.revision++;
  }
}

const part = (kit: Kit, id: string) => kit.parts[id];
const withoutA = (kit: Kit): Kit => {
  const { a: _, ...parts } = kit.parts;
  return { ...kit, parts };
};
let shelf: Shelf;
let notices: string[];
let session: Session;

/** Locks of a browser, held by pages until they end. */
const held = new Map<string, number>();
let page = 0;

/** From here on the code runs in another page of the browser; the one before lives on, or has ended. */
function nextPage({ ended }: { ended: boolean }): void {
  if (ended) for (const [name, by] of held) if (by === page) held.delete(name);
  page++;
  forgetWindow();
  forgetJournal();
  forgetSteps();
  const request = (name: string, _: object, done: (lock: object | null) => unknown) => {
    const free = !held.has(name);
    if (free) held.set(name, page);
    done(free ? {} : null);
    return new Promise(() => undefined);
  };
  const query = () => Promise.resolve({ held: [...held.keys()].map((name) => ({ name })) });
  Object.defineProperty(globalThis, 'navigator', { value: { locks: { request, query } }, configurable: true });
  Object.assign(globalThis, { sessionStorage: new MemoryStorage() });
}

async function open(): Promise<Session> {
  return Session.open('kit', (message) => notices.push(message));
}

beforeEach(async () => {
  const kit = emptyKit('Crane');
  for (const id of ['a', 'b', 'c']) kit.parts[id] = newPart({ id, name: id });
  shelf = new Shelf(kit);
  notices = [];
  Object.assign(globalThis, {
    window: { addEventListener: () => undefined, removeEventListener: () => undefined },
    localStorage: new MemoryStorage(),
    indexedDB: new IDBFactory(),
  });
  held.clear();
  nextPage({ ended: true });
  jest.spyOn(api, 'loadKit').mockImplementation(() => Promise.resolve({ id: 'kit', revision: shelf.revision, document: shelf.document }));
  jest.spyOn(api, 'listRulebooks').mockResolvedValue([]);
  jest.spyOn(api, 'loadBlobs').mockResolvedValue([]);
  jest.spyOn(api, 'setSummary').mockResolvedValue({});
  jest.spyOn(api, 'saveKit').mockImplementation((_, batch) => Promise.resolve().then(() => shelf.save(batch as Batch)));
  jest.spyOn(api, 'noteRevision').mockImplementation((_, __, title) => {
    shelf.notes.push({ title });
    return Promise.resolve({});
  });
  session = await open();
});

afterEach(async () => {
  session.close();
  await session.kept();
});

const state = () => session.store.getState();
const rename = (id: string, name: string) => callOf(renameParts, { names: { [id]: name } });

/** The page ends, and the same window loads it again: its store outlives that. */
function leaveForReload(): void {
  session.close();
  const store = sessionStorage;
  nextPage({ ended: true });
  Object.assign(globalThis, { sessionStorage: store });
}

test('what was done before the page was loaded again can be taken back, and done again', async () => {
  session.run(rename('a', 'one'));
  session.run(rename('b', 'two'));
  session.undo();
  await session.flush();
  await session.kept();
  leaveForReload();
  session = await open();
  expect(session.redo()).toBe('Rename “b” to “two”');
  expect(session.undo()).toBe('Rename “b” to “two”');
  expect(session.undo()).toBe('Rename “a” to “one”');
  await session.flush();
  expect(['a', 'b'].map((id) => part(shelf.document, id).name)).toEqual(['a', 'b']);
});

test('after a reload a step that another window changed says why it stays', async () => {
  session.run(rename('a', 'one'));
  await session.flush();
  await session.kept();
  leaveForReload();
  shelf.elsewhere((kit) => ({ ...kit, parts: { ...kit.parts, a: { ...kit.parts.a, name: 'theirs' } } }));
  session = await open();
  session.undo();
  expect([part(session.kit, 'a').name, notices.at(-1)]).toEqual(['theirs', expect.stringMatching(/another window changed/)]);
});

test('changes are saved together, named after the last; undo and redo are changes too', async () => {
  session.run(rename('a', 'one'));
  session.run(rename('b', 'two'));
  await session.flush();
  expect([shelf.revision, part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual([2, 'one', 'two']);
  expect(session.undo()).toBe('Rename “b” to “two”');
  await session.flush();
  expect(part(shelf.document, 'b').name).toBe('b');
  session.redo();
  await session.flush();
  expect(part(shelf.document, 'b').name).toBe('two');
  expect([state().save, state().revision]).toEqual(['saved', shelf.revision]);
  expect(shelf.document).toEqual(session.kit);
});

test('several operations at once are one step of undo', () => {
  const before = session.kit;
  session.run([rename('a', 'one'), callOf(reparentParts, { parts: ['b'], parent: 'a', keep: 'world' })], 'Both');
  expect(state().undo.map((step) => step.title)).toEqual(['Both']);
  session.undo();
  expect(session.kit).toEqual(before);
});

test('an operation that fails in the middle changes nothing', () => {
  const before = session.kit;
  expect(() => session.run([rename('a', 'one'), rename('nobody', 'two')])).toThrow(/no longer in the kit/);
  expect(session.kit).toBe(before);
  expect(state().undo).toEqual([]);
});

test('without a server the change is kept, said, and saved when there is one again', async () => {
  shelf.offline = true;
  session.run(rename('a', 'one'));
  await session.flush();
  expect([state().save, part(session.kit, 'a').name]).toEqual(['offline', 'one']);
  expect(state().saveMessage).toMatch(/does not answer/);
  shelf.offline = false;
  await session.flush();
  expect([state().save, part(shelf.document, 'a').name]).toEqual(['saved', 'one']);
});

test('a page that was closed unsaved brings its changes back when it is opened again', async () => {
  shelf.offline = true;
  session.run(rename('a', 'one'));
  await session.flush();
  session.close();
  // Closing tries once more; that fails too.
  await new Promise(setImmediate);
  shelf.offline = false;
  session = await open();
  expect(part(session.kit, 'a').name).toBe('one');
  expect(notices).toEqual(['Changes that had not been saved were brought back.']);
  await session.flush();
  expect(part(shelf.document, 'a').name).toBe('one');
  expect(Object.keys(localStorage)).toEqual([]);
});

test('what another window saved comes first, ours is made again on top, and neither is lost', async () => {
  shelf.elsewhere((kit) => ({ ...kit, parts: { ...kit.parts, b: { ...kit.parts.b, name: 'theirs' } } }));
  session.run(rename('a', 'mine'));
  await session.flush();
  await session.flush();
  expect([part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual(['mine', 'theirs']);
  expect(session.kit).toEqual(shelf.document);
  expect(notices[0]).toMatch(/another window/);
});

describe('where ours does not fit theirs', () => {
  beforeEach(async () => {
    session.run(callOf(setTransform, { part: 'a', translation: [1, 2, 3] }));
    shelf.elsewhere(withoutA);
    await session.flush();
  });

  test('the person is asked, and nothing is saved or thrown away meanwhile', async () => {
    // Of a field of what is gone no value alone could stay: the whole is asked.
    expect([state().save, state().clashes]).toEqual(['conflict', null]);
    expect(part(session.kit, 'a').translation).toEqual([1, 2, 3]);
    session.run(rename('c', 'later'));
    await session.flush();
    expect(shelf.causes).toEqual([]);
  });

  test('keeping ours makes it the newest revision', async () => {
    session.keepMine();
    await session.flush();
    expect(part(shelf.document, 'a').translation).toEqual([1, 2, 3]);
    expect(shelf.document).toEqual(session.kit);
  });

  test('taking theirs lets go of ours', async () => {
    session.takeTheirs();
    await session.flush();
    expect(session.kit).toEqual(shelf.document);
    expect(session.kit.parts.a).toBeUndefined();
    expect(state().undo).toEqual([]);
  });
});

test('undo of a removal is exact', async () => {
  const before = session.kit;
  session.run(callOf(removeParts, { parts: ['a', 'c'] }));
  session.undo();
  await session.flush();
  expect(session.kit).toEqual(before);
});

describe('two windows on one kit', () => {
  const clip = callOf(addClip, { name: 'walk', lengthSeconds: 1, rate: 30, loop: 'loop' });
  const clips = () => Object.values(shelf.document.clips).map(({ name }) => name);

  test('what one could not save yet is not repeated by the other', async () => {
    shelf.offline = true;
    session.run(clip);
    await session.flush();
    nextPage({ ended: false });
    const other = await open();
    shelf.offline = false;
    await other.flush();
    await session.flush();
    await other.flush();
    expect(clips()).toEqual(['walk']);
    expect(notices).toEqual([]);
    other.close();
  });

  test('what a window that is gone could not save is brought back by one of those that come, once', async () => {
    shelf.offline = true;
    session.run(clip);
    await session.flush();
    session.close();
    await new Promise(setImmediate);
    nextPage({ ended: true });
    const second = await open();
    nextPage({ ended: false });
    const third = await open();
    shelf.offline = false;
    for (const one of [third, second]) await one.flush();
    expect(clips()).toEqual(['walk']);
    expect(notices).toEqual(['Changes that had not been saved were brought back.']);
    for (const one of [second, third]) one.close();
  });

  test('a window that was doubled with its store is another one', async () => {
    shelf.offline = true;
    session.run(clip);
    await session.flush();
    const copied = sessionStorage;
    nextPage({ ended: false });
    Object.assign(globalThis, { sessionStorage: copied });
    const doubled = await open();
    shelf.offline = false;
    await doubled.flush();
    await session.flush();
    expect(clips()).toEqual(['walk']);
    doubled.close();
  });

  test('a change that is made while the other’s comes in is neither lost nor put back', async () => {
    shelf.elsewhere((kit) => ({ ...kit, parts: { ...kit.parts, b: { ...kit.parts.b, name: 'theirs' } } }));
    jest.spyOn(api, 'loadBlobs').mockImplementationOnce(async () => {
      session.run(rename('a', 'meanwhile'));
      return [];
    });
    const channel = new BroadcastChannel('itch-kit/kit');
    channel.postMessage(shelf.revision);
    for (let i = 0; i < 20; i++) await new Promise((resolve) => setTimeout(resolve, 5));
    channel.close();
    expect(part(session.kit, 'a').name).toBe('meanwhile');
    await session.flush();
    await session.flush();
    expect([part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual(['meanwhile', 'theirs']);
    expect(session.kit).toEqual(shelf.document);
  });

  test('a store of the browser that takes nothing does not stop the work, and is said', async () => {
    jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    session.run(rename('a', 'kept'));
    await session.kept();
    expect(notices).toEqual([expect.stringMatching(/keeps no more.*Leave it open until it says “saved”/)]);
    await session.flush();
    expect(part(shelf.document, 'a').name).toBe('kept');
    jest.mocked(IDBObjectStore.prototype.put).mockRestore();
  });

  test('a store that is nearly full is said before it matters, once', async () => {
    Object.assign(navigator, { storage: { estimate: () => Promise.resolve({ usage: 95, quota: 100 }) } });
    shelf.offline = true;
    for (const name of ['x', 'y']) {
      session.run(rename('a', name));
      await session.kept();
    }
    expect(notices).toEqual([expect.stringMatching(/nearly full/)]);
  });

  const move = (to: [number, number, number]) => callOf(setTransform, { part: 'a', translation: to });

  test('on different fields of one part both stay, though each wrote the whole vector', async () => {
    nextPage({ ended: false });
    const other = await open();
    session.run(move([5, 0, 0]));
    other.run(move([0, 7, 0]));
    await session.flush();
    await other.flush();
    await other.flush();
    expect(part(shelf.document, 'a').translation).toEqual([5, 7, 0]);
    expect(other.store.getState().save).toBe('saved');
    other.close();
  });

  describe('on the same field', () => {
    let other: Session;
    beforeEach(async () => {
      nextPage({ ended: false });
      other = await open();
      session.run([move([5, 0, 0]), rename('b', 'first')]);
      other.run([move([8, 3, 0]), rename('c', 'second')]);
      await session.flush();
      await other.flush();
    });
    afterEach(async () => {
      other.close();
      await other.kept();
    });

    test('the later is asked, with both values, and of that field alone', async () => {
      const { save, clashes } = other.store.getState();
      expect(save).toBe('conflict');
      expect(clashes!.map(({ change, theirs }) => [change.path, change.now, theirs])).toEqual([[['parts', 'a', 'translation', 0], 8, 5]]);
      await other.flush();
      expect(part(shelf.document, 'a').translation).toEqual([5, 0, 0]);
    });

    test.each([
      [true, 8],
      [false, 5],
    ])('what is decided stays (mine: %s), and everything else of both', async (mine, x) => {
      other.decide(() => mine);
      await other.flush();
      const { a, b, c } = shelf.document.parts;
      expect([a.translation, b.name, c.name]).toEqual([[x, 3, 0], 'first', 'second']);
      expect(other.kit).toEqual(shelf.document);
      expect(other.store.getState()).toMatchObject({ save: 'saved', clashes: null });
    });

    test('what is done while it is asked is not lost by the answer', async () => {
      other.run(rename('a', 'meanwhile'));
      other.decide(() => false);
      await other.flush();
      expect([part(shelf.document, 'a').name, part(shelf.document, 'a').translation]).toEqual(['meanwhile', [5, 3, 0]]);
    });
  });

  test('undo takes back what was done here and leaves what the other did since', async () => {
    nextPage({ ended: false });
    const other = await open();
    session.run(move([5, 6, 0]));
    await session.flush();
    await other.flush();
    for (let i = 0; i < 20 && other.kit !== shelf.document; i++) await new Promise((resolve) => setTimeout(resolve, 5));
    other.run(move([5, 9, 0]));
    await other.flush();
    for (let i = 0; i < 20 && session.kit.parts.a.translation[1] !== 9; i++) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(session.undo()).toMatch(/Move|Place|position/i);
    await session.flush();
    expect(part(shelf.document, 'a').translation).toEqual([0, 9, 0]);
    expect(notices.at(-1)).toMatch(/left as it is/);
    other.close();
  });
});

describe('a save whose answer is lost', () => {
  const clip = callOf(addClip, { name: 'walk', lengthSeconds: 1, rate: 30, loop: 'loop' });

  test('is done once, though it is told again', async () => {
    shelf.answersLost = 1;
    session.run(clip);
    await session.flush();
    expect([state().save, shelf.revision]).toEqual(['offline', 2]);
    await session.flush();
    expect([state().save, shelf.revision, Object.keys(shelf.document.clips).length]).toEqual(['saved', 2, 1]);
  });

  test('and what was done meanwhile comes as another save, after it', async () => {
    shelf.answersLost = 1;
    session.run(rename('a', 'one'));
    await session.flush();
    session.run(rename('a', 'two'));
    session.undo();
    session.run(rename('b', 'three'));
    await session.flush();
    await session.flush();
    expect([part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual(['one', 'three']);
    expect(shelf.causes).toHaveLength(2);
  });

  test('and whose page was closed, is not done again by the next, though another person took it back meanwhile', async () => {
    shelf.answersLost = 1;
    session.run(rename('a', 'one'));
    await session.flush();
    session.close();
    await new Promise(setImmediate);
    shelf.elsewhere((kit) => ({ ...kit, parts: { ...kit.parts, a: { ...kit.parts.a, name: 'a' } } }));
    nextPage({ ended: true });
    session = await open();
    await session.flush();
    expect([part(shelf.document, 'a').name, part(session.kit, 'a').name]).toEqual(['a', 'a']);
  });

  test('is not sent as a conflict with itself', async () => {
    shelf.answersLost = 1;
    session.run(callOf(removeParts, { parts: ['a'] }));
    await session.flush();
    await session.flush();
    expect([state().save, shelf.document.parts.a]).toEqual(['saved', undefined]);
  });
});

describe('what an earlier page left', () => {
  async function leave(...calls: Parameters<Session['run']>[0][]): Promise<void> {
    shelf.offline = true;
    for (const call of calls) session.run(call);
    await session.flush();
    await session.kept();
    session.close();
    await new Promise(setImmediate);
    nextPage({ ended: true });
  }

  test('after an undo opens, and is there', async () => {
    session.run(rename('a', 'one'));
    await session.flush();
    shelf.offline = true;
    session.undo();
    session.run(rename('b', 'two'));
    await leave();
    shelf.offline = false;
    session = await open();
    await session.flush();
    expect([part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual(['a', 'two']);
  });

  test('and what is done before the server takes it is counted from there: taken back here, it is taken back there', async () => {
    await leave(rename('a', 'one'));
    session = await open();
    expect(part(session.kit, 'a').name).toBe('one');
    session.run(rename('a', 'a'));
    await session.kept();
    // This page ends too, before anything was saved.
    session.close();
    await new Promise(setImmediate);
    nextPage({ ended: true });
    shelf.offline = false;
    session = await open();
    await session.flush();
    await session.flush();
    expect([part(session.kit, 'a').name, part(shelf.document, 'a').name]).toEqual(['a', 'a']);
  });

  test('and is taken back in the same page, before it was saved', async () => {
    await leave(rename('a', 'one'));
    session = await open();
    session.run(rename('a', 'a'));
    shelf.offline = false;
    await session.flush();
    await session.flush();
    expect([part(session.kit, 'a').name, part(shelf.document, 'a').name, state().save]).toEqual(['a', 'a', 'saved']);
  });

  test('that fits nothing any more is set aside with a note, and the kit opens', async () => {
    await leave(callOf(reparentParts, { parts: ['b'], parent: 'a', keep: 'world' }));
    shelf.offline = false;
    shelf.elsewhere(withoutA);
    session = await open();
    await session.flush();
    expect([part(session.kit, 'b').parent, state().save]).toEqual([null, 'saved']);
    expect(notices[0]).toMatch(/set aside: the list of revisions has it/);
    expect(shelf.notes).toHaveLength(1);
    session.close();
    await new Promise(setImmediate);
    session = await open();
    expect(shelf.notes).toHaveLength(1);
  });

  test('in a part that is gone is set aside, and the kit opens as it is', async () => {
    await leave(rename('a', 'mine'));
    shelf.offline = false;
    shelf.elsewhere(withoutA);
    session = await open();
    await session.flush();
    expect([state().save, session.kit.parts.a, shelf.notes.length]).toEqual(['saved', undefined, 1]);
  });

  test('partly in a part that is gone: the rest of it comes back, that alone is set aside', async () => {
    await leave(callOf(renameParts, { names: { a: 'mine', b: 'stays' } }));
    shelf.offline = false;
    shelf.elsewhere(withoutA);
    session = await open();
    await session.flush();
    expect([state().save, part(shelf.document, 'b').name, shelf.notes.length]).toEqual(['saved', 'stays', 1]);
  });

  test('partly in a part that is gone, and the server takes nothing for a while: the rest is there in the end, once', async () => {
    await leave(callOf(renameParts, { names: { a: 'mine', b: 'stays' } }));
    shelf.elsewhere(withoutA);
    session = await open();
    session.run(rename('c', 'three'));
    await session.flush();
    expect([part(session.kit, 'b').name, part(shelf.document, 'b').name]).toEqual(['stays', 'b']);
    shelf.offline = false;
    await session.flush();
    await session.flush();
    expect([state().save, part(shelf.document, 'b').name, part(shelf.document, 'c').name]).toEqual(['saved', 'stays', 'three']);
  });

  test('is told to the server, which then does not say what is newest: what is done meanwhile is not lost with the page', async () => {
    await leave(rename('a', 'one'));
    session = await open();
    shelf.offline = false;
    jest.mocked(api.loadKit).mockRejectedValue(new OfflineError());
    await session.flush();
    expect(part(shelf.document, 'a').name).toBe('one');
    session.run(rename('a', 'two'));
    await session.kept();
    // The page ends, and another one opens.
    nextPage({ ended: true });
    jest.mocked(api.loadKit).mockImplementation(() => Promise.resolve({ id: 'kit', revision: shelf.revision, document: shelf.document }));
    const next = await open();
    expect([part(next.kit, 'a').name, next.store.getState().save]).not.toContain('conflict');
    await next.flush();
    expect([part(next.kit, 'a').name, part(shelf.document, 'a').name]).toEqual(['two', 'two']);
    next.close();
  });

  test('on a field that another one changed is asked, with both values', async () => {
    await leave(rename('a', 'mine'));
    shelf.offline = false;
    shelf.elsewhere((kit) => ({ ...kit, parts: { ...kit.parts, a: { ...kit.parts.a, name: 'theirs' } } }));
    session = await open();
    expect(state().clashes!.map(({ change, theirs }) => [change.now, theirs])).toEqual([['mine', 'theirs']]);
    session.decide(() => true);
    await session.flush();
    expect(part(shelf.document, 'a').name).toBe('mine');
  });

  test('comes with its data blocks, which the server is sent before the change', async () => {
    const stored: string[] = [];
    jest.spyOn(api, 'storeBlobs').mockImplementation((entries) => {
      if (shelf.offline) throw new OfflineError();
      stored.push(...entries.map(([sha]) => sha));
      return Promise.resolve(new Response());
    });
    const picture = session.blobs.put(new Uint8Array([1, 2, 3]));
    await leave(rename('a', 'one'), {
      operation: 'kit.rename',
      args: { name: 'Other' },
    });
    expect(stored).toEqual([]);
    shelf.offline = false;
    session = await open();
    await session.flush();
    // Nothing of the kit names it: it is not kept.
    expect([session.blobs.has(picture), shelf.document.name]).toEqual([false, 'Other']);
  });

  test('is known to the shelf, as long as its window is gone', async () => {
    await leave(rename('a', 'one'));
    expect([...(await unsavedKits())]).toEqual(['kit']);
    shelf.offline = false;
    session = await open();
    await session.flush();
    await session.kept();
    expect([...(await unsavedKits())]).toEqual([]);
  });
});

test('tries are further and further apart while the server is away, and that is said', async () => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick', 'performance'] });
  shelf.offline = true;
  session.run(rename('a', 'one'));
  const pauses: number[] = [];
  for (let i = 0; i < 7; i++) {
    await session.flush();
    pauses.push(Number(/next try is in (\d+) s/.exec(state().saveMessage!)![1]));
  }
  jest.useRealTimers();
  expect(pauses).toEqual([1, 2, 4, 8, 16, 30, 30]);
});

test('what the server will not have is said, and does not stand in the way of the next change', async () => {
  jest.mocked(api.saveKit).mockRejectedValueOnce(new ApiError(422, 'kit-schema', 'The kit would not hold together.'));
  session.run(rename('a', 'one'));
  await session.flush();
  expect([state().save, state().saveMessage]).toEqual(['refused', 'The kit would not hold together.']);
  session.run(rename('b', 'two'));
  await session.flush();
  expect([state().save, part(shelf.document, 'a').name, part(shelf.document, 'b').name]).toEqual(['saved', 'one', 'two']);
});

test('an operation says what was chosen by it, and several say it together', () => {
  const { clip, keys } = session.run([callOf(addClip, { id: 'made', name: 'walk', lengthSeconds: 1, rate: 30, loop: 'loop' })]);
  expect([clip, keys]).toEqual(['made', undefined]);
  expect(session.run(rename('a', 'x'))).toEqual({});
});

/** What a person in one of two windows does, or what happens to the server between them. */
type Deed =
  | { kind: 'name'; who: 0 | 1; part: number; to: string }
  | { kind: 'move'; who: 0 | 1; part: number; to: number }
  | { kind: 'undo' | 'redo' | 'save'; who: 0 | 1 }
  | { kind: 'away' | 'back' | 'lose' }
  | { kind: 'pause' };

const who = fc.constantFrom<0 | 1>(0, 1);
const deeds: fc.Arbitrary<Deed[]> = fc.array(
  fc.oneof(
    {
      weight: 4,
      arbitrary: fc.record({
        kind: fc.constant('name' as const),
        who,
        part: fc.nat(1),
        to: fc.constantFrom('jib', 'mast', 'hook', 'winch', 'cab'),
      }),
    },
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('move' as const), who, part: fc.nat(1), to: fc.integer({ min: -9, max: 9 }) }) },
    { weight: 3, arbitrary: fc.record({ kind: fc.constantFrom('undo' as const, 'redo' as const), who }) },
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('save' as const), who }) },
    { weight: 2, arbitrary: fc.constantFrom<Deed>({ kind: 'away' }, { kind: 'back' }, { kind: 'lose' }, { kind: 'pause' }) },
  ),
  { maxLength: 30 },
);

/** Parts that only the one, or only the other window changes. */
const OWN = [
  ['a', 'b'],
  ['c', 'd'],
];

test('two windows that change parts of their own, save, undo and lose the server in any order: each ends with what both last saw of theirs', async () => {
  await fc.assert(
    fc.asyncProperty(deeds, async (list) => {
      session.close();
      const kit = emptyKit('Crane');
      for (const id of OWN.flat()) kit.parts[id] = newPart({ id, name: id });
      shelf = new Shelf(kit);
      Object.assign(globalThis, { localStorage: new MemoryStorage(), indexedDB: new IDBFactory() });
      held.clear();
      nextPage({ ended: true });
      const first = await open();
      nextPage({ ended: false });
      const windows = [first, await open()];
      session = first;
      try {
        await live(windows, list, { ...kit.parts });
      } finally {
        for (const window of windows) window.close();
        for (let i = 0; i < 5; i++) await new Promise((resolve) => setTimeout(resolve, 2));
        session = await open();
      }
    }),
    { numRuns: 25, endOnFailure: true },
  );
});

/** Does all deeds, brings the server back, and looks at what is there in the end. @param seen Each part as its own window last saw it. */
async function live(windows: readonly Session[], list: readonly Deed[], seen: Record<string, Kit['parts'][string]>): Promise<void> {
  for (const deed of list) {
    if (deed.kind === 'pause') await new Promise((resolve) => setTimeout(resolve, 3));
    else if (deed.kind === 'lose') shelf.answersLost = 1;
    else if (!('who' in deed)) shelf.offline = deed.kind === 'away';
    else {
      const window = windows[deed.who];
      if (deed.kind === 'name') window.run(rename(OWN[deed.who][deed.part], deed.to));
      else if (deed.kind === 'move') window.run(callOf(setTransform, { part: OWN[deed.who][deed.part], translation: [deed.to, 0, 0] }));
      else if (deed.kind === 'save') await window.flush();
      else window[deed.kind]();
      for (const id of OWN[deed.who]) seen[id] = window.kit.parts[id];
    }
  }
  shelf.offline = false;
  shelf.answersLost = 0;
  for (let round = 0; round < 6; round++) for (const window of windows) await window.flush();
  for (const window of windows) expect(window.store.getState().save).toBe('saved');
  expect(shelf.document.parts).toEqual(seen);
  // What the other one saved last comes in by itself.
  const same = ({ kit }: Session) => JSON.stringify(kit) === JSON.stringify(shelf.document);
  for (let i = 0; i < 40 && !windows.every(same); i++) await new Promise((resolve) => setTimeout(resolve, 5));
  for (const window of windows) expect(window.kit).toEqual(shelf.document);
}
