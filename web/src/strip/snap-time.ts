import type { Clip } from '@itchkit/core/document';

/** What times are put onto when they are pointed at: the clip's own frames, so many steps a second, or nothing. */
export type Snap = 'frame' | number | null;

/** What a choice in the list says: “frame”, “free”, or steps a second. */
export function snapNamed(value: string): Snap {
  if (value === 'free') return null;
  return value === 'frame' ? value : Number(value);
}

/** Seconds between two places that times are put onto, or of a frame where there are none. */
export const snapStep = ({ rate }: Pick<Clip, 'rate'>, snap: Snap): number => 1 / (typeof snap === 'number' ? snap : rate);

export function snapTime(time: number, clip: Pick<Clip, 'rate'>, snap: Snap): number {
  if (snap === null) return Number(time.toFixed(4));
  const rate = snap === 'frame' ? clip.rate : snap;
  return Number((Math.round(time * rate) / rate).toFixed(9));
}
