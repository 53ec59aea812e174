import 'fake-indexeddb/auto';
import { Session } from '../../web/src/session/session';
import { forgetJournal } from '../../web/src/session/journal';
import { forgetSteps } from '../../web/src/session/kept-steps';
import { MemoryStorage } from '../../web/src/session/memory-storage';
import { forgetWindow } from '../../web/src/session/window-name';

/**
 * The application's own session, saving and journal, run as a page without its interface: what a browser would give it is made here. One
 * page lives at a time; its store outlives it.
 */
export interface Page {
  session: Session;
  /** What it told its person. */
  notices: string[];
  /** Ends as under kill -9: nothing more is sent, nothing more comes in. */
  kill(): void;
}

const realFetch = globalThis.fetch;
let living = 0;

/** The last that was asked of the server, and how it answered, by whichever page. */
export const trail: string[] = [];
const MOST_TRAIL = 60;

function note(line: string): void {
  trail.push(line);
  if (trail.length > MOST_TRAIL) trail.shift();
}

/** Checks run elsewhere; here nobody looks at findings. */
class NoWorker {
  postMessage(): void {}
  addEventListener(): void {}
  removeEventListener(): void {}
  terminate(): void {}
}

const never = () => new Promise<never>(() => undefined);

/** What of a session has to stop with its page. */
interface Insides {
  saving: { timer?: NodeJS.Timeout; channel: BroadcastChannel; start: () => unknown; flushNow: () => unknown; keep: () => void };
  journal: { write: () => void };
  steps: { keep: () => void };
}

export async function openPage(base: string, kit: string): Promise<Page> {
  const own = ++living;
  const held = new Set<string>();
  const locks = {
    request(name: string, _: object, done: (lock: object | null) => unknown) {
      const free = !held.has(name);
      held.add(name);
      done(free ? {} : null);
      return new Promise(() => undefined);
    },
    query: () => Promise.resolve({ held: [...held].map((name) => ({ name })) }),
  };
  Object.defineProperty(globalThis, 'navigator', { value: { locks }, configurable: true });
  Object.assign(globalThis, {
    sessionStorage: new MemoryStorage(),
    localStorage: new MemoryStorage(),
    window: { addEventListener: () => undefined, removeEventListener: () => undefined },
    Worker: NoWorker,
    EventSource: undefined,
    fetch: async (path: string, init?: RequestInit) => {
      // The test's own requests.
      if (!path.startsWith('/')) return realFetch(path, init);
      if (own !== living) return new Promise(() => undefined);
      const key = typeof init?.body === 'string' ? (/"key":"([^"]+)"/.exec(init.body)?.[1] ?? '') : '';
      const asked = `page ${own}: ${init?.method ?? 'GET'} ${path.slice(0, 40)} ${key}`;
      const response = await realFetch(base + path, { ...init, keepalive: false }).catch((error: unknown) => {
        note(`${asked} → nothing${own === living ? '' : ', and the page is gone'}`);
        throw error;
      });
      note(`${asked} → ${response.status}${own === living ? '' : ', but the page is gone'}`);
      // What comes after the end of the page comes to nobody.
      return own === living ? response : new Promise(() => undefined);
    },
  });
  forgetWindow();
  forgetJournal();
  forgetSteps();
  const notices: string[] = [];
  const session = await Session.open(kit, (message) => notices.push(message));
  return {
    session,
    notices,
    kill() {
      note(`page ${own} is killed`);
      living++;
      session.closed = true;
      const { saving, journal, steps } = session as unknown as Insides;
      clearTimeout(saving.timer);
      saving.channel.close();
      // Code that was under way goes on in this process, where a killed page's would not: it reaches nothing any more.
      saving.start = saving.flushNow = never;
      saving.keep = journal.write = steps.keep = () => undefined;
    },
  };
}
