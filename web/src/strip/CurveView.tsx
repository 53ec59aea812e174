'use client';
import Box from '@mui/material/Box';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { useMemo, useState } from 'react';
import type { Clip, SampleTrack } from '@itchkit/core/document';
import { Empty } from '../panels/Section';
import { useKit, useOpenKit, useUi } from '../session/context';
import { FONT } from '../theme/tokens';
import { CurveKeys } from './CurveKeys';
import { denseLines, extentOf, isDrawn, keyProperty, sampled, speeds, within, type Drawn } from './curve-lines';
import { useTimeScale } from './time-scale';
import { PROPERTY, trackColour, trackName } from './track-words';
import { usePlayedValues } from './use-as-played';

/** Share of the height that the graph of speed has. */
const SPEED_SHARE = 0.26;
const PLACES = 500;

/**
 * Values of tracks over time, by axis, with their keys and tangents; how fast they change underneath. Of one property at once, since they
 * share a scale.
 */
export function CurveView({ clip, tried, height }: { clip: Clip; tried: Clip | null; height: number }) {
  const kit = useKit();
  const scale = useTimeScale();
  const selection = useUi((state) => state.selection);
  const property = useUi((state) => state.strip.property);
  const { session } = useOpenKit();
  const tracks = useMemo(() => curveTracks(clip, selection, property), [clip, selection, property]);
  const from = Math.max(0, scale.from);
  const to = Math.min(clip.lengthSeconds, scale.to);
  const dense = useMemo(
    () => denseLines(kit, denseTracks(clip, selection, property, tracks[0]?.property ?? null), session.blobs),
    [kit, clip, selection, property, tracks, session],
  );
  const lines = useMemo(
    () => [
      ...tracks.map((track) => ({ track, points: sampled(clip, track, from, to, PLACES) })),
      ...dense.map((line) => ({ track: line, points: within(line.points, from, to, PLACES) })),
    ],
    [clip, tracks, dense, from, to],
  );
  // What a tool that is tried would make of them.
  const ghosts = useMemo(() => triedLines(tracks, tried, from, to), [tracks, tried, from, to]);
  const played = usePlayedValues(kit, clip, session.blobs, tracks);
  const [fit, setFit] = useState<[number, number] | null>(null);
  if (lines.length === 0) return <Empty>Choose a part that moves in this clip to see its curves.</Empty>;
  const [low, high] =
    fit ??
    extentOf(
      [...lines.map(({ points }) => points), ...ghosts.map(({ points }) => points)].flatMap((points) => points.map(([, value]) => value)),
    );
  const top = height * (1 - SPEED_SHARE);
  const y = scaleLinear()
    .domain([low, high])
    .range([top - 8, 8]);
  const rates = lines.map(({ points }) => speeds(points));
  const fastest = Math.max(
    1e-9,
    ...rates.flatMap((all) =>
      all
        .map(([, rate]) => Math.abs(rate))
        .sort((a, b) => a - b)
        .slice(0, -4),
    ),
  );
  const ys = scaleLinear()
    .domain([-fastest, fastest])
    .range([height - 6, top + 8])
    .clamp(true);
  const { unit, title } = PROPERTY[lines[0].track.property];
  const path = line<[number, number]>(
    ([time]) => scale.x(time),
    ([, value]) => y(value),
  );
  const speedPath = line<[number, number]>(
    ([time]) => scale.x(time),
    ([, rate]) => ys(rate),
  );
  const left = scale.labels;
  return (
    <Box data-testid="curves" sx={{ position: 'relative', height }}>
      <Box
        sx={{
          position: 'sticky',
          left: 0,
          zIndex: 2,
          width: left,
          height,
          bgcolor: 'kit.sheet',
          borderRight: 1,
          borderColor: 'divider',
          px: 3,
          py: 1.5,
          fontSize: 12.5,
          display: 'flex',
          flexDirection: 'column',
          gap: 0.5,
          overflow: 'hidden',
        }}
      >
        <Box sx={{ fontWeight: 600 }}>
          {title} {unit && `in ${unit}`}
        </Box>
        {lines.map(({ track }) => (
          <Box key={track.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', whiteSpace: 'nowrap' }}>
            <Box sx={{ width: 10, height: 3, bgcolor: trackColour(track) ?? 'kit.sea', flex: 'none' }} />
            {kit.parts[track.part].name}{' '}
            {'kind' in track ? trackName(kit, track) : `${track.property} ${'xyz'[track.axis] ?? track.axis}, dense`}
          </Box>
        ))}
        {played && (
          <Box role="status" sx={{ color: 'text.secondary', fontSize: 11.5 }}>
            As played: {played.says}
          </Box>
        )}
        <Box sx={{ flex: 1 }} />
        <Box
          component="button"
          onClick={() => setFit(fit ? null : [low, high])}
          sx={{
            alignSelf: 'flex-start',
            fontSize: 12,
            bgcolor: 'transparent',
            color: 'text.primary',
            border: 1,
            borderColor: 'divider',
            borderRadius: 1,
            cursor: 'pointer',
          }}
        >
          {fit ? 'Fit to the values' : 'Keep this scale'}
        </Box>
        <Box sx={{ color: 'text.secondary', fontSize: 11.5 }}>Speed, {unit || '1'} a second, below</Box>
      </Box>
      <Box
        component="svg"
        role="img"
        aria-label={`Curves of ${lines.length} tracks`}
        sx={{ position: 'absolute', inset: 0, width: '100%', height, overflow: 'hidden' }}
      >
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <Box
              component="line"
              x1={left}
              x2="100%"
              y1={y(tick)}
              y2={y(tick)}
              sx={{ stroke: (t) => t.vars!.palette.kit.line }}
              strokeWidth={tick === 0 ? 1.5 : 0.75}
            />
            <Box
              component="text"
              x={scale.x(from) + 4}
              y={y(tick) - 3}
              sx={{ fill: (t) => t.vars!.palette.kit.inkSoft, fontSize: 10, fontFamily: FONT.figures }}
            >
              {tick}
            </Box>
          </g>
        ))}
        <Box
          component="line"
          x1={left}
          x2="100%"
          y1={top}
          y2={top}
          sx={{ stroke: (t) => t.vars!.palette.kit.line }}
          strokeDasharray="2 3"
        />
        {played?.lines.map((points, i) => (
          <Box
            key={i}
            component="path"
            data-testid="played"
            d={path(points.filter(([time]) => time >= from && time <= to)) ?? ''}
            fill="none"
            sx={{ stroke: (t) => t.vars!.palette.kit.signal }}
            strokeWidth={1.5}
            strokeDasharray="5 3"
          />
        ))}
        {lines.map(({ track, points }) => (
          <Box
            key={track.id}
            component="path"
            d={path(points) ?? ''}
            fill="none"
            sx={{ stroke: (t) => trackColour(track) ?? t.vars!.palette.kit.sea }}
            strokeWidth={1.75}
          />
        ))}
        {ghosts.map(({ track, points }) => (
          <Box
            key={track.id}
            component="path"
            data-testid="tried-curve"
            d={path(points) ?? ''}
            fill="none"
            sx={{ stroke: (t) => trackColour(track) ?? t.vars!.palette.kit.sea }}
            strokeWidth={1.5}
            strokeDasharray="3 3"
          />
        ))}
        {rates.map((points, i) => (
          <Box
            key={i}
            component="path"
            d={speedPath(points) ?? ''}
            fill="none"
            opacity={0.75}
            sx={{ stroke: (t) => trackColour(lines[i].track) ?? t.vars!.palette.kit.sea }}
            strokeWidth={1}
          />
        ))}
      </Box>
      {tracks.map(
        (track) =>
          track.kind === 'keys' && (
            <CurveKeys key={track.id} clip={clip} track={track} y={(value) => y(value)} value={(at) => y.invert(at)} />
          ),
      )}
    </Box>
  );
}

