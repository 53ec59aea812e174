import fc from 'fast-check';
import { callOf, newPart, emptyKit, patchKit, type Kit, type Patch } from '@itchkit/core/document';
import { addClip } from '@itchkit/core/motion';
import { removeParts, renameParts, reparentParts, setTransform } from '@itchkit/core/shape';
import { api, ApiError, OfflineError } from '../api';
import { forgetWindow } from './journal';
import { Session } from './session';

jest.mock('./check-worker', () => ({
  CheckWorker: class {
    check = () => Promise.resolve({});
    safeMends = () => Promise.resolve([]);
    close = () => undefined;
  },
}));

/** A server of one kit that keeps the rules of the real one: a change is taken on the newest revision alone. */
class Shelf {
  revision = 1;
  offline = false;
  causes: string[] = [];

  constructor(public document: Kit) {}

  save(base: number, patches: Patch[], cause: string): { revision: number } {
    if (this.offline) throw new OfflineError();
    if (base !== this.revision) throw new ApiError(409, 'stale', 'changed', { revision: this.revision, document: this.document });
    this.document = patchKit(this.document, patches);
    this.causes.push(cause);
    return { revision: ++this.revision };
  }

  /** What another window saves. */
  elsewhere(change: (kit: Kit) => Kit): void {
    this.document = change(this.document);
    this.revision++;
  }
}

const part = (kit: Kit, id: string) => kit.parts[id];
let shelf: Shelf;
let notices: string[];
let session: Session;

/** A browser's store: its keys are its own fields. */
class MemoryStorage {
  getItem(key: string): string | null {
    return Object.hasOwn(this, key) ? (this as unknown as Record<string, string>)[key] : null;
  }
  setItem(key: string, value: string): void {
    Object.assign(this, { [key]: value });
  }
  removeItem(key: string): void {
    delete (this as unknown as Record<string, string>)[key];
  }
}

/** Locks of a browser, held by pages until they end. */
const held = new Map<string, number>();
let page = 0;

/** From here on the code runs in another page of the browser; the one before lives on, or has ended. */
function nextPage({ ended }: { ended: boolean }): void {
  if (ended) for (const [name, by] of held) if (by === page) held.delete(name);
  page++;
  forgetWindow();
  const request = (name: string, _: object, done: (lock: object | null) => unknown) => {
    const free = !held.has(name);
    if (free) held.set(name, page);
    done(free ? {} : null);
    return new Promise(() => undefined);
  };
  Object.defineProperty(globalThis, 'navigator', { value: { locks: { request } }, configurable: true });
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
  });
  held.clear();
  nextPage({ ended: true });
  jest.spyOn(api, 'loadKit').mockImplementation(() => Promise.resolve({ id: 'kit', revision: shelf.revision, document: shelf.document }));
  jest.spyOn(api, 'listRulebooks').mockResolvedValue([]);
  jest.spyOn(api, 'loadBlobs').mockResolvedValue([]);
  jest.spyOn(api, 'setSummary').mockResolvedValue({});
  jest
    .spyOn(api, 'saveKit')
    .mockImplementation((_, base, patches, cause) => Promise.resolve().then(() => shelf.save(base, patches, cause)));
  session = await open();
});

afterEach(() => session.close());

const state = () => session.store.getState();
const rename = (id: string, name: string) => callOf(renameParts, { names: { [id]: name } });

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
    const without = (kit: Kit): Kit => {
      const { a: _, ...parts } = kit.parts;
      return { ...kit, parts };
    };
    session.run(callOf(setTransform, { part: 'a', translation: [1, 2, 3] }));
    shelf.elsewhere(without);
    await session.flush();
  });

  test('the person is asked, and nothing is saved or thrown away meanwhile', async () => {
    expect(state().save).toBe('conflict');
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

  test('a full store of the browser does not stop the work', async () => {
    jest.spyOn(MemoryStorage.prototype, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    session.run(rename('a', 'kept'));
    await session.flush();
    expect(part(shelf.document, 'a').name).toBe('kept');
    jest.restoreAllMocks();
  });
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
  | { kind: 'away' | 'back' }
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
    { weight: 2, arbitrary: fc.constantFrom<Deed>({ kind: 'away' }, { kind: 'back' }, { kind: 'pause' }) },
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
      Object.assign(globalThis, { localStorage: new MemoryStorage() });
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
    { numRuns: 25 },
  );
});

/** Does all deeds, brings the server back, and looks at what is there in the end. @param seen Each part as its own window last saw it. */
async function live(windows: readonly Session[], list: readonly Deed[], seen: Record<string, Kit['parts'][string]>): Promise<void> {
  for (const deed of list) {
    if (deed.kind === 'pause') await new Promise((resolve) => setTimeout(resolve, 3));
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
  for (let round = 0; round < 4; round++) for (const window of windows) await window.flush();
  for (const window of windows) expect(window.store.getState().save).toBe('saved');
  expect(shelf.document.parts).toEqual(seen);
  // What the other one saved last comes in by itself.
  const same = ({ kit }: Session) => JSON.stringify(kit) === JSON.stringify(shelf.document);
  for (let i = 0; i < 40 && !windows.every(same); i++) await new Promise((resolve) => setTimeout(resolve, 5));
  for (const window of windows) expect(window.kit).toEqual(shelf.document);
}
