const FIRST_AFTER = 60_000;
const EVERY = 3_600_000;

/** Called by Next once when a process of the application starts: a little later, and every hour, it looks after what is kept. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const [{ database }, { keepHouse }, { log }] = await Promise.all([
    import('./server/database'),
    import('./server/history-store'),
    import('./server/log'),
  ]);
  const run = () => void keepHouse(database()).catch((error: unknown) => log().error({ error }, 'thinning the history'));
  setTimeout(run, FIRST_AFTER).unref();
  setInterval(run, EVERY).unref();
}
