'use client';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { KEY_PROPERTIES, type Clip, type KeyProperty } from '@itchkit/core/document';
import { useOpenKit, useRulebook, useSetSlice, useSetUi, useUi } from '../session/context';
import type { StripState } from './strip-state';
import { FONT } from '../theme/tokens';
import { whereInClip } from './playing';
import { snapNamed } from './snap-time';
import { PROPERTY } from './track-words';

const ROWS: [StripState['rows'], string][] = [
  ['all', 'every part'],
  ['moving', 'what moves'],
  ['chosen', 'chosen parts'],
  ['below', 'chosen, and below'],
];
const SPEEDS = [0.1, 0.25, 0.5, 0.75, 1, 1.5, 2];

const field = {
  height: 24,
  fontSize: 12,
  color: 'text.primary',
  bgcolor: 'kit.card',
  border: 1,
  borderColor: 'divider',
  borderRadius: 1,
  px: 0.25,
  maxWidth: 82,
} as const;

/** What of the clip is listed, how fast it plays and which stretch of it, and whether rows or curves are shown. */
export function StripBar({ clip }: { clip: Clip }) {
  const { session, ui } = useOpenKit();
  const setUi = useSetUi();
  const setStrip = useSetSlice('strip');
  const { rows, property, speed, range, curves, asPlayed, snap } = useUi((state) => state.strip);
  const stepsOfTarget = useRulebook()?.motion?.rate ?? null;
  const time = useUi((state) => (state.playing ? null : state.time));
  const at = whereInClip(session, ui)?.time ?? 0;
  const seek = (text: string) => {
    const value = Number(text.replace(',', '.'));
    if (Number.isFinite(value)) setUi({ time: Math.min(clip.lengthSeconds, Math.max(0, value)), playing: false });
  };
  const setEnd = (which: 0 | 1) => {
    const [from, to] = range ?? [0, clip.lengthSeconds];
    const next: [number, number] = which === 0 ? [at, to] : [from, at];
    setStrip({ range: next[1] - next[0] < 1 / clip.rate ? null : next });
  };
  return (
    <Box
      role="toolbar"
      aria-label="Strip"
      sx={{
        minHeight: 32,
        px: 2,
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        borderBottom: 1,
        borderColor: 'divider',
        fontSize: 12,
        overflowX: 'auto',
        whiteSpace: 'nowrap',
      }}
    >
      <Box component="label" sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
        at
        <Box
          key={time === null ? 'playing' : at}
          component="input"
          aria-label="Time, seconds"
          disabled={time === null}
          defaultValue={time === null ? '' : Number(at.toFixed(4))}
          onKeyDown={(event: { key: string; currentTarget: HTMLInputElement }) => event.key === 'Enter' && seek(event.currentTarget.value)}
          onBlur={(event: { currentTarget: HTMLInputElement }) =>
            Number(event.currentTarget.value) !== Number(at.toFixed(4)) && time !== null && seek(event.currentTarget.value)
          }
          sx={{ ...field, width: 52, fontFamily: FONT.figures, fontSize: 11 }}
        />
        s
      </Box>
      <Box
        component="select"
        aria-label="Times go onto"
        title="What times are put onto when they are pointed at; typed ones too"
        value={snap ?? 'free'}
        onChange={(event: { target: { value: string } }) => setStrip({ snap: snapNamed(event.target.value) })}
        sx={field}
      >
        <option value="frame">frames</option>
        {[...new Set([stepsOfTarget, 10, snap])]
          .filter((rate): rate is number => typeof rate === 'number')
          .map((rate) => (
            <option key={rate} value={rate}>
              {rate === stepsOfTarget ? `target’s 1/${rate} s` : `1/${rate} s`}
            </option>
          ))}
        <option value="free">any time</option>
      </Box>
      <Box
        component="select"
        aria-label="Rows of"
        value={rows}
        onChange={(event: { target: { value: string } }) => setStrip({ rows: event.target.value as StripState['rows'] })}
        sx={field}
      >
        {ROWS.map(([value, title]) => (
          <option key={value} value={value}>
            {title}
          </option>
        ))}
      </Box>
      <Box
        component="select"
        aria-label="Kinds of track"
        value={property}
        onChange={(event: { target: { value: string } }) => setStrip({ property: event.target.value as KeyProperty | 'all' })}
        sx={field}
      >
        <option value="all">every kind</option>
        {KEY_PROPERTIES.map((one) => (
          <option key={one} value={one}>
            {PROPERTY[one].title.toLowerCase()}
          </option>
        ))}
      </Box>
      <Box
        component="select"
        aria-label="Playback speed"
        value={speed}
        onChange={(event: { target: { value: string } }) => setStrip({ speed: Number(event.target.value) })}
        sx={field}
      >
        {SPEEDS.map((one) => (
          <option key={one} value={one}>
            {Math.round(100 * one)} %
          </option>
        ))}
      </Box>
      <Box
        component="button"
        onClick={() => setEnd(0)}
        title="Play from here on, over and over"
        aria-label="From here"
        sx={{ ...field, cursor: 'pointer' }}
      >
        From
      </Box>
      <Box
        component="button"
        onClick={() => setEnd(1)}
        title="Play up to here, over and over"
        aria-label="To here"
        sx={{ ...field, cursor: 'pointer' }}
      >
        To
      </Box>
      {range && (
        <Box
          component="button"
          aria-label="Play all of the clip again"
          title={`Only ${range[0].toFixed(2)} to ${range[1].toFixed(2)} s is played; click to play all`}
          onClick={() => setStrip({ range: null })}
          sx={{ ...field, cursor: 'pointer', borderColor: 'kit.signal', width: 20 }}
        >
          ×
        </Box>
      )}
      <Box sx={{ flex: 1 }} />
      <ToggleButton
        value="played"
        size="small"
        selected={asPlayed}
        onChange={() => setStrip({ asPlayed: !asPlayed })}
        sx={{ height: 24, fontSize: 12, textTransform: 'none', px: 1, color: 'text.primary' }}
      >
        As it will play
      </ToggleButton>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={curves}
        aria-label="Shown as"
        onChange={(_, next: boolean | null) => next !== null && setStrip({ curves: next })}
      >
        <ToggleButton value={false} sx={{ height: 24, fontSize: 12, textTransform: 'none', px: 1, color: 'text.primary' }}>
          Keys
        </ToggleButton>
        <ToggleButton value sx={{ height: 24, fontSize: 12, textTransform: 'none', px: 1, color: 'text.primary' }}>
          Curves
        </ToggleButton>
      </ToggleButtonGroup>
    </Box>
  );
}
