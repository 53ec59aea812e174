'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import ChevronRight from '@mui/icons-material/ChevronRight';
import ExpandMore from '@mui/icons-material/ExpandMore';
import type { KeyTrack, Part, Track } from '@itchkit/core/document';
import { useOpenKit, useSetSlice, useUi } from '../session/context';
import { keysWithin } from './chosen-keys';
import { keyTimes } from './rows';
import { isCrowded, tickPath } from './ticks';
import { useTimeScale } from './time-scale';

/** A part's row: folds its tracks, and shows a mark wherever any of them has a key, which chooses all of those. */
export function PartRow({ part, tracks, folded, height }: { part: Part; tracks: Track[]; folded: boolean; height: number }) {
  const { ui } = useOpenKit();
  const setStrip = useSetSlice('strip');
  const scale = useTimeScale();
  const chosen = useUi((state) => state.selection.includes(part.id));
  const own = tracks.filter((track): track is KeyTrack => track.kind === 'keys');
  const times = keyTimes(own).filter((time) => time >= scale.from && time <= scale.to);
  const crowded = isCrowded(times.length, scale);
  const fold = () => {
    const before = ui.getState().strip.folded;
    setStrip({ folded: folded ? before.filter((id) => id !== part.id) : [...before, part.id] });
  };
  const choose = (time: number, add: boolean) =>
    ui.setState((state) => ({ keys: [...(add ? state.keys : []), ...keysWithin(own, time - 1e-6, time + 1e-6)], time, playing: false }));
  return (
    <Box role="group" aria-label={`Tracks of ${part.name}`} sx={{ height, position: 'relative' }}>
      <Box
        sx={{
          height,
          position: 'sticky',
          left: 0,
          zIndex: 2,
          width: scale.labels,
          px: 1,
          display: 'inline-flex',
          alignItems: 'center',
          bgcolor: 'kit.sheet',
        }}
      >
        <ButtonBase
          aria-expanded={!folded}
          aria-label={folded ? `Show the tracks of ${part.name}` : `Fold the tracks of ${part.name}`}
          onClick={fold}
          sx={{ color: 'text.secondary', p: 0.25 }}
        >
          {folded ? <ChevronRight sx={{ fontSize: 16 }} /> : <ExpandMore sx={{ fontSize: 16 }} />}
        </ButtonBase>
        <ButtonBase
          onClick={() => ui.setState({ selection: [part.id] })}
          sx={{
            flex: 1,
            justifyContent: 'flex-start',
            fontSize: 13,
            fontWeight: 600,
            color: 'text.primary',
            pl: 0.5,
            boxShadow: (t) => (chosen ? `inset 2px 0 0 ${t.vars!.palette.kit.signal}` : 'none'),
            overflow: 'hidden',
            whiteSpace: 'nowrap',
          }}
        >
          {part.name}
        </ButtonBase>
      </Box>
      {crowded && (
        <Box
          component="svg"
          aria-hidden
          sx={{ position: 'absolute', inset: 0, width: '100%', height, pointerEvents: 'none', color: 'kit.inkSoft' }}
        >
          <path d={tickPath(times.map(scale.x), height)} stroke="currentColor" strokeWidth={1} opacity={0.7} fill="none" />
        </Box>
      )}
      {!crowded &&
        times.map((time) => (
          <Box
            key={time}
            component="button"
            tabIndex={-1}
            aria-label={`Keys of ${part.name} at ${time.toFixed(2)} s`}
            title={`All keys at ${time.toFixed(2)} s`}
            onPointerDown={(event: { stopPropagation: () => void }) => event.stopPropagation()}
            onClick={(event: { shiftKey: boolean; ctrlKey: boolean }) => choose(time, event.shiftKey || event.ctrlKey)}
            sx={{
              position: 'absolute',
              left: scale.x(time) - 3,
              top: height / 2 - 6,
              width: 6,
              height: 12,
              p: 0,
              border: 0,
              bgcolor: 'kit.inkSoft',
              borderRadius: 0.5,
              cursor: 'pointer',
              opacity: 0.7,
              '&:hover': { opacity: 1 },
            }}
          />
        ))}
    </Box>
  );
}
