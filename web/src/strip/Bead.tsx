'use client';
import Box from '@mui/material/Box';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { callOf, type Clip, type Id, type Key } from '@itchkit/core/document';
import { keyShift, moveKeys } from '@itchkit/core/motion';
import { useOpenKit, useRun, useSetSlice, useUi } from '../session/context';
import { isKept } from '../panels/keep-focus';
import { isSameKey } from './chosen-keys';
import { useFocusAlong } from './focus-along';
import { snapStep, snapTime } from './snap-time';
import { useTimeScale } from './time-scale';

interface BeadProps {
  clip: Clip;
  trackId: Id;
  keyframe: Key;
  label: string;
  height: number;
}

/** A key. Click chooses (Shift adds), dragging moves all chosen ones by whole frames, with Alt it leaves copies. */
export function Bead({ clip, trackId, keyframe, label, height }: BeadProps) {
  const { ui } = useOpenKit();
  const run = useRun();
  const scale = useTimeScale();
  const order = useUi((state) => state.keys.findIndex((ref) => isSameKey(ref, trackId, keyframe.time)));
  const chosen = order >= 0;
  const bead = useRef<HTMLButtonElement>(null);
  useFocusAlong(bead, trackId, order);
  const draggedBy = useUi((state) => (chosen ? state.strip.draggedBy : 0));
  const setStrip = useSetSlice('strip');
  const [startX, setStartX] = useState<number | null>(null);
  /** The pointer gives a bead the keyboard as it takes hold of it; what is chosen was settled then. */
  const pointing = useRef(false);

  const choose = (additive: boolean) => {
    const { keys } = ui.getState();
    const own = { track: trackId, time: keyframe.time };
    if (additive) ui.setState({ keys: chosen ? keys.filter((ref) => !isSameKey(ref, trackId, keyframe.time)) : [...keys, own] });
    else if (!chosen) ui.setState({ keys: [own] });
  };
  const move = (bySeconds: number, copy: boolean) => {
    if (keyShift(clip, ui.getState().keys, bySeconds) !== 0)
      run(callOf(moveKeys, { clip: clip.id, keys: ui.getState().keys, bySeconds, copy }));
  };
  const offset = (event: PointerEvent) => snapTime((event.clientX - startX!) / scale.pixelsPerSecond, clip, ui.getState().strip.snap);
  /** All chosen beads are drawn where they would come to stand. */
  const drag = (bySeconds: number) => setStrip({ draggedBy: keyShift(clip, ui.getState().keys, bySeconds) });
  const end = () => {
    setStartX(null);
    setStrip({ draggedBy: 0 });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    event.preventDefault();
    if (!chosen) choose(false);
    move((event.key === 'ArrowRight' ? 1 : -1) * (event.shiftKey ? 10 : 1) * snapStep(clip, ui.getState().strip.snap), event.altKey);
  };

  return (
    <Box
      component="button"
      ref={bead}
      data-bead={label}
      aria-label={label}
      aria-pressed={chosen}
      title={label}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        pointing.current = true;
        choose(event.shiftKey || event.ctrlKey);
        setStartX(event.clientX);
      }}
      onPointerMove={(event) => startX !== null && drag(offset(event))}
      onPointerUp={(event) => {
        pointing.current = false;
        if (startX !== null && Math.abs(event.clientX - startX) > 3) move(offset(event), event.altKey);
        else if (!event.shiftKey && !event.ctrlKey)
          ui.setState({ keys: [{ track: trackId, time: keyframe.time }], time: keyframe.time, playing: false });
        end();
      }}
      onPointerCancel={() => {
        pointing.current = false;
        end();
      }}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKeyDown}
      onFocus={() => !pointing.current && !isKept() && choose(false)}
      sx={{
        position: 'absolute',
        left: scale.x(keyframe.time + draggedBy) - 6,
        top: height / 2 - 6,
        width: 12,
        height: 12,
        borderRadius: '50%',
        border: 2,
        borderColor: chosen ? 'kit.signal' : 'kit.sea',
        bgcolor: chosen ? 'kit.signal' : 'kit.card',
        p: 0,
        cursor: 'grab',
        touchAction: 'none',
        zIndex: 1,
      }}
    />
  );
}
