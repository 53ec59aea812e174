'use client';
import { useEffect } from 'react';
import { followOrders, type Order } from '@itchkit/core/trial';
import { setSlice, useOpenKit } from '../../session/context';
import { useTrial } from '../trial-state';

/** Seconds that a step may be at most: a page that was away does not leap. */
const LONGEST = 0.1;

/** Lets what orders move go on, at the platform's rates, for as long as one of them asks for anything. */
export function useOrders(orders: readonly Order[]): void {
  const { ui } = useOpenKit();
  const levers = useTrial((state) => state.levers);
  const going = followOrders(levers, orders, LONGEST) !== levers;
  useEffect(() => {
    if (!going) return;
    let before = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      const at = ui.getState().trial.levers;
      const next = followOrders(at, orders, Math.min(LONGEST, (now - before) / 1000));
      before = now;
      if (next !== at) setSlice(ui, 'trial', { levers: next });
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [going, orders, ui]);
}
