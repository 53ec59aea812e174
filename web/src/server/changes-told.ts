import { sql } from 'drizzle-orm';
import { Client } from 'pg';
import { log } from './log';
import type { Database } from './database';

/** What is told to all who have a kit open, through PostgreSQL's NOTIFY, so that it reaches every process of the application. */
export type Told = { kit: string; revision: number } | { kit: string; windows: true };

const CHANNEL = 'itchkit';

/** Tells it when the transaction is done, or at once outside of one. */
export async function tell(db: Database, told: Told): Promise<void> {
  await db.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(told)})`);
}

type Listener = (told: Told) => void;
/** The connection was away: what was told meanwhile is lost, so whoever listens looks for itself. */
type Gap = () => void;

const AGAIN_AFTER = 500;

/** Listens on one connection of its own for the whole process, and opens another where that one is lost. */
class Listening {
  private readonly listeners = new Map<Listener, Gap>();
  /** Open, or being opened; none while nobody listens. */
  private client: Client | null = null;

  add(listener: Listener, gap: Gap): () => void {
    this.listeners.set(listener, gap);
    if (!this.client) void this.start(false);
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size === 0) this.stop();
    };
  }

  private async start(again: boolean): Promise<void> {
    const client = new Client({ connectionString: process.env.DATABASE_URL, keepAlive: true });
    this.client = client;
    const lost = () => {
      if (this.client !== client) return;
      this.client = null;
      end(client);
      setTimeout(() => {
        if (!this.client && this.listeners.size > 0) void this.start(true);
      }, AGAIN_AFTER);
    };
    client.on('error', lost).on('end', lost);
    client.on('notification', ({ payload }) => {
      const told = JSON.parse(payload ?? 'null') as Told;
      for (const listener of [...this.listeners.keys()]) listener(told);
    });
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      if (again) for (const gap of [...this.listeners.values()]) gap();
    } catch (error) {
      log().warn({ error }, 'listening for changes');
      lost();
    }
  }

  private stop(): void {
    const { client } = this;
    this.client = null;
    if (client) end(client);
  }
}

/** Ends a connection, whatever state it is in. */
function end(client: Client): void {
  client.removeAllListeners();
  client.on('error', () => undefined);
  client.end().catch(() => undefined);
}

const held = globalThis as unknown as { itchKitListening?: Listening };

/** Hears what is told, until the function that it gives is called. */
export const listen = (listener: Listener, gap: Gap): (() => void) => (held.itchKitListening ??= new Listening()).add(listener, gap);
