'use client';
import Divider from '@mui/material/Divider';
import Add from '@mui/icons-material/Add';
import AutoAwesomeMotion from '@mui/icons-material/AutoAwesomeMotion';
import DirectionsWalk from '@mui/icons-material/DirectionsWalk';
import Key from '@mui/icons-material/Key';
import Edit from '@mui/icons-material/Edit';
import Pause from '@mui/icons-material/Pause';
import Videocam from '@mui/icons-material/Videocam';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { useState } from 'react';
import { callOf, freeName } from '@itchkit/core/document';
import { addClip } from '@itchkit/core/motion';
import { useKit, useOpenKit, useRulebook, useRun, useSetSlice, useUi } from '../../session/context';
import { keyHere, playOpenClip } from '../../strip/playing';
import { GizmoTools, Toggle, ToolButton } from '../../bench/BenchTools';
import { MotionLibrary } from './MotionLibrary';
import { OverlayMenu } from './OverlayMenu';

export function MotionTools() {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const setMotion = useSetSlice('motion');
  const setStrip = useSetSlice('strip');
  const rulebook = useRulebook();
  const clip = useUi((state) => (state.clip && kit.clips[state.clip] ? state.clip : null));
  const playing = useUi((state) => state.playing);
  const selected = useUi((state) => state.selection.length);
  const trail = useUi((state) => state.motion.trail);
  const follow = useUi((state) => state.motion.follow);
  const capture = useUi((state) => state.strip.capture);
  const [library, setLibrary] = useState(false);
  const add = () => {
    const taken = new Set(Object.values(kit.clips).map((one) => one.name));
    const wanted = rulebook?.motion?.clips?.find((slot) => slot.needed && !taken.has(slot.name));
    const name = wanted?.name ?? freeName('clip_1', taken, '_');
    run(callOf(addClip, { name, lengthSeconds: 2, rate: rulebook?.motion?.rate ?? 30, loop: wanted?.loop ?? 'loop' }));
  };
  return (
    <>
      <ToolButton
        label="Clip"
        name="Add clip"
        hint="A new clip, by the name that the target asks for next"
        icon={<Add sx={{ fontSize: 18 }} />}
        onClick={add}
      />
      <ToolButton
        label="Motions"
        hint="Put a motion from the shipped library on this skeleton"
        icon={<DirectionsWalk sx={{ fontSize: 18 }} />}
        onClick={() => setLibrary(true)}
      />
      <ToolButton
        label={playing ? 'Stop' : 'Play'}
        hint={`${playing ? 'Stop' : 'Play'} (Space)`}
        icon={playing ? <Pause sx={{ fontSize: 18 }} /> : <PlayArrow sx={{ fontSize: 18 }} />}
        disabled={!clip}
        onClick={() => playOpenClip(session, ui)}
      />
      <ToolButton
        label="Key"
        hint="Key the chosen parts at this time (K)"
        icon={<Key sx={{ fontSize: 16 }} />}
        disabled={!clip || selected === 0}
        onClick={() => keyHere(session, ui, run)}
      />
      <Toggle on={capture} onChange={() => setStrip({ capture: !capture })} label="Capture" icon={<Edit sx={{ fontSize: 16 }} />} />
      <Divider orientation="vertical" flexItem sx={{ mx: 0.5 }} />
      <GizmoTools />
      <Toggle on={trail} onChange={() => setMotion({ trail: !trail })} label="Trail" icon={<AutoAwesomeMotion sx={{ fontSize: 16 }} />} />
      <Toggle on={follow} onChange={() => setMotion({ follow: !follow })} label="Follow" icon={<Videocam sx={{ fontSize: 16 }} />} />
      <OverlayMenu />
      {library && <MotionLibrary onClose={() => setLibrary(false)} />}
    </>
  );
}
