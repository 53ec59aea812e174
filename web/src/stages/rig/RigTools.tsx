'use client';
import Divider from '@mui/material/Divider';
import AccessibilityNew from '@mui/icons-material/AccessibilityNew';
import Brush from '@mui/icons-material/Brush';
import Flip from '@mui/icons-material/Flip';
import Polyline from '@mui/icons-material/Polyline';
import RestartAlt from '@mui/icons-material/RestartAlt';
import Texture from '@mui/icons-material/Texture';
import ViewInAr from '@mui/icons-material/ViewInAr';
import { useEffect, type ReactNode } from 'react';
import { jointsOf } from '@itchkit/core/document';
import { useKit, useRulebook, useSetSlice, useSetUi, useUi } from '../../session/context';
import type { RigMode } from './rig-state';
import { Toggle, ToolButton, ViewTools } from '../../bench/BenchTools';

const MODES: { id: RigMode; label: string; icon: ReactNode }[] = [
  { id: 'joints', label: 'Joints', icon: <Polyline sx={{ fontSize: 17 }} /> },
  { id: 'weights', label: 'Weights', icon: <Texture sx={{ fontSize: 17 }} /> },
  { id: 'poses', label: 'Poses', icon: <AccessibilityNew sx={{ fontSize: 17 }} /> },
  { id: 'bodies', label: 'Bodies', icon: <ViewInAr sx={{ fontSize: 17 }} /> },
];

/** What is worked at: joints, what they hold, poses to prove it, rigid bodies. */
export function RigTools() {
  const rig = useUi((state) => state.rig);
  const setRig = useSetSlice('rig');
  const setUi = useSetUi();
  const kit = useKit();
  const rulebook = useRulebook();
  // A rigid thing is rigged by bodies: where a kit has some, or its platform asks for them and there is no joint.
  useEffect(() => {
    if (rig.entered) return;
    const rigid = kit.bodies !== undefined || rulebook?.rules.some(({ check }) => check.startsWith('assembly.'));
    setRig({ entered: true, ...(rigid && jointsOf(kit).size === 0 ? { mode: 'bodies' } : {}) });
  }, [rig.entered, kit, rulebook, setRig]);
  const moved = rig.pose !== null || Object.keys(rig.values).length > 0;
  return (
    <>
      {MODES.map(({ id, label, icon }) => (
        <Toggle
          key={id}
          on={rig.mode === id}
          onChange={() => {
            setRig({ mode: id, brush: { ...rig.brush, on: false }, values: {}, ...(id === 'bodies' ? { pose: null } : {}) });
            setUi({ pickMode: 'parts', faces: null });
          }}
          label={label}
          icon={icon}
        />
      ))}
      <Divider orientation="vertical" flexItem sx={{ mx: 0.5 }} />
      <Toggle
        on={rig.symmetric}
        onChange={() => setRig({ symmetric: !rig.symmetric })}
        label="Both sides"
        icon={<Flip sx={{ fontSize: 17 }} />}
      />
      {rig.mode === 'weights' && (
        <Toggle
          on={rig.brush.on}
          onChange={() => setRig({ brush: { ...rig.brush, on: !rig.brush.on } })}
          label="Brush"
          keys="B"
          icon={<Brush sx={{ fontSize: 17 }} />}
        />
      )}
      <ToolButton
        label="Rest"
        hint="Back to rest (R). Rest itself is never touched"
        disabled={!moved}
        icon={<RestartAlt sx={{ fontSize: 17 }} />}
        onClick={() => setRig({ pose: null, values: {} })}
      />
      <Divider orientation="vertical" flexItem sx={{ mx: 0.5 }} />
      <ViewTools />
    </>
  );
}
