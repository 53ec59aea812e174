'use client';
import Divider from '@mui/material/Divider';
import AdsClick from '@mui/icons-material/AdsClick';
import FormatPaint from '@mui/icons-material/FormatPaint';
import { useSetUi, useUi } from '../../session/context';
import type { PickMode } from '../../session/ui-store';
import { GizmoTools, Toggle, ViewTools } from '../../bench/BenchTools';
import { HierarchyTools } from './HierarchyTools';

/** Handles, names and parents, and what a click on the bench picks. */
export function ShapeTools() {
  const mode = useUi((state) => state.pickMode);
  const setUi = useSetUi();
  const pick = (one: PickMode) => setUi({ pickMode: mode === one ? 'parts' : one, gizmo: null });
  return (
    <>
      <GizmoTools />
      <Toggle on={mode === 'points'} onChange={() => pick('points')} label="Points" keys="O" icon={<AdsClick sx={{ fontSize: 17 }} />} />
      <Toggle on={mode === 'faces'} onChange={() => pick('faces')} label="Faces" keys="A" icon={<FormatPaint sx={{ fontSize: 17 }} />} />
      <HierarchyTools />
      <Divider orientation="vertical" flexItem sx={{ mx: 0.5 }} />
      <ViewTools callouts />
    </>
  );
}
