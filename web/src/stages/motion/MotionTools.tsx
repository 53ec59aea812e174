'use client';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Add from '@mui/icons-material/Add';
import AutoAwesomeMotion from '@mui/icons-material/AutoAwesomeMotion';
import DirectionsWalk from '@mui/icons-material/DirectionsWalk';
import Edit from '@mui/icons-material/Edit';
import Layers from '@mui/icons-material/Layers';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { useState } from 'react';
import { addClip, callOf, freeName, newId, overlaysOf } from '@itchkit/core';
import { useKit, useOpenKit, useRulebook, useRun, useSetMotion, useSetUi, useUi } from '../../session/context';
import { keyHere, togglePlay } from '../../strip/playing';
import { GizmoTools, Toggle, ToolButton, ViewTools } from '../BenchTools';
import { MotionLibrary } from './MotionLibrary';

export function MotionTools() {
  const { session, ui, trial } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const setMotion = useSetMotion();
  const rulebook = useRulebook();
  const clip = useUi((state) => (state.clip && kit.clips[state.clip] ? state.clip : null));
  const playing = useUi((state) => state.playing);
  const selected = useUi((state) => state.selection.length);
  const { capture, trail, stack } = useUi((state) => state.motion);
  const [library, setLibrary] = useState(false);
  const overlays = overlaysOf(kit).length;
  const add = () => {
    const id = newId();
    const taken = new Set(Object.values(kit.clips).map((one) => one.name));
    const wanted = rulebook?.motion?.clips?.find((slot) => slot.needed && !taken.has(slot.name));
    const name = wanted?.name ?? freeName('clip_1', taken, '_');
    if (run(callOf(addClip, { id, name, lengthSeconds: 2, rate: rulebook?.motion?.rate ?? 30, loop: wanted?.loop ?? 'loop' }))) setUi({ clip: id, time: 0, playing: false, keys: [] });
  };
  return (
    <>
      <Button startIcon={<Add />} onClick={add} color="inherit">
        Add clip
      </Button>
      <ToolButton label="Motions" hint="Put a motion from the shipped library on this skeleton" icon={<DirectionsWalk sx={{ fontSize: 18 }} />} onClick={() => setLibrary(true)} />
      <Button startIcon={playing ? <Pause /> : <PlayArrow />} disabled={!clip} onClick={() => togglePlay('motion', session, ui, trial)} color="inherit">
        {playing ? 'Stop' : 'Play'}
      </Button>
      <Button disabled={!clip || selected === 0} onClick={() => keyHere(session, ui, run)} color="inherit">
        Key here
      </Button>
      <Toggle on={capture} onChange={() => setMotion({ capture: !capture })} label="Capture" icon={<Edit sx={{ fontSize: 16 }} />} />
      <Divider orientation="vertical" flexItem sx={{ mx: 1 }} />
      <GizmoTools />
      <Toggle on={trail} onChange={() => setMotion({ trail: !trail })} label="Trail" icon={<AutoAwesomeMotion sx={{ fontSize: 16 }} />} />
      {overlays > 0 && <Toggle on={stack} onChange={() => setMotion({ stack: !stack })} label={`Overlays ${overlays}`} icon={<Layers sx={{ fontSize: 16 }} />} />}
      <ViewTools />
      {library && <MotionLibrary onClose={() => setLibrary(false)} />}
    </>
  );
}
