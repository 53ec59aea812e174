'use client';
import Box from '@mui/material/Box';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { useMemo, useState, type PointerEvent } from 'react';
import { callOf, keySlopes, setKeys, setSlopes, type Clip, type Key, type KeyTrack } from '@itchkit/core';
import { frameTime } from '../bench/moved';
import { Empty } from '../frame/Section';
import { useKit, useOpenKit, useRun, useUi } from '../session/context';
import { FONT } from '../theme/tokens';
import { isSameKey } from './chosen-keys';
import { extentOf, isDrawn, sampled, speeds, type Drawn } from './curve-lines';
import { useTimeScale } from './time-scale';
import { PROPERTY, trackColour, trackName } from './track-words';
import { usePlayedValues } from './use-as-played';

/** Share of the height that the graph of speed has. */
const SPEED_SHARE = 0.26;
/** Pixels that a tangent's handle is long. */
const HANDLE = 42;
const PLACES = 500;

/** Values of tracks over time, by axis, with their keys and tangents; how fast they change underneath. Of one property at once, since they share a scale. */
export function CurveView({ clip, height }: { clip: Clip; height: number }) {
  const kit = useKit();
  const scale = useTimeScale();
  const selection = useUi((state) => state.selection);
  const property = useUi((state) => state.motion.property);
  const { session } = useOpenKit();
  const tracks = useMemo(() => curveTracks(clip, selection, property), [clip, selection, property]);
  const from = Math.max(0, scale.from);
  const to = Math.min(clip.lengthSeconds, scale.to);
  const lines = useMemo(() => tracks.map((track) => ({ track, points: sampled(clip, track, from, to, PLACES) })), [clip, tracks, from, to]);
  const played = usePlayedValues(kit, clip, session.blobs, tracks);
  const [fit, setFit] = useState<[number, number] | null>(null);
  if (tracks.length === 0) return <Empty>Choose a part that has keys or formulas in this clip to see its curves.</Empty>;
  const [low, high] = fit ?? extentOf(lines.flatMap(({ points }) => points.map(([, value]) => value)));
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
  const { unit, title } = PROPERTY[tracks[0].property];
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
        {tracks.map((track) => (
          <Box key={track.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', whiteSpace: 'nowrap' }}>
            <Box sx={{ width: 10, height: 3, bgcolor: trackColour(track) ?? 'kit.sea', flex: 'none' }} />
            {kit.parts[track.part].name} {trackName(kit, track)}
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
          sx={{ alignSelf: 'flex-start', fontSize: 12, bgcolor: 'transparent', color: 'text.primary', border: 1, borderColor: 'divider', borderRadius: 1, cursor: 'pointer' }}
        >
          {fit ? 'Fit to the values' : 'Keep this scale'}
        </Box>
        <Box sx={{ color: 'text.secondary', fontSize: 11.5 }}>Speed, {unit || '1'} a second, below</Box>
      </Box>
      <Box component="svg" role="img" aria-label={`Curves of ${tracks.length} tracks`} sx={{ position: 'absolute', inset: 0, width: '100%', height, overflow: 'hidden' }}>
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <Box component="line" x1={left} x2="100%" y1={y(tick)} y2={y(tick)} sx={{ stroke: (t) => t.vars!.palette.kit.line }} strokeWidth={tick === 0 ? 1.5 : 0.75} />
            <Box component="text" x={scale.x(from) + 4} y={y(tick) - 3} sx={{ fill: (t) => t.vars!.palette.kit.inkSoft, fontSize: 10, fontFamily: FONT.figures }}>
              {tick}
            </Box>
          </g>
        ))}
        <Box component="line" x1={left} x2="100%" y1={top} y2={top} sx={{ stroke: (t) => t.vars!.palette.kit.line }} strokeDasharray="2 3" />
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
          <Box key={track.id} component="path" d={path(points) ?? ''} fill="none" sx={{ stroke: (t) => trackColour(track) ?? t.vars!.palette.kit.sea }} strokeWidth={1.75} />
        ))}
        {rates.map((points, i) => (
          <Box key={i} component="path" d={speedPath(points) ?? ''} fill="none" opacity={0.75} sx={{ stroke: (t) => trackColour(lines[i].track) ?? t.vars!.palette.kit.sea }} strokeWidth={1} />
        ))}
      </Box>
      {tracks.map((track) => track.kind === 'keys' && <CurveKeys key={track.id} clip={clip} track={track} y={(value) => y(value)} value={(at) => y.invert(at)} />)}
    </Box>
  );
}

