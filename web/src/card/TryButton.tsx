'use client';
import Button, { type ButtonProps } from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import type { Call } from '@itchkit/core/document';
import { meshCounts } from '@itchkit/core/geometry';
import { useKit, useOpenKit, useRun } from '../session/context';

/** Milliseconds that the pointer rests before something is tried. */
const REST = 160;
/** In kits of more triangles, where trying takes longer than a glance. */
const REST_LARGE = 700;
const LARGE = 150_000;

type Calls = Call | Call[];

/** What an element needs to show on the bench what it would do, for as long as the pointer or the keyboard rests on it. */
export function useTrying() {
  const { ui } = useOpenKit();
  const kit = useKit();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const mine = useRef<Call[] | null>(null);
  const stop = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    if (mine.current && ui.getState().proposal === mine.current) ui.setState({ proposal: null });
    mine.current = null;
  };
  const latest = useRef(stop);
  useEffect(() => {
    latest.current = stop;
  });
  useEffect(() => () => latest.current(), []);
  const rest = Object.values(kit.parts).reduce((sum, part) => sum + meshCounts(kit, part.mesh).triangles, 0) > LARGE ? REST_LARGE : REST;
  /** @param at What is rested on: once it is gone, as a list that was closed, it is not tried any more. */
  const begin = (calls: () => Calls | null, at?: Element) => {
    stop();
    timer.current = setTimeout(() => {
      // Where a section tries something of its own already, that stays.
      if (ui.getState().proposal !== null || at?.isConnected === false) return;
      const made = calls();
      if (made === null) return;
      mine.current = Array.isArray(made) ? made : [made];
      ui.setState({ proposal: mine.current, compare: false });
    }, rest);
  };
  const trying = (calls: () => Calls | null) => ({
    onPointerEnter: (event: { currentTarget: Element }) => begin(calls, event.currentTarget),
    onPointerLeave: stop,
    onFocus: (event: { target: Element }) => event.target.matches(':focus-visible') && begin(calls, event.target),
    onBlur: stop,
  });
  return { trying, begin, stop };
}

interface TryButtonProps extends Omit<ButtonProps, 'onClick'> {
  calls: () => Calls | null;
  /** Of several calls as one step of history. */
  step?: string;
  onDone?: () => void;
}

/** A button for an operation: what it would do is seen on the bench before it is pressed. */
export function TryButton({ calls, step, onDone, children, ...button }: TryButtonProps) {
  const run = useRun();
  const { trying, stop } = useTrying();
  return (
    <Button
      variant="outlined"
      {...button}
      {...trying(calls)}
      onClick={() => {
        stop();
        const made = calls();
        if (made !== null && run(made, step)) onDone?.();
      }}
    >
      {children}
    </Button>
  );
}
