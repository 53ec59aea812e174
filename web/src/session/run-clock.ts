/** Something that plays. */
export interface Playing {
  clip: string | null;
  time: number;
  playing: boolean;
}

export interface PlayStore {
  getState(): Playing;
  setState(change: Partial<Playing>): void;
}

interface ClockOptions {
  /** Where it ends by itself, seconds; null goes on. */
  stopAfter: number | null;
  /** Factor of the time; asked at every frame. */
  speed?: () => number;
  /** The only stretch that is played, seconds; asked at every frame. */
  range?: () => readonly [number, number] | null;
}

/** The clock that runs a store just now: a newer one takes its place, so that two starts never play at double speed. */
const running = new WeakMap<PlayStore, symbol>();

/** Runs a store's time along with the clock, a step a drawn frame, until `playing` is let go or another clock is started for it. */
export function runClock(store: PlayStore, { stopAfter, speed = () => 1, range = () => null }: ClockOptions): void {
  const own = Symbol('clock');
  running.set(store, own);
  let before = performance.now();
  const tick = (now: number) => {
    const state = store.getState();
    if (!state.playing || running.get(store) !== own) return;
    let time = state.time + ((now - before) / 1000) * speed();
    before = now;
    const within = range();
    if (within) {
      const [from, to] = within;
      if (time >= to || time < from) time = from + ((time - from) % (to - from));
      store.setState({ time: Math.max(from, time) });
    } else if (stopAfter !== null && time >= stopAfter) {
      store.setState({ time: stopAfter, playing: false });
      return;
    } else store.setState({ time });
    requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
}

/** When playing ends by itself: clips that loop go on. */
export function endOf(clip: { loop: string; lengthSeconds: number }): number | null {
  return clip.loop === 'once' || clip.loop === 'hold' ? clip.lengthSeconds : null;
}

/** Plays what is open, from the start where it had ended, or stops. */
export function togglePlay(
  store: PlayStore,
  clips: Readonly<Record<string, { loop: string; lengthSeconds: number }>> | undefined,
  options: Omit<ClockOptions, 'stopAfter'> = {},
): void {
  const state = store.getState();
  if (state.playing) return store.setState({ playing: false });
  const clip = state.clip === null ? undefined : clips?.[state.clip];
  if (!clip) return;
  const end = endOf(clip);
  store.setState({ playing: true, time: end !== null && state.time >= end ? 0 : state.time });
  runClock(store, { ...options, stopAfter: end });
}
