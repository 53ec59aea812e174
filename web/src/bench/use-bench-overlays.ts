'use client';
import { useEffect, type RefObject } from 'react';
import { isEmptyBounds, sizeOf, type Bounds } from '@itchkit/core/geometry';
import type { Stage } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useUi } from '../session/context';
import type { Tokens } from '../theme/tokens';
import type { BenchView } from './bench-view';
import { calloutMarks, faceSkin, pickedMarks } from './point-marks';
import { sizeMarks } from './size-marks';

/** What Shape draws over the kit: picked points, chosen faces, measures, the tiles underneath and a size class. */
export function useBenchOverlays(view: RefObject<BenchView | null>, stage: Stage, bounds: Bounds, tokens: Tokens): void {
  const { session } = useOpenKit();
  const kit = useKit();
  const rulebook = useRulebook();
  const inShape = stage === 'shape';
  const picks = inShape || stage === 'rig';
  const picked = useUi((state) => state.picked);
  const mode = useUi((state) => state.pickMode);
  const faces = useUi((state) => state.faces);
  const footprint = useUi((state) => state.footprint);
  const ghost = useUi((state) => state.ghost);
  const callouts = useUi((state) => state.callouts);

  const swing = useUi((state) => state.swing);

  useEffect(() => view.current?.setPickMode(picks ? mode : 'parts'), [view, picks, mode]);
  useEffect(() => view.current?.setSwing(inShape ? swing : null), [view, inShape, swing]);

  useEffect(() => {
    const marks =
      picks && mode === 'points' && picked.length > 0 ? pickedMarks(kit, picked, 0.6 * Math.max(0.1, ...sizeOf(bounds)), tokens) : null;
    view.current?.setOverlay('picked', marks);
  }, [view, picks, mode, picked, kit, bounds, tokens]);

  useEffect(() => {
    const skin =
      picks && mode === 'faces' && faces && kit.parts[faces.part] ? faceSkin(kit, session.blobs, faces.part, faces.chosen, tokens) : null;
    view.current?.setOverlay('faces', skin, faces?.part);
  }, [view, picks, mode, faces, kit, session, tokens]);

  useEffect(
    () => view.current?.setOverlay('measures', inShape && callouts ? calloutMarks(kit, tokens) : null),
    [view, inShape, callouts, kit, tokens],
  );

  useEffect(() => {
    const size = rulebook?.sizeClasses?.find(({ name }) => name === ghost) ?? null;
    const shown = inShape && !isEmptyBounds(bounds) && (footprint || size);
    view.current?.setOverlay(
      'size',
      shown ? sizeMarks({ bounds, tileMetres: rulebook?.tileMetres ?? 1, footprint, ghost: size }, tokens) : null,
    );
  }, [view, inShape, bounds, rulebook, footprint, ghost, tokens]);
}
