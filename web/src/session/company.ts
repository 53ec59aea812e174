import { windowName } from './window-name';

export interface OpenWindow {
  window: string;
  name: string;
}

/** A window that is out of sight for so long lets its connection go: a browser has but six for all windows of a server, milliseconds. */
const OUT_OF_SIGHT = 20_000;

/** Hears from the server which revision of a kit is the newest and which windows have it in view. The browser connects again by itself. */
export class Company {
  private source: EventSource | null = null;

  /** @param onWindows Told all others, this window not among them. */
  constructor(
    private readonly kit: string,
    private readonly window: string,
    private readonly onRevision: (revision: number) => void,
    private readonly onWindows: (others: OpenWindow[]) => void,
  ) {
    this.connect();
    globalThis.document?.addEventListener('visibilitychange', this.seen);
  }

  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly seen = () => {
    clearTimeout(this.timer);
    if (document.visibilityState === 'hidden') this.timer = setTimeout(() => this.disconnect(), OUT_OF_SIGHT);
    else if (!this.source) this.connect();
  };

  /** Under the name that this window has now. */
  connect(): void {
    this.disconnect();
    if (typeof EventSource === 'undefined') return;
    const query = new URLSearchParams({ window: this.window, name: windowName(this.window) });
    this.source = new EventSource(`/api/kits/${this.kit}/events?${query}`);
    this.source.addEventListener('revision', (event) => this.onRevision(Number(event.data)));
    this.source.addEventListener('windows', (event) => {
      const all = JSON.parse(String(event.data)) as OpenWindow[];
      this.onWindows(all.filter(({ window }) => window !== this.window));
    });
  }

  private disconnect(): void {
    this.source?.close();
    this.source = null;
  }

  close(): void {
    clearTimeout(this.timer);
    globalThis.document?.removeEventListener('visibilitychange', this.seen);
    this.disconnect();
  }
}
