'use client';
import { useEffect } from 'react';
import { sizeOf } from '@itchkit/core/geometry';
import { useKit, useOpenKit, useUi } from '../session/context';
import type { OverlayProps } from './bench-stage';
import { faceSkin, pickedMarks } from './point-marks';

/** Picked points and chosen faces. */
export function SurfaceMarks({ view, bounds, tokens }: OverlayProps): null {
  const { session } = useOpenKit();
  const kit = useKit();
  const picked = useUi((state) => state.picked);
  const mode = useUi((state) => state.pickMode);
  const faces = useUi((state) => state.faces);

  useEffect(() => {
    const reach = 0.6 * Math.max(0.1, ...sizeOf(bounds));
    view.setOverlay('picked', mode === 'points' && picked.length > 0 ? pickedMarks(kit, picked, reach, tokens) : null);
  }, [view, mode, picked, kit, bounds, tokens]);

  useEffect(() => {
    const skin = mode === 'faces' && faces && kit.parts[faces.part] ? faceSkin(kit, session.blobs, faces.part, faces.chosen, tokens) : null;
    view.setOverlay('faces', skin, faces?.part);
  }, [view, mode, faces, kit, session, tokens]);

  useEffect(() => () => ['picked', 'faces'].forEach((name) => view.setOverlay(name, null)), [view]);
  return null;
}
