'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { openPlot, Park, putDown, type Ground, type ParkCounts } from '@itchkit/core/trial';
import type { Rulebook } from '@itchkit/core/rulebook';
import { setSlice, useOpenKit } from '../../session/context';
import { useTrial, type InTrial } from '../trial-state';

/** Seconds that a step may be at most: a page that was away does not leap. */
const LONGEST = 0.1;

/** How a park is played, as a person asks for it. */
export interface ParkWish {
  visitors: number;
  /** Seconds after which a ride begins that is not full. */
  wait: number;
  quarters: number;
  ground: Ground;
  /** Times as fast as it is. */
  speed: number;
}

const FIRST: ParkWish = { visitors: 30, wait: 20, quarters: 0, ground: 'level', speed: 1 };

export interface LivePark {
  wish: ParkWish;
  ask: (change: Partial<ParkWish>) => void;
  seconds: number;
  state: string;
  counts: ParkCounts;
  /** Why some are stuck, with how many. */
  reasons: [why: string, many: number][];
  /** How many edges nobody can come by, as it was put down. */
  closed: number;
  again: () => void;
}

/** The park about the loaded package, while it is played. Asking for another number of visitors or another place begins anew. */
export function usePark(loaded: InTrial, rulebook: Rulebook): LivePark {
  const { ui } = useOpenKit();
  const playing = useTrial((state) => state.playing);
  const [wish, setWish] = useState(FIRST);
  const [round, setRound] = useState(0);
  const plot = useMemo(() => openPlot(loaded, rulebook), [loaded, rulebook]);
  const { quarters, ground, visitors, wait, speed } = wish;
  const placed = useMemo(() => putDown(plot, { quarters, ground }, rulebook.tileMetres), [plot, quarters, ground, rulebook]);
  const park = useMemo(
    () => new Park(plot, { visitors, wait, closed: placed.closed }),
    // Another round is a park of its own.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [plot, visitors, wait, placed, round],
  );
  const [, setShown] = useState(0);
  const show = useCallback(() => {
    const { clip, time } = park.playing;
    const about = park.visitors.filter(({ phase }) => phase !== 'gone' && phase !== 'sits');
    setSlice(ui, 'trial', {
      clip,
      time,
      walkers: about.map(({ at }) => [...at] as const),
      seated: park.visitors.flatMap(({ phase, seat }) => (phase === 'sits' && seat !== null ? [seat] : [])),
      terrain: ground === 'level' ? null : placed.around,
    });
    setShown((n) => n + 1);
  }, [park, ui, ground, placed]);
  useEffect(() => show(), [show]);

  const latest = useRef(speed);
  useEffect(() => {
    latest.current = speed;
  }, [speed]);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      park.pass(latest.current * Math.min(LONGEST, Math.max(0, now - before) / 1000));
      before = now;
      show();
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, park, show]);

  const reasons = new Map<string, number>();
  for (const { why } of park.visitors) if (why !== '') reasons.set(why, (reasons.get(why) ?? 0) + 1);
  return {
    wish,
    ask: (change) => setWish({ ...wish, ...change }),
    seconds: park.seconds,
    state: plot.plays[park.state]?.rule.title ?? '',
    counts: park.counts,
    reasons: [...reasons],
    closed: placed.closed.length,
    again: () => setRound(round + 1),
  };
}
