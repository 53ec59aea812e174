'use client';
import Box from '@mui/material/Box';
import type { PointerEvent } from 'react';
import type { Clip } from '@itchkit/core/document';
import { niceStep } from '../nice-step';
import { useOpenKit, useUi } from '../session/context';
import { stepFrame, whereInClip } from './playing';
import { snapTime } from './snap-time';
import { useTimeScale } from './time-scale';

/** Seconds and frames. Drag along it to move through the clip. */
export function Ruler({ clip, zoom, onZoom }: { clip: Clip; zoom: number; onZoom: (zoom: number) => void }) {
  const { session, ui } = useOpenKit();
  const scale = useTimeScale();
  const time = useUi((state) => (state.playing ? null : state.time));
  const elsewhere = useUi((state) => state.preview !== null && state.preview !== state.clip);
  const range = useUi((state) => state.strip.range);
  const at = whereInClip(session, ui)?.time ?? 0;
  const step = niceStep(clip.lengthSeconds, Math.max(2, (clip.lengthSeconds * scale.pixelsPerSecond) / 64));
  const ticks = Array.from({ length: Math.floor(clip.lengthSeconds / step + 1e-9) + 1 }, (_, i) => i * step);
  const frames =
    scale.pixelsPerSecond / clip.rate > 6
      ? Array.from({ length: Math.round(clip.lengthSeconds * clip.rate) + 1 }, (_, i) => i / clip.rate)
      : [];
  const seek = (event: PointerEvent<HTMLElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left + scale.labels;
    const to = Math.min(clip.lengthSeconds, Math.max(0, scale.seconds(x)));
    ui.setState({ time: snapTime(to, clip, ui.getState().strip.snap), playing: false });
  };
  const here = time === null ? 'playing' : `${at.toFixed(2)} s · ${Math.round(at * clip.rate)}`;
  return (
    <Box
      sx={{
        height: 34,
        position: 'sticky',
        top: 0,
        zIndex: 3,
        bgcolor: 'kit.sheet',
        borderBottom: 1,
        borderColor: 'divider',
        display: 'flex',
      }}
    >
      <Box
        sx={{
          width: scale.labels,
          flex: 'none',
          position: 'sticky',
          left: 0,
          zIndex: 1,
          bgcolor: 'kit.sheet',
          px: 3,
          display: 'flex',
          alignItems: 'center',
          gap: 1,
        }}
      >
        <Box component="output" aria-label="Time in the clip" className="figures" sx={{ flex: 1 }}>
          {elsewhere ? 'another clip' : here}
        </Box>
        <Box
          component="button"
          aria-label="Show less time, larger"
          title="Larger"
          onClick={() => onZoom(Math.min(20, zoom * 1.5))}
          sx={zoomButton}
        >
          +
        </Box>
        <Box
          component="button"
          aria-label="Show more time, smaller"
          title="Smaller"
          onClick={() => onZoom(Math.max(1, zoom / 1.5))}
          sx={zoomButton}
        >
          −
        </Box>
      </Box>
      <Box
        role="slider"
        tabIndex={0}
        aria-label="Time"
        aria-valuemin={0}
        aria-valuemax={clip.lengthSeconds}
        aria-valuenow={at}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          seek(event);
        }}
        onPointerMove={(event) => event.buttons === 1 && seek(event)}
        onKeyDown={(event) => {
          if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') stepFrame(session, ui, event.key === 'ArrowRight' ? 1 : -1);
        }}
        sx={{ flex: 1, position: 'relative', cursor: 'ew-resize', touchAction: 'none' }}
      >
        {range && (
          <Box
            data-testid="range"
            sx={{
              position: 'absolute',
              left: scale.x(range[0]) - scale.labels,
              width: scale.x(range[1]) - scale.x(range[0]),
              bottom: 0,
              height: 4,
              bgcolor: 'kit.signal',
            }}
          />
        )}
        {frames.map((second) => (
          <Box
            key={`f${second}`}
            sx={{ position: 'absolute', left: scale.x(second) - scale.labels, bottom: 0, height: 5, width: '1px', bgcolor: 'kit.line' }}
          />
        ))}
        {ticks.map((second) => (
          <Box
            key={second}
            sx={{
              position: 'absolute',
              left: scale.x(second) - scale.labels,
              bottom: 0,
              height: 11,
              borderLeft: 1,
              borderColor: 'text.secondary',
            }}
          >
            <Box
              component="span"
              className="figures"
              sx={{
                position: 'absolute',
                left: 0,
                bottom: 11,
                transform: 'translateX(-50%)',
                fontSize: 10,
                color: 'text.secondary',
                whiteSpace: 'nowrap',
              }}
            >
              {Number(second.toFixed(3))}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const zoomButton = {
  width: 20,
  height: 20,
  border: 1,
  borderColor: 'divider',
  borderRadius: 1,
  bgcolor: 'transparent',
  color: 'text.primary',
  cursor: 'pointer',
  lineHeight: 1,
  p: 0,
} as const;
