'use client';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import type { Clip } from '@itchkit/core/document';

/** Where a time is on the strip, pixels from its left edge, and back. */
export interface TimeScale {
  x: (seconds: number) => number;
  seconds: (x: number) => number;
  /** Width of the labels' column, pixels. */
  labels: number;
  pixelsPerSecond: number;
  /** What is in view, seconds. */
  from: number;
  to: number;
}

const Context = createContext<TimeScale | null>(null);

interface Provided {
  clip: Clip;
  /** Pixels that the clip is long. */
  span: number;
  margin: number;
  labels: number;
  /** Pixels that are scrolled away, and pixels in view. */
  scrolled: number;
  width: number;
  children: ReactNode;
}

export function TimeScaleProvider({ clip, span, margin, labels, scrolled, width, children }: Provided) {
  const scale = useMemo((): TimeScale => {
    const pixelsPerSecond = span / clip.lengthSeconds;
    const start = labels + margin;
    const seconds = (x: number) => (x - start) / pixelsPerSecond;
    return {
      x: (time) => start + time * pixelsPerSecond,
      seconds,
      labels,
      pixelsPerSecond,
      from: seconds(scrolled + labels - 40),
      to: seconds(scrolled + width + 40),
    };
  }, [clip.lengthSeconds, span, margin, labels, scrolled, width]);
  return <Context.Provider value={scale}>{children}</Context.Provider>;
}

export function useTimeScale(): TimeScale {
  return useContext(Context)!;
}
