'use client';
import Box from '@mui/material/Box';
import { useEffect, useRef } from 'react';
import { clipTime } from '@itchkit/core/motion';
import { useOpenKit } from '../session/context';
import { useTimeScale } from './time-scale';

/** Where time is. Moved directly at every drawn frame, without React. */
export function Playhead() {
  const line = useRef<HTMLDivElement>(null);
  const { session, ui } = useOpenKit();
  const scale = useTimeScale();
  useEffect(() => {
    const place = () => {
      const { clip: id, time, preview } = ui.getState();
      const clip = id === null ? undefined : session.shown.clips[id];
      if (!clip || !line.current) return;
      // While another clip is tried, time is that one's.
      line.current.style.visibility = preview !== null && preview !== id ? 'hidden' : 'visible';
      line.current.style.transform = `translateX(${scale.x(clipTime(clip.loop, clip.lengthSeconds, time) ?? clip.lengthSeconds)}px)`;
    };
    place();
    return ui.subscribe(place);
  }, [session, ui, scale]);
  return (
    <Box
      ref={line}
      aria-hidden
      sx={{ position: 'absolute', top: 0, bottom: 0, left: 0, width: '1.5px', bgcolor: 'kit.signal', pointerEvents: 'none', zIndex: 4 }}
    />
  );
}
