'use client';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Add from '@mui/icons-material/Add';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { addClip, callOf, freeName, newId } from '@itchkit/core';
import { useKit, useOpenKit, useRun, useSetUi, useUi } from '../../session/context';
import { keyHere, togglePlay } from '../../strip/playing';
import { GizmoTools, ViewTools } from '../BenchTools';

export function MotionTools() {
  const { session, ui, trial } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const clip = useUi((state) => (state.clip && kit.clips[state.clip] ? state.clip : null));
  const playing = useUi((state) => state.playing);
  const selected = useUi((state) => state.selection.length);
  const add = () => {
    const id = newId();
    const name = freeName('clip_1', new Set(Object.values(kit.clips).map((one) => one.name)), '_');
    if (run(callOf(addClip, { id, name, lengthSeconds: 2, rate: 30, loop: 'loop' }))) setUi({ clip: id, time: 0, playing: false, keys: [] });
  };
  return (
    <>
      <Button startIcon={<Add />} onClick={add} color="inherit">
        Add clip
      </Button>
      <Button startIcon={playing ? <Pause /> : <PlayArrow />} disabled={!clip} onClick={() => togglePlay('motion', session, ui, trial)} color="inherit">
        {playing ? 'Stop' : 'Play'}
      </Button>
      <Button disabled={!clip || selected === 0} onClick={() => keyHere(session, ui, run)} color="inherit">
        Key here
      </Button>
      <Divider orientation="vertical" flexItem sx={{ mx: 1 }} />
      <GizmoTools />
      <ViewTools />
    </>
  );
}