/** Dense tracks that share a scale with those: of the chosen parts, of one property. */
function denseTracks(clip: Clip, selection: readonly string[], property: string, shown: string | null): SampleTrack[] {
  const there = clip.tracks.filter((track): track is SampleTrack => track.kind === 'samples' && selection.includes(track.part));
  const wanted = property !== 'all' ? property : (shown ?? (there[0] ? keyProperty(there[0]) : null));
  return there.filter((track) => keyProperty(track) === wanted).slice(0, 4);
}

/** The same tracks after what is tried, where they would be others. */
function triedLines(tracks: readonly Drawn[], tried: Clip | null, from: number, to: number) {
  if (!tried) return [];
  return tracks.flatMap((track) => {
    const other = tried.tracks
      .filter(isDrawn)
      .find((one) => one.id === track.id || (one.part === track.part && one.property === track.property && one.axis === track.axis));
    return other && other !== track
      ? [{ track: other, points: sampled(tried, other, from, Math.min(to, tried.lengthSeconds), PLACES) }]
      : [];
  });
}

/**
 * Tracks whose curves share a scale: of the chosen parts, or of all where none is chosen; of the one property that is asked for, or the
 * first there is.
 */
function curveTracks(clip: Clip, selection: readonly string[], property: string): Drawn[] {
  const drawn = clip.tracks.filter(isDrawn).filter((track) => selection.length === 0 || selection.includes(track.part));
  const wanted =
    property === 'all' ? (drawn.find((track) => track.kind === 'formula' || track.keys.length > 1) ?? drawn[0])?.property : property;
  return drawn.filter((track) => track.property === wanted).slice(0, 12);
}
