'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Id } from '@itchkit/core/document';
import { figureFacts, NEW_FIGURE, playFigure, poseOfFigure, type Figure, type FigureFacts, type FigureWish } from '@itchkit/core/trial';
import type { Rulebook } from '@itchkit/core/rulebook';
import { setSlice, useOpenKit } from '../../session/context';
import { useTrial, type InTrial } from '../trial-state';

/** Seconds that a step may be at most: a page that was away does not leap. */
const LONGEST = 0.1;

/** A figure after a step in which it only looks about: what it plays stands still. */
function lookOn(now: Figure, next: Figure): Figure {
  const { clip, time, once, heard, seconds, place } = now;
  return { ...next, clip, time, once, heard, seconds, place };
}

/** Whether nothing of a figure has moved. */
const alike = (a: Figure, b: Figure): boolean => a.facing === b.facing && a.turn === b.turn && a.nod === b.nod;

export interface LiveFigure {
  figure: Figure;
  facts: FigureFacts;
  wish: FigureWish;
  quiet: readonly Id[];
  ask: (change: Partial<FigureWish>) => void;
  playOnce: (clip: Id) => void;
  setQuiet: (quiet: readonly Id[]) => void;
  /** Puts it down anew. */
  again: () => void;
}

/** A figure of the loaded package that lives while it is played, and looks about at any time. */
export function useFigure(loaded: InTrial, rulebook: Rulebook): LiveFigure {
  const { ui } = useOpenKit();
  const playing = useTrial((state) => state.playing);
  const facts = useMemo(() => figureFacts(loaded, rulebook), [loaded, rulebook]);
  const [figure, setFigure] = useState(NEW_FIGURE);
  const [wish, setWish] = useState<FigureWish>({ gaze: [0, 0], gait: 'stands' });
  const [quiet, setQuiet] = useState<readonly Id[]>([]);
  const at = useRef(figure);

  const show = useCallback(
    (next: Figure) => {
      at.current = next;
      setFigure(next);
      const { clip, time, levers, held } = poseOfFigure(facts, next, quiet);
      setSlice(ui, 'trial', { clip, time, levers: levers ?? {}, held, quiet });
    },
    [facts, quiet, ui],
  );

  // What runs along changes what is seen at once; a figure that does nothing is not drawn again and again.
  useEffect(() => show(at.current), [show]);
  useEffect(() => {
    let before = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      const seconds = Math.min(LONGEST, Math.max(0, now - before) / 1000);
      before = now;
      const next = playFigure(loaded.kit, facts, at.current, wish, seconds);
      const shown = playing ? next : lookOn(at.current, next);
      const settled = !playing && seconds > 0 && alike(shown, at.current);
      if (!settled) {
        show(shown);
        frame = requestAnimationFrame(tick);
      }
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, wish, facts, loaded, show]);

  return {
    figure,
    facts,
    wish,
    quiet,
    ask: (change) => setWish({ ...wish, ...change }),
    playOnce: (clip) => {
      at.current = { ...at.current, once: clip, clip: null };
      setSlice(ui, 'trial', { playing: true });
    },
    setQuiet,
    again: () => {
      show(NEW_FIGURE);
      // What it is asked for is asked again: a figure that had settled would stay as it was put down.
      setWish({ ...wish });
    },
  };
}
