'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import { callOf, keyValueAt, removeTrack, setKeys, type Clip, type Key, type Track } from '@itchkit/core';
import { frameTime } from '../bench/moved';
import { useKit, useRun } from '../session/context';
import { Bead } from './Bead';
import { threadPath } from './thread';
import { useTimeScale } from './time-scale';

const EDGES = ['#c0392b', '#2e8b57', '#2f6fb3'];

/** One track: its beads on their thread. A double click on the thread adds a key where it is. */
export function TrackRow({ clip, track, height }: { clip: Clip; track: Track; height: number }) {
  const kit = useKit();
  const run = useRun();
  const scale = useTimeScale();
  const name = track.kind === 'keys' ? `${track.property} ${'xyz'[track.axis]}` : `${track.property}, dense`;
  const part = kit.parts[track.part]?.name ?? '';
  const addAt = (x: number) => {
    if (track.kind !== 'keys') return;
    const time = frameTime(Math.min(clip.lengthSeconds, Math.max(0, scale.seconds(x))), clip.rate);
    const { property, axis } = track;
    run(callOf(setKeys, { clip: clip.id, time, values: [{ part: track.part, property, axis, value: keyValueAt(kit, clip.id, track.part, property, axis, time) }] }));
  };
  return (
    <Box sx={{ height, position: 'relative', '&:hover .drop': { visibility: 'visible' } }} onDoubleClick={(event) => addAt(event.clientX - event.currentTarget.getBoundingClientRect().left)}>
      <Box
        sx={{
          position: 'sticky',
          left: 0,
          zIndex: 1,
          width: scale.labels,
          height,
          pl: 6,
          pr: 1,
          display: 'inline-flex',
          alignItems: 'center',
          fontSize: 12.5,
          color: 'text.secondary',
          bgcolor: 'kit.sheet',
          borderLeft: track.kind === 'keys' ? `3px solid ${EDGES[track.axis]}` : 0,
        }}
      >
        <span style={{ flex: 1 }}>{name}</span>
        <IconButton
          className="drop"
          size="small"
          aria-label={`Delete track ${name} of ${part}`}
          onClick={() => run(callOf(removeTrack, { clip: clip.id, track: track.id }))}
          sx={{ visibility: 'hidden', p: 0.25, '&:focus-visible': { visibility: 'visible' } }}
        >
          <Close sx={{ fontSize: 14 }} />
        </IconButton>
      </Box>
      <Box component="svg" aria-hidden sx={{ position: 'absolute', inset: 0, width: '100%', height, pointerEvents: 'none', color: 'kit.sea' }}>
        {track.kind === 'keys' ? (
          <path d={threadPath(track.keys as Key[], scale.x, height)} fill="none" stroke="currentColor" strokeWidth={1.25} />
        ) : (
          <rect x={scale.x(0)} y={height / 2 - 4} width={Math.max(2, scale.x(clip.lengthSeconds) - scale.x(0))} height={8} fill="currentColor" opacity={0.35} rx={4} />
        )}
      </Box>
      {track.kind === 'keys' &&
        track.keys.map((key) => (
          <Bead key={key.time} clip={clip} trackId={track.id} keyframe={key} label={`${part}, ${name}, ${key.time.toFixed(2)} s, ${Number(key.value.toFixed(3))}, ${key.easing}`} height={height} />
        ))}
    </Box>
  );
}
