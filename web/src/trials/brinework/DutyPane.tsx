'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import type { Rulebook } from '@itchkit/core/rulebook';
import { dutyAt, type Duty } from '@itchkit/core/trial';
import { leverKey } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { niceStep } from '../../nice-step';
import { setSlice, useOpenKit } from '../../session/context';

const LABELS = 150;
const LANE = 34;
const RULER = 22;
const FRAME = 1 / 30;

/** A run of several variables over time: its lines over a ruler, played in a loop. What nothing follows is drawn pale. */
export function DutyPane({
  duties,
  keys,
  variables,
}: {
  duties: readonly Duty[];
  keys: ReadonlySet<string>;
  variables: Rulebook['variables'];
}) {
  const { ui } = useOpenKit();
  const [name, setName] = useState(duties[0].name);
  const duty = duties.find((one) => one.name === name) ?? duties[0];
  const [time, setTime] = useState(0);
  const [playing, setPlaying] = useState(false);
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(600);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const go = (to: number) => {
    setTime(to);
    const values = dutyAt(duty, to);
    for (const key of Object.keys(values)) if (!keys.has(key)) delete values[key];
    setSlice(ui, 'trial', { levers: { ...ui.getState().trial.levers, ...values } });
  };
  const latest = useRef({ go, time, duty });
  useEffect(() => {
    latest.current = { go, time, duty };
  });
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let frame = 0;
    const tick = (now: number) => {
      const passed = (now - before) / 1000;
      if (passed >= FRAME) {
        before = now;
        latest.current.go((latest.current.time + passed) % latest.current.duty.seconds);
      }
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing]);
  const x = scaleLinear([0, duty.seconds], [LABELS, Math.max(LABELS + 60, width - 12)]);
  const seek = (event: PointerEvent<Element>) => {
    const at = x.invert(event.clientX - area.current!.getBoundingClientRect().left);
    setPlaying(false);
    go(Math.min(duty.seconds, Math.max(0, at)));
  };
  const tick = niceStep(duty.seconds, Math.max(2, (width - LABELS) / 60));
  const height = RULER + LANE * duty.lines.length;
  return (
    <Box sx={{ p: 2.5, pt: 1 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1, mt: 1 }}>
        <Box sx={{ width: 170, flex: 'none' }}>
          <Choice label="Duty" value={name} options={duties.map((one) => [one.name, one.name] as const)} onChange={setName} />
        </Box>
        <Button
          variant="outlined"
          startIcon={playing ? <Pause /> : <PlayArrow />}
          onClick={() => setPlaying(!playing)}
          sx={{ flex: 'none', whiteSpace: 'nowrap', py: 0.5 }}
        >
          {playing ? 'Stop the duty' : 'Play the duty'}
        </Button>
        <Box component="output" aria-label="Time in the duty" className="figures" sx={{ flex: 'none', width: 48 }}>
          {time.toFixed(1)} s
        </Box>
        <Box
          title={duty.about}
          sx={{ fontSize: 12.5, lineHeight: 1.3, color: 'text.secondary', minWidth: 0, maxHeight: 33, overflow: 'hidden' }}
        >
          {duty.about}
        </Box>
      </Box>
      <Box ref={area} sx={{ position: 'relative' }}>
        <Box
          component="svg"
          role="img"
          aria-label={`${duty.name}: ${duty.lines.map(({ variable }) => variable).join(', ')} over ${duty.seconds} s`}
          {...{ width, height }}
          onPointerDown={(event: PointerEvent<Element>) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            seek(event);
          }}
          onPointerMove={(event: PointerEvent<Element>) => event.buttons === 1 && seek(event)}
          sx={{ display: 'block', color: 'text.secondary', cursor: 'ew-resize', touchAction: 'none', userSelect: 'none' }}
        >
          {Array.from({ length: Math.floor(duty.seconds / tick) + 1 }, (_, i) => i * tick).map((one) => (
            <g key={one}>
              <line x1={x(one)} x2={x(one)} y1={RULER - 6} y2={height} stroke="currentColor" opacity={0.18} />
              <text x={x(one)} y={11} fontSize={10.5} textAnchor="middle" fill="currentColor">
                {one} s
              </text>
            </g>
          ))}
          {duty.lines.map((one, i) => (
            <Lane
              key={`${one.variable}${one.index}`}
              of={one}
              seconds={duty.seconds}
              top={RULER + LANE * i}
              x={x}
              keys={keys}
              variables={variables}
            />
          ))}
          <Box
            component="line"
            x1={x(time)}
            x2={x(time)}
            y1={RULER - 8}
            y2={height}
            sx={{ stroke: (t) => t.vars!.palette.kit.signal }}
            strokeWidth={1.5}
          />
        </Box>
      </Box>
    </Box>
  );
}

interface LaneProps {
  of: Duty['lines'][number];
  seconds: number;
  top: number;
  x: (time: number) => number;
  keys: ReadonlySet<string>;
  variables: Rulebook['variables'];
}

/** One variable of a duty, within its range. */
function Lane({ of, seconds, top, x, keys, variables }: LaneProps) {
  const key = leverKey(of.variable, of.index);
  const variable = variables.find(({ name }) => name === of.variable);
  const values = of.points.map(({ value }) => value);
  const y = scaleLinear([variable?.min ?? Math.min(...values), variable?.max ?? Math.max(...values)], [top + LANE - 5, top + 5]);
  const all = [{ time: 0, value: of.points[0].value }, ...of.points, { time: seconds, value: of.points.at(-1)!.value }];
  const used = keys.has(key);
  const path = line<{ time: number; value: number }>(
    (point) => x(point.time),
    (point) => y(point.value),
  )(all);
  return (
    <g opacity={used ? 1 : 0.4}>
      <line x1={0} x2={x(seconds)} y1={top + LANE} y2={top + LANE} stroke="currentColor" opacity={0.2} />
      <text x={4} y={top + 15} fontSize={11} fill="currentColor">
        {key}
      </text>
      <text x={4} y={top + 28} fontSize={10} fill="currentColor">
        {used ? '' : 'nothing follows it'}
      </text>
      <Box component="path" d={path ?? ''} fill="none" strokeWidth={1.75} sx={{ stroke: (t) => t.vars!.palette.kit.sea }} />
    </g>
  );
}
