import type { LoopMode } from '../document';

/**
 * Where in a clip a running time falls, seconds; null where the clip shows rest (`once`, after its end).
 *
 * @param time Seconds since the clip was started.
 */
export function clipTime(loop: LoopMode, lengthSeconds: number, time: number): number | null {
  if (lengthSeconds <= 0 || time <= 0) return 0;
  switch (loop) {
    case 'once':
      return time > lengthSeconds ? null : time;
    case 'hold':
      return Math.min(time, lengthSeconds);
    case 'loop':
      // The very end of the first round is its end, so that it can be looked at and keyed; after that it is the start of the next.
      return time <= lengthSeconds ? time : time % lengthSeconds;
    case 'ping-pong': {
      const phase = time % (2 * lengthSeconds);
      return phase <= lengthSeconds ? phase : 2 * lengthSeconds - phase;
    }
  }
}
