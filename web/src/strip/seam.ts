import { useDeferredValue, useMemo } from 'react';
import type { Blobs, Clip, Kit } from '@itchkit/core/document';
import { MeasuredVertices } from '@itchkit/core/geometry';
import { SeamMeasure, type SeamFigure } from '@itchkit/core/motion';
import { useKit, useOpenKit } from '../session/context';

/** A seam that is less than this meets, millimetres. */
export const MEETS_WITHIN = 0.5;

let measured: { kit: Pick<Kit, 'parts' | 'meshes' | 'skins'>; vertices: MeasuredVertices } | null = null;

/** Vertices stay the same while keys alone are changed. */
function verticesOf(kit: Kit, blobs: Blobs): MeasuredVertices {
  if (measured?.kit.parts !== kit.parts || measured.kit.meshes !== kit.meshes || measured.kit.skins !== kit.skins)
    measured = { kit: { parts: kit.parts, meshes: kit.meshes, skins: kit.skins }, vertices: new MeasuredVertices(kit, blobs) };
  return measured.vertices;
}

/** How a loop's end meets its start as it is played; null where the clip is no loop, or nothing moves in it. */
export function seamOf(kit: Kit, clip: Clip, blobs: Blobs): SeamFigure | null {
  if (clip.loop !== 'loop' || clip.tracks.length === 0) return null;
  return new SeamMeasure(kit, clip, blobs, null, verticesOf(kit, blobs)).between(clip.lengthSeconds, 0, 1 / clip.rate);
}

/** The same, worked out after what is more urgent. */
export function useSeam(clip: Clip): SeamFigure | null {
  const { blobs } = useOpenKit().session;
  const shown = useDeferredValue(useKit());
  const own = shown.clips[clip.id];
  return useMemo(() => (own ? seamOf(shown, own, blobs) : null), [shown, own, blobs]);
}
