'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useMemo } from 'react';
import { BlobsOver, type Axis, type Call, type Clip, type KeyTrack } from '@itchkit/core/document';
import { sampleKeys } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';
import { useKit, useOpenKit } from '../../session/context';
import { extentOf } from '../../strip/curve-lines';
import { AXIS_COLOURS, PROPERTY } from '../../strip/track-words';
import { FONT } from '../../theme/tokens';
import type { Recorded } from './use-recorder';

const [WIDTH, HEIGHT, LEFT, BOTTOM] = [270, 130, 34, 16];

interface Props {
  clip: Clip;
  part: string;
  recorded: Recorded;
  /** What writes it, as it is smoothed and thinned now. */
  call: Call;
}

/** What was recorded, thin, under what is written of it, with its keys: by axis, over time. */
export function RecordChart({ clip, part, recorded: { property, times, values }, call }: Props) {
  const kit = useKit();
  const { session } = useOpenKit();
  const made = useMemo(() => runCall(kit, call, new BlobsOver(session.blobs)).kit.clips[clip.id], [kit, call, session, clip.id]);
  const axes = ([0, 1, 2] as Axis[]).map((axis) => {
    const before = times.map((time, i): [number, number] => [time, values[3 * i + axis]]);
    const track = made.tracks.find(
      (one): one is KeyTrack => one.kind === 'keys' && one.part === part && one.property === property && one.axis === axis,
    );
    const after = track
      ? times.map((time): [number, number] => [time, sampleKeys(track, time)!])
      : before.map(([time]): [number, number] => [time, 0]);
    const keys = track?.keys.filter(({ time }) => time >= times[0] - 1e-6 && time <= times[times.length - 1] + 1e-6) ?? [];
    return { axis, before, after, keys };
  });
  const off = Math.max(...axes.flatMap(({ before, after }) => before.map(([, value], i) => Math.abs(value - after[i][1]))));
  const written = axes.reduce((sum, { keys }) => sum + keys.length, 0);
  const x = scaleLinear()
    .domain([times[0], times[times.length - 1]])
    .range([LEFT, WIDTH - 4]);
  const y = scaleLinear()
    .domain(extentOf(axes.flatMap(({ before }) => before.map(([, value]) => value))))
    .range([HEIGHT - BOTTOM, 4]);
  const path = line<[number, number]>(
    ([time]) => x(time),
    ([, value]) => y(value),
  );
  const { unit, title } = PROPERTY[property];
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Box
        component="svg"
        role="img"
        aria-label={`${title} as recorded and as written`}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        sx={{ width: '100%', bgcolor: 'kit.card', border: 1, borderColor: 'divider', borderRadius: 1 }}
      >
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <Box
              component="line"
              x1={LEFT}
              x2={WIDTH}
              y1={y(tick)}
              y2={y(tick)}
              sx={{ stroke: (t) => t.vars!.palette.kit.line }}
              strokeWidth={0.75}
            />
            <Box
              component="text"
              x={LEFT - 4}
              y={y(tick) + 3}
              textAnchor="end"
              sx={{ fill: (t) => t.vars!.palette.kit.inkSoft, fontSize: 9, fontFamily: FONT.figures }}
            >
              {tick}
            </Box>
          </g>
        ))}
        {x.ticks(4).map((tick) => (
          <Box
            key={tick}
            component="text"
            x={x(tick)}
            y={HEIGHT - 4}
            textAnchor="middle"
            sx={{ fill: (t) => t.vars!.palette.kit.inkSoft, fontSize: 9, fontFamily: FONT.figures }}
          >
            {tick} s
          </Box>
        ))}
        {axes.map(({ axis, before, after, keys }) => (
          <g key={axis}>
            <Box
              component="path"
              data-testid="recorded-line"
              d={path(before) ?? ''}
              fill="none"
              sx={{ stroke: AXIS_COLOURS[axis] }}
              strokeWidth={0.75}
              opacity={0.55}
            />
            <Box
              component="path"
              data-testid="written-line"
              d={path(after) ?? ''}
              fill="none"
              sx={{ stroke: AXIS_COLOURS[axis] }}
              strokeWidth={1.75}
            />
            {keys.map(({ time, value }) => (
              <Box
                key={time}
                component="circle"
                cx={x(time)}
                cy={y(value)}
                r={2.5}
                sx={{ fill: (t) => t.vars!.palette.kit.card, stroke: AXIS_COLOURS[axis] }}
                strokeWidth={1.25}
              />
            ))}
          </g>
        ))}
      </Box>
      <Box component="figcaption" sx={{ fontSize: 12, color: 'text.secondary' }}>
        Thin: as recorded, {times.length} places. Thick: as written, {written} keys; at most{' '}
        {off < 10 ? off.toPrecision(2) : off.toFixed(0)} {unit} apart.
      </Box>
    </Box>
  );
}
