'use client';
import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { Clip, Flag } from '@itchkit/core/document';
import { useSetUi } from '../session/context';
import { useTimeScale } from './time-scale';

const SHAPES = {
  sound: 'M0 0 V18 M0 1 L13 5 L0 9 Z',
  effect: 'M0 0 V18 M0 1 H11 L8 5 L11 9 H0 Z',
  message: 'M0 0 V18 M0 1 H12 V9 H0 Z',
} as const;

/** Cues as pennants and flags as banners with their names, on a line of their own; a click goes there. */
export function CueLine({ clip }: { clip: Clip }) {
  const scale = useTimeScale();
  const setUi = useSetUi();
  const theme = useTheme();
  const { cues = [], flags = [] } = clip;
  if (cues.length + flags.length === 0) return null;
  const go = (time: number) => setUi({ time, playing: false });
  const colour = (flag: Flag) => theme.vars!.palette.kit[flag.colour];
  return (
    <Box role="group" aria-label="Cues and flags" sx={{ height: 26, position: 'relative', borderBottom: 1, borderColor: 'divider' }}>
      <Box
        sx={{
          position: 'sticky',
          left: 0,
          zIndex: 2,
          width: scale.labels,
          height: 25,
          px: 3,
          display: 'flex',
          alignItems: 'center',
          fontSize: 12.5,
          color: 'text.secondary',
          bgcolor: 'kit.sheet',
        }}
      >
        Cues and flags
      </Box>
      {cues.map((cue) => (
        <Box
          key={cue.id}
          component="button"
          data-cue={`${cue.kind} ${cue.name}`}
          aria-label={`${cue.kind} ${cue.name} at ${cue.time.toFixed(2)} s`}
          title={`${cue.kind} “${cue.name}”, ${cue.time.toFixed(2)} s`}
          onClick={() => go(cue.time)}
          sx={{
            position: 'absolute',
            left: scale.x(cue.time) - 1,
            top: 4,
            width: 16,
            height: 20,
            p: 0,
            border: 0,
            bgcolor: 'transparent',
            color: 'kit.sea',
            cursor: 'pointer',
            zIndex: 1,
          }}
        >
          <svg viewBox="-1 0 15 18" width={15} height={18} aria-hidden>
            <path d={SHAPES[cue.kind]} fill="currentColor" stroke="currentColor" strokeWidth={1.2} />
          </svg>
        </Box>
      ))}
      {flags.map((flag) => (
        <Box
          key={flag.id}
          component="button"
          aria-label={`Flag ${flag.name} at ${flag.time.toFixed(2)} s`}
          onClick={() => go(flag.time)}
          sx={{
            position: 'absolute',
            left: scale.x(flag.time),
            top: 5,
            height: 16,
            px: 0.75,
            border: 0,
            borderLeft: 2,
            borderColor: colour(flag),
            bgcolor: 'kit.card',
            color: 'text.primary',
            fontSize: 11,
            lineHeight: '16px',
            cursor: 'pointer',
            whiteSpace: 'nowrap',
          }}
        >
          {flag.name}
        </Box>
      ))}
    </Box>
  );
}
