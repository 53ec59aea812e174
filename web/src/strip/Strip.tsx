'use client';
import Box from '@mui/material/Box';
import { useEffect, useRef, useState } from 'react';
import { partsInOrder, type Clip } from '@itchkit/core';
import { Empty } from '../frame/Section';
import { useKit, useUi } from '../session/context';
import { Playhead } from './Playhead';
import { Ruler } from './Ruler';
import { SeamMark } from './SeamMark';
import { TrackRow } from './TrackRow';
import { TimeScaleProvider } from './time-scale';

const LABELS = 196;
const ROW = 26;
const MARGIN = 18;

/** The time ruler with its rows of keys. */
export function Strip() {
  const kit = useKit();
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  if (!clip)
    return (
      <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>
        <Empty>There is no clip yet. Add clip makes one; its keys stand here.</Empty>
      </Box>
    );
  return <ClipStrip key={clip.id} clip={clip} />;
}

function ClipStrip({ clip }: { clip: Clip }) {
  const kit = useKit();
  const selection = useUi((state) => state.selection);
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(600);
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const span = Math.max(80, (width - LABELS - 2 * MARGIN) * zoom);
  const parts = partsInOrder(kit)
    .map((part) => ({ part, tracks: clip.tracks.filter((track) => track.part === part.id) }))
    .filter(({ tracks }) => tracks.length > 0);

  return (
    <Box
      ref={holder}
      component="section"
      aria-label="Strip"
      sx={{ height: '100%', overflow: 'auto', bgcolor: 'kit.sheet', position: 'relative' }}
      onWheel={(event) => event.ctrlKey && setZoom((before) => Math.min(20, Math.max(1, before * (event.deltaY < 0 ? 1.2 : 1 / 1.2))))}
    >
      <TimeScaleProvider clip={clip} span={span} margin={MARGIN} labels={LABELS}>
        <Box sx={{ position: 'relative', width: LABELS + span + 2 * MARGIN, minHeight: '100%' }}>
          <Ruler clip={clip} zoom={zoom} onZoom={setZoom} />
          {parts.map(({ part, tracks }) => (
            <Box key={part.id} role="group" aria-label={`Tracks of ${part.name}`}>
              <Box
                sx={{
                  height: ROW,
                  position: 'sticky',
                  left: 0,
                  width: LABELS,
                  px: 3,
                  display: 'flex',
                  alignItems: 'center',
                  fontSize: 13,
                  fontWeight: 600,
                  color: selection.includes(part.id) ? 'kit.signal' : 'text.primary',
                  overflow: 'hidden',
                  whiteSpace: 'nowrap',
                }}
              >
                {part.name}
              </Box>
              {tracks.map((track) => (
                <TrackRow key={track.id} clip={clip} track={track} height={ROW} />
              ))}
            </Box>
          ))}
          {parts.length === 0 && <Empty>This clip has no keys yet. Choose a part, then type a value in the Card, drag it on the bench, or press K.</Empty>}
          <SeamMark clip={clip} />
          <Playhead />
        </Box>
      </TimeScaleProvider>
    </Box>
  );
}
