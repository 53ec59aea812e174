'use client';
import Box from '@mui/material/Box';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { callOf, type Clip, type Id, type Key } from '@itchkit/core/document';
import { moveKeys } from '@itchkit/core/motion';
import { useOpenKit, useRun, useUi } from '../session/context';
import { isSameKey } from './chosen-keys';
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
  const chosen = useUi((state) => state.keys.some((ref) => isSameKey(ref, trackId, keyframe.time)));
  const [drag, setDrag] = useState<{ startX: number; by: number } | null>(null);

  const choose = (additive: boolean) => {
    const { keys } = ui.getState();
    const own = { track: trackId, time: keyframe.time };
    if (additive) ui.setState({ keys: chosen ? keys.filter((ref) => !isSameKey(ref, trackId, keyframe.time)) : [...keys, own] });
    else if (!chosen) ui.setState({ keys: [own] });
  };
  const move = (bySeconds: number, copy: boolean) => {
    const before = ui.getState().keys;
    const earliest = Math.min(...before.map((key) => key.time));
    const latest = Math.max(...before.map((key) => key.time));
    const by = Math.max(-earliest, Math.min(clip.lengthSeconds - latest, bySeconds));
    if (Math.abs(by) < 1e-9) return;
    if (run(callOf(moveKeys, { clip: clip.id, keys: before, bySeconds: by, copy })))
      ui.setState({ keys: before.map((ref) => ({ ...ref, time: Number((ref.time + by).toFixed(9)) })) });
  };
  const offset = (event: PointerEvent) => snapTime((event.clientX - drag!.startX) / scale.pixelsPerSecond, clip, ui.getState().motion.snap);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    event.preventDefault();
    if (!chosen) choose(false);
    move((event.key === 'ArrowRight' ? 1 : -1) * (event.shiftKey ? 10 : 1) * snapStep(clip, ui.getState().motion.snap), event.altKey);
  };

  return (
    <Box
      component="button"
      data-bead={label}
      aria-label={label}
      aria-pressed={chosen}
      title={label}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        choose(event.shiftKey || event.ctrlKey);
        setDrag({ startX: event.clientX, by: 0 });
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, by: offset(event) })}
      onPointerUp={(event) => {
        if (drag && Math.abs(event.clientX - drag.startX) > 3) move(offset(event), event.altKey);
        else if (!event.shiftKey && !event.ctrlKey)
          ui.setState({ keys: [{ track: trackId, time: keyframe.time }], time: keyframe.time, playing: false });
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKeyDown}
      onFocus={() => choose(false)}
      sx={{
        position: 'absolute',
        left: scale.x(keyframe.time + (drag?.by ?? 0)) - 6,
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
