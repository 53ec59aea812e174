import { listen } from './changes-told';
import type { Database } from './database';
import { loadRevisionNumber } from './kit-store';
import { log } from './log';
import { enterWindow, leaveWindow, openWindows, seeWindow, type OpenWindow } from './windows-store';

const BEAT = 10_000;

/**
 * Server-sent events of a kit for one window: `revision` with the number of the newest, `windows` with all that have it open. Both are said
 * at the start, after each change, and after the database was away.
 *
 * @throws {KitNotFoundError}
 */
export async function kitEvents(db: Database, kit: string, window: OpenWindow, signal: AbortSignal): Promise<ReadableStream<Uint8Array>> {
  const first = await loadRevisionNumber(db, kit);
  const encoder = new TextEncoder();
  let end = () => {};
  return new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          end();
        }
      };
      const say = (event: string, data: unknown) => write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      const trying = (work: () => Promise<void>) => void work().catch((error: unknown) => log().warn({ error, kit }, 'telling a window'));
      const sayWindows = () => trying(async () => say('windows', await openWindows(db, kit)));
      const sayAll = () =>
        trying(async () => {
          await seeWindow(db, kit, window);
          say('revision', await loadRevisionNumber(db, kit));
          sayWindows();
        });
      const unlisten = listen((told) => {
        if (told.kit !== kit) return;
        if ('revision' in told) say('revision', told.revision);
        else sayWindows();
      }, sayAll);
      const beat = setInterval(() => {
        write(': still here\n\n');
        trying(() => seeWindow(db, kit, window));
      }, BEAT);
      let over = false;
      end = () => {
        if (over) return;
        over = true;
        clearInterval(beat);
        unlisten();
        trying(() => leaveWindow(db, kit, window.window));
        try {
          controller.close();
        } catch {
          // The other side has closed it.
        }
      };
      signal.addEventListener('abort', () => end());
      say('revision', first);
      trying(() => enterWindow(db, kit, window).then(sayWindows));
    },
    cancel: () => end(),
  });
}
