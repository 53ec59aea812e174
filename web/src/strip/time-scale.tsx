'use client';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import type { Clip } from '@itchkit/core';

/** Where a time is on the strip, pixels from its left edge, and back. */
export interface TimeScale {
  x: (seconds: number) => number;
  seconds: (x: number) => number;
  /** Width of the labels' column, pixels. */
  labels: number;
  pixelsPerSecond: number;
}

const Context = createContext<TimeScale | null>(null);

export function TimeScaleProvider({ clip, span, margin, labels, children }: { clip: Clip; span: number; margin: number; labels: number; children: ReactNode }) {
  const scale = useMemo((): TimeScale => {
    const pixelsPerSecond = span / clip.lengthSeconds;
    const start = labels + margin;
    return { x: (seconds) => start + seconds * pixelsPerSecond, seconds: (x) => (x - start) / pixelsPerSecond, labels, pixelsPerSecond };
  }, [clip.lengthSeconds, span, margin, labels]);
  return <Context.Provider value={scale}>{children}</Context.Provider>;
}

export function useTimeScale(): TimeScale {
  return useContext(Context)!;
}
