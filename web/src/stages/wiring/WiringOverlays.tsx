'use client';
import { useEffect, useMemo } from 'react';
import { sizeOf } from '@itchkit/core/geometry';
import type { OverlayProps } from '../../bench/bench-stage';
import { useKit, useRulebook, useUi } from '../../session/context';
import { boundLevers, inView } from './levers';
import { useProbe } from './use-probe';
import { wayMarks } from './wiring-marks';

/** Draws which way the chosen part goes where its variable rises, beside the way that it should go. */
export function WiringOverlays({ view, bounds, tokens }: OverlayProps): null {
  const kit = useKit();
  const rulebook = useRulebook();
  const id = useUi((state) => state.binding);
  const levers = useMemo(() => boundLevers(kit, rulebook), [kit, rulebook]);
  const found = inView(levers, id);
  const probe = useProbe(found?.lever, found?.binding);
  useEffect(() => {
    view.setOverlay('way', probe ? wayMarks(probe, 0.16 * Math.max(0.1, ...sizeOf(bounds)), tokens) : null);
    return () => view.setOverlay('way', null);
  }, [view, probe, bounds, tokens]);
  return null;
}