/** Tracks whose curves share a scale: of the chosen parts, or of all where none is chosen; of the one property that is asked for, or the first there is. */
function curveTracks(clip: Clip, selection: readonly string[], property: string): Drawn[] {
  const drawn = clip.tracks.filter(isDrawn).filter((track) => selection.length === 0 || selection.includes(track.part));
  const wanted = property === 'all' ? (drawn.find((track) => track.kind === 'formula' || track.keys.length > 1) ?? drawn[0])?.property : property;
  return drawn.filter((track) => track.property === wanted).slice(0, 12);
}

interface CurveKeysProps {
  clip: Clip;
  track: KeyTrack;
  y: (value: number) => number;
  value: (y: number) => number;
}

/** Keys on their curve: dragged up and down they change their value; those of a curve have tangents that are dragged, both at once or with Alt one alone. */
function CurveKeys({ clip, track, y, value }: CurveKeysProps) {
  const run = useRun();
  const { ui } = useOpenKit();
  const kit = useKit();
  const scale = useTimeScale();
  const refs = useUi((state) => state.keys);
  const [held, setHeld] = useState<{ time: number; by: number } | null>(null);
  const { slopesIn, slopesOut } = useMemo(() => keySlopes(track.keys), [track.keys]);
  const colour = trackColour(track);
  const part = kit.parts[track.part].name;
  const visible = track.keys.map((key, i) => ({ key, i })).filter(({ key }) => key.time >= scale.from && key.time <= scale.to);
  if (visible.length > 200) return null;
  const set = (key: Key, next: number) => {
    const { part: id, property, axis } = track;
    run(callOf(setKeys, { clip: clip.id, time: key.time, easing: key.easing, values: [{ part: id, property, axis, value: next }] }));
  };
  return (
    <>
      {visible.map(({ key, i }) => {
        const chosen = refs.some((ref) => isSameKey(ref, track.id, key.time));
        const by = held?.time === key.time ? held.by : 0;
        const [x, at] = [scale.x(key.time), y(key.value) + by];
        const next = (event: PointerEvent) => Number(value(y(key.value) + (event.clientY - Number((event.currentTarget as HTMLElement).dataset.from))).toFixed(4));
        return (
          <Box key={key.time}>
            {chosen &&
              (['in', 'out'] as const).map((side) => {
                const curved = side === 'out' ? key.easing === 'curve' && i + 1 < track.keys.length : i > 0 && track.keys[i - 1].easing === 'curve';
                return (
                  curved && <Tangent key={side} side={side} x={x} y={at} slope={side === 'in' ? slopesIn[i] : slopesOut[i]} clip={clip} track={track} keyframe={key} perPixel={value(0) - value(1)} />
                );
              })}
            <Box
              component="button"
              data-curve-key={`${part}, ${track.property} ${'xyz'[track.axis] ?? track.axis}, ${key.time.toFixed(2)} s`}
              aria-label={`${part}, ${track.property} ${'xyz'[track.axis] ?? track.axis}, ${key.time.toFixed(2)} s: ${Number(key.value.toFixed(4))}`}
              aria-pressed={chosen}
              onPointerDown={(event: PointerEvent<HTMLElement>) => {
                event.currentTarget.dataset.from = String(event.clientY);
                event.currentTarget.setPointerCapture(event.pointerId);
                ui.setState((state) => ({
                  keys: event.shiftKey ? [...state.keys, { track: track.id, time: key.time }] : [{ track: track.id, time: key.time }],
                  time: frameTime(key.time, clip.rate),
                  playing: false,
                }));
                setHeld({ time: key.time, by: 0 });
              }}
              onPointerMove={(event: PointerEvent<HTMLElement>) => held && setHeld({ time: key.time, by: event.clientY - Number(event.currentTarget.dataset.from) })}
              onPointerUp={(event: PointerEvent<HTMLElement>) => {
                if (held && Math.abs(held.by) > 2) set(key, next(event));
                setHeld(null);
              }}
              onPointerCancel={() => setHeld(null)}
              sx={{
                position: 'absolute',
                left: x - 5,
                top: at - 5,
                width: 10,
                height: 10,
                p: 0,
                borderRadius: '50%',
                border: 2,
                borderColor: chosen ? 'kit.signal' : (colour ?? 'kit.sea'),
                bgcolor: chosen ? 'kit.signal' : 'kit.card',
                cursor: 'ns-resize',
                touchAction: 'none',
                zIndex: 1,
              }}
            />
          </Box>
        );
      })}
    </>
  );
}

