'use client';
import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import type { ParameterRule } from '@itchkit/core/behaviour';
import type { Id, Kit } from '@itchkit/core/document';
import { FIELD_RATE } from '@itchkit/core/trial';
import type { Past } from './use-body';

const WIDTH = 260;
const HEIGHT = 26;
/** How much of the past is on a strip, seconds. */
const SECONDS = 12;

interface StripsProps {
  kit: Kit;
  parameters: readonly ParameterRule[];
  past: readonly Past[];
  /** The moment that is looked at again; null while time goes on. */
  looked: number | null;
  onLook: (seconds: number) => void;
}

/** Each value that is passed in, and what each layer plays in which shares, over the last seconds. */
export function Strips({ kit, parameters, past, looked, onLook }: StripsProps) {
  const end = past.length > 0 ? past[past.length - 1].frame.seconds : 0;
  const x = scaleLinear([Math.max(0, end - SECONDS), Math.max(SECONDS, end)], [0, WIDTH]);
  const seen = past.filter(({ frame }) => frame.seconds >= end - SECONDS);
  const numbers = parameters.filter((rule) => rule.kind === 'number' && rule.always === undefined);
  return (
    <Box sx={{ display: 'grid', gap: 0.75, gridTemplateColumns: 'auto 1fr', alignItems: 'center', fontSize: 11.5 }}>
      {numbers.map((rule) => (
        <NumberStrip key={rule.name} rule={rule} x={x} seen={seen} />
      ))}
      {(kit.behaviour?.layers ?? []).map((layer) => (
        <ShareStrip key={layer.id} kit={kit} layer={layer} x={x} seen={seen} />
      ))}
      <Box sx={{ color: 'text.secondary' }}>{looked === null ? 'now' : `${looked.toFixed(1)} s`}</Box>
      <Slider
        size="small"
        aria-label="Look at a moment again"
        disabled={seen.length < 2}
        min={seen[0]?.frame.seconds ?? 0}
        max={Math.max(end, (seen[0]?.frame.seconds ?? 0) + 0.05)}
        step={0.05}
        value={looked ?? end}
        valueLabelDisplay="auto"
        valueLabelFormat={(seconds) => `${seconds.toFixed(1)} s`}
        onChange={(_, seconds) => onLook(seconds)}
        sx={{ width: Math.max(20, x(end)), ml: `${x(seen[0]?.frame.seconds ?? 0)}px`, py: 0.5 }}
      />
    </Box>
  );
}

type Across = (seconds: number) => number;

function NumberStrip({ rule, x, seen }: { rule: ParameterRule; x: Across; seen: readonly Past[] }) {
  const { min, max } = rule as Extract<ParameterRule, { kind: 'number' }>;
  const y = scaleLinear([min, max], [HEIGHT - 2, 2]);
  const value = ({ values }: Past) => Number(values[rule.name] ?? 0);
  const path = line<Past>(
    (one) => x(one.frame.seconds),
    (one) => y(value(one)),
  ).curve(curveStepAfter)([...seen]);
  return (
    <>
      <Box sx={{ color: 'text.secondary' }}>{rule.title}</Box>
      <Box component="svg" role="img" aria-label={`${rule.title} over time`} width={WIDTH} height={HEIGHT} sx={{ bgcolor: 'kit.card' }}>
        <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="currentColor" opacity={0.25} />
        {path && <Box component="path" d={path} fill="none" sx={{ stroke: (t) => t.vars!.palette.kit.sea, strokeWidth: 1.5 }} />}
      </Box>
    </>
  );
}

/** Shares of clips as bands one over another, in inks of one hue: the clip’s name where its band is wide enough. */
function ShareStrip({ kit, layer, x, seen }: { kit: Kit; layer: { id: Id; name: string }; x: Across; seen: readonly Past[] }) {
  const clips = [
    ...new Set(seen.flatMap(({ frame }) => frame.layers.find((one) => one.layer === layer.id)!.shares.map(({ clip }) => clip))),
  ];
  return (
    <>
      <Box sx={{ color: 'text.secondary' }}>{layer.name}</Box>
      <Box
        component="svg"
        role="img"
        aria-label={`What ${layer.name} plays over time: ${clips.map((clip) => (clip === null ? 'nothing' : kit.clips[clip]?.name)).join(', ')}`}
        width={WIDTH}
        height={HEIGHT}
        sx={{ bgcolor: 'kit.card' }}
      >
        {seen.map(({ frame }, i) => {
          const next = seen[i + 1]?.frame.seconds ?? frame.seconds + 3 / FIELD_RATE;
          let low = 0;
          return frame.layers
            .find((one) => one.layer === layer.id)!
            .shares.map(({ clip, share }) => {
              const top = low;
              low += share * HEIGHT;
              return (
                <Box
                  key={`${frame.seconds} ${clip}`}
                  component="rect"
                  x={x(frame.seconds)}
                  width={Math.max(0.5, x(next) - x(frame.seconds) + 0.3)}
                  y={top}
                  height={share * HEIGHT}
                  sx={{ fill: (t) => t.vars!.palette.kit.sea, opacity: 0.2 + (0.7 * (clips.indexOf(clip) + 1)) / (clips.length + 1) }}
                />
              );
            });
        })}
      </Box>
    </>
  );
}
