'use client';
import { useEffect } from 'react';
import { isEmptyBounds } from '@itchkit/core/geometry';
import type { OverlayProps } from '../../bench/bench-stage';
import { calloutMarks } from '../../bench/point-marks';
import { sizeMarks } from '../../bench/size-marks';
import { useKit, useRulebook, useUi } from '../../session/context';

/** What Shape draws over the kit: measures, the tiles underneath and a size class; and the hinge that a drag tries. */
export function ShapeOverlays({ view, bounds, tokens }: OverlayProps): null {
  const kit = useKit();
  const rulebook = useRulebook();
  const { footprint, ghost } = useUi((state) => state.shape);
  const callouts = useUi((state) => state.callouts);
  const swing = useUi((state) => state.swing);

  useEffect(() => view.setSwing(swing), [view, swing]);

  useEffect(() => view.setOverlay('measures', callouts ? calloutMarks(kit, tokens) : null), [view, callouts, kit, tokens]);

  useEffect(() => {
    const size = rulebook?.sizeClasses?.find(({ name }) => name === ghost) ?? null;
    const shown = !isEmptyBounds(bounds) && (footprint || size);
    const tileMetres = rulebook?.tileMetres ?? 1;
    view.setOverlay('size', shown ? sizeMarks({ bounds, tileMetres, footprint, ghost: size }, tokens) : null);
  }, [view, bounds, rulebook, footprint, ghost, tokens]);

  useEffect(
    () => () => {
      view.setSwing(null);
      for (const name of ['measures', 'size']) view.setOverlay(name, null);
    },
    [view],
  );
  return null;
}