interface TangentProps {
  side: 'in' | 'out';
  x: number;
  y: number;
  slope: number;
  clip: Clip;
  track: KeyTrack;
  keyframe: Key;
  /** Value of a pixel upwards. */
  perPixel: number;
}

/** A handle of a key's tangent. */
function Tangent({ side, x, y, slope, clip, track, keyframe, perPixel }: TangentProps) {
  const run = useRun();
  const scale = useTimeScale();
  const [held, setHeld] = useState<number | null>(null);
  /** Pixels up a pixel to the right. */
  const steep = (held ?? slope) / perPixel / scale.pixelsPerSecond;
  const sign = side === 'out' ? 1 : -1;
  const length = Math.hypot(1, steep);
  const [dx, dy] = [(sign * HANDLE) / length, (-sign * HANDLE * steep) / length];
  const slopeAt = (event: PointerEvent<HTMLElement>) => {
    const frame = event.currentTarget.parentElement!.parentElement!.parentElement!.getBoundingClientRect();
    const [px, py] = [event.clientX - frame.left - x, event.clientY - frame.top - y];
    const run_ = sign * Math.max(4, sign * px);
    return Number(((-py / run_) * scale.pixelsPerSecond * perPixel).toPrecision(6));
  };
  return (
    <>
      <Box
        component="svg"
        aria-hidden
        sx={{ position: 'absolute', left: x - HANDLE, top: y - HANDLE, width: 2 * HANDLE, height: 2 * HANDLE, pointerEvents: 'none', overflow: 'visible', color: 'kit.signal' }}
      >
        <line x1={HANDLE} y1={HANDLE} x2={HANDLE + dx} y2={HANDLE + dy} stroke="currentColor" strokeWidth={1} />
      </Box>
      <Box
        component="button"
        aria-label={`Tangent ${side === 'in' ? 'into' : 'out of'} the key at ${keyframe.time.toFixed(2)} s: ${Number(slope.toFixed(3))} a second`}
        title="Drag for the tangent; with Alt this side alone; a double click lets it be chosen again"
        onPointerDown={(event: PointerEvent<HTMLElement>) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(slope);
        }}
        onPointerMove={(event: PointerEvent<HTMLElement>) => held !== null && setHeld(slopeAt(event))}
        onPointerUp={(event: PointerEvent<HTMLElement>) => {
          if (held === null) return;
          setHeld(null);
          if (held === slope) return;
          run(callOf(setSlopes, { clip: clip.id, keys: [{ track: track.id, time: keyframe.time }], ...(event.altKey ? { [side]: held } : { in: held, out: held }) }));
        }}
        onDoubleClick={() => run(callOf(setSlopes, { clip: clip.id, keys: [{ track: track.id, time: keyframe.time }], in: null, out: null }))}
        sx={{
          position: 'absolute',
          left: x + dx - 4,
          top: y + dy - 4,
          width: 8,
          height: 8,
          p: 0,
          border: 1.5,
          borderColor: 'kit.signal',
          bgcolor: 'kit.card',
          cursor: 'grab',
          touchAction: 'none',
          zIndex: 2,
        }}
      />
    </>
  );
}
