'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import { callOf, type Clip, type Key, type Track } from '@itchkit/core/document';
import { keyValueAt, removeTrack, setKeys, trackTimes } from '@itchkit/core/motion';
import { isPlayed } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useRun } from '../session/context';
import { FONT } from '../theme/tokens';
import { Bead } from './Bead';
import { keysWithin } from './chosen-keys';
import { threadPath } from './thread';
import { isCrowded, tickPath } from './ticks';
import { snapTime } from './snap-time';
import { useTimeScale } from './time-scale';
import { trackColour, trackName } from './track-words';

/**
 * One track: its beads on their thread, as far as they are in view. A double click on the thread adds a key where it is; its name chooses
 * all of them.
 */
export function TrackRow({ clip, track, height, ghost }: { clip: Clip; track: Track; height: number; ghost: Track | null }) {
  const kit = useKit();
  const run = useRun();
  const { session, ui } = useOpenKit();
  const scale = useTimeScale();
  const name = trackName(kit, track);
  const rulebook = useRulebook();
  const unplayed = rulebook && !isPlayed(rulebook, track.property) ? rulebook.title : null;
  const colour = trackColour(track);
  const part = kit.parts[track.part]?.name ?? '';
  const addAt = (x: number) => {
    if (track.kind !== 'keys') return;
    const time = snapTime(Math.min(clip.lengthSeconds, Math.max(0, scale.seconds(x))), clip, ui.getState().strip.snap);
    const { property, axis } = track;
    run(
      callOf(setKeys, {
        clip: clip.id,
        time,
        values: [{ part: track.part, property, axis, value: keyValueAt(kit, clip.id, track.part, property, axis, time) }],
      }),
    );
  };
  const chooseAll = (add: boolean) => {
    if (track.kind === 'keys')
      ui.setState((state) => ({
        keys: [...(add ? state.keys : []), ...keysWithin([track], -Infinity, Infinity)],
        selection: add ? state.selection : [track.part],
      }));
  };
  const inView = track.kind === 'keys' ? visible(track.keys, scale.from, scale.to) : [];
  // Beads that would lie on one another are drawn as one line of ticks: a box chooses them all the same, and a larger scale shows them.
  const crowded = isCrowded(inView.length, scale);
  const ghostKeys = ghost?.kind === 'keys' ? visible(ghost.keys, scale.from, scale.to) : [];
  const samples = track.kind === 'samples' ? [...trackTimes(track, session.blobs)] : [];
  return (
    <Box
      data-row={track.id}
      sx={{ height, position: 'relative', '&:hover .drop': { visibility: 'visible' } }}
      onDoubleClick={(event) => addAt(event.clientX - event.currentTarget.getBoundingClientRect().left)}
    >
      <Box
        sx={{
          position: 'sticky',
          left: 0,
          zIndex: 2,
          width: scale.labels,
          height,
          pl: 6,
          pr: 1,
          display: 'inline-flex',
          alignItems: 'center',
          fontSize: 12.5,
          color: 'text.secondary',
          bgcolor: 'kit.sheet',
          borderLeft: `3px solid ${colour ?? 'transparent'}`,
        }}
      >
        <Box
          component="button"
          aria-label={`All keys of ${name} of ${part}`}
          title={unplayed === null ? undefined : `${unplayed} does not play ${track.property} tracks: this one is left out.`}
          onClick={(event: { shiftKey: boolean; ctrlKey: boolean }) => chooseAll(event.shiftKey || event.ctrlKey)}
          onDoubleClick={(event: { stopPropagation: () => void }) => event.stopPropagation()}
          sx={{
            flex: 1,
            font: 'inherit',
            color: 'inherit',
            textAlign: 'left',
            bgcolor: 'transparent',
            border: 0,
            p: 0,
            cursor: 'pointer',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {unplayed === null ? (
            name
          ) : (
            <Box component="span" data-unplayed sx={{ textDecoration: 'line-through' }}>
              {name}
            </Box>
          )}
        </Box>
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
      <Box
        component="svg"
        aria-hidden
        sx={{ position: 'absolute', inset: 0, width: '100%', height, pointerEvents: 'none', color: 'kit.sea' }}
      >
        {track.kind === 'keys' && !crowded && (
          <path d={threadPath(inView, scale.x, height)} fill="none" stroke="currentColor" strokeWidth={1.25} />
        )}
        {track.kind === 'keys' && crowded && (
          <path
            data-testid="ticks"
            d={tickPath(
              inView.map(({ time }) => scale.x(time)),
              height,
            )}
            fill="none"
            stroke="currentColor"
            strokeWidth={1}
          />
        )}
        {track.kind === 'samples' && (
          <>
            <rect
              x={scale.x(0)}
              y={height / 2 - 4}
              width={Math.max(2, scale.x(clip.lengthSeconds) - scale.x(0))}
              height={8}
              fill="currentColor"
              opacity={0.22}
              rx={4}
            />
            <path
              d={tickPath(samples.filter((time) => time >= scale.from && time <= scale.to).map(scale.x), height, 0.3)}
              stroke="currentColor"
              strokeWidth={1}
              opacity={0.6}
              fill="none"
            />
          </>
        )}
        {track.kind === 'formula' && (
          <text
            x={Math.max(scale.x(0), scale.x(scale.from) + 46) + 6}
            y={height / 2 + 4}
            fontSize={11}
            fill="currentColor"
            style={{ fontFamily: FONT.figures }}
          >
            = {track.source}
          </text>
        )}
      </Box>
      {!crowded &&
        inView.map((key) => (
          <Bead
            key={key.time}
            clip={clip}
            trackId={track.id}
            keyframe={key}
            label={`${part}, ${name}, ${key.time.toFixed(2)} s, ${Number(key.value.toFixed(3))}, ${key.easing}`}
            height={height}
          />
        ))}
      {ghostKeys.length > 0 && (
        <Box
          component="svg"
          aria-hidden
          data-testid="tried"
          sx={{ position: 'absolute', inset: 0, width: '100%', height, pointerEvents: 'none', color: 'kit.signal', zIndex: 1 }}
        >
          <path
            d={threadPath(ghostKeys.slice(0, 400), scale.x, height)}
            fill="none"
            stroke="currentColor"
            strokeWidth={1}
            strokeDasharray="3 2"
          />
          {ghostKeys.slice(0, 400).map(({ time }) => (
            <circle key={time} cx={scale.x(time)} cy={height / 2} r={4} fill="none" stroke="currentColor" strokeWidth={1.5} />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Keys in view, with a neighbour to each side so that the thread goes on. */
function visible(keys: readonly Key[], from: number, to: number): Key[] {
  const first = keys.findIndex(({ time }) => time >= from);
  const last = keys.findLastIndex(({ time }) => time <= to);
  return keys.slice(Math.max(0, (first < 0 ? keys.length : first) - 1), last + 2);
}
