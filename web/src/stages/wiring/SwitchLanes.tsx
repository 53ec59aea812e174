'use client';
import Box from '@mui/material/Box';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { callOf, figure, type Span, type Switch } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { coverFaults, moveEdge } from '@itchkit/core/wiring';
import { leverStep } from '../../card/Lever';
import { useKit, useRun } from '../../session/context';

/** Pixels of a lane, and of its name above it. */
const [LANE, NAME] = [12, 17];

/** A part’s spans over the range of its variable, one lane a part; an edge that several share is dragged for all of them. */
export function SwitchLanes({ switches, variable, value }: { switches: readonly Switch[]; variable: Variable; value: number }) {
  const kit = useKit();
  const holder = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(260);
  useEffect(() => {
    const watch = new ResizeObserver(([{ contentRect }]) => setWidth(contentRect.width));
    watch.observe(holder.current!);
    return () => watch.disconnect();
  }, []);
  const x = scaleLinear()
    .domain([variable.min, variable.max])
    .range([4, Math.max(40, width - 4)]);
  const edges = edgesOf(switches);
  const faults = switches[0].among === '' ? [] : coverFaults(switches, variable.min, variable.max);
  const height = switches.length * (LANE + NAME) + 4;
  return (
    <Box ref={holder} sx={{ position: 'relative', height }} role="group" aria-label={`Shown over ${variable.name}`}>
      {switches.map((one, i) => (
        <Box key={one.id} sx={{ position: 'absolute', top: i * (LANE + NAME), left: 0, right: 0 }}>
          <Box sx={{ fontSize: 12, height: NAME, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap', px: 0.5 }}>
            {kit.parts[one.part]?.name}
          </Box>
          <Box sx={{ position: 'relative', height: LANE, bgcolor: 'kit.paper', borderRadius: 0.5 }}>
            {one.spans.map((span) => (
              <Box
                key={`${span.from} ${span.to}`}
                sx={{ position: 'absolute', top: 0, height: LANE, bgcolor: 'kit.sea', ...placeOf(span, x) }}
              />
            ))}
          </Box>
        </Box>
      ))}
      {faults.map((fault) => (
        <Box
          key={fault.from}
          title={fault.shown.length === 0 ? 'None of them is shown here' : 'More than one is shown here'}
          sx={{
            position: 'absolute',
            top: NAME,
            bottom: 4,
            border: 1,
            borderStyle: 'dashed',
            borderColor: 'kit.stop',
            minWidth: 3,
            pointerEvents: 'none',
            ...placeOf(fault, x),
          }}
        />
      ))}
      <Box
        aria-hidden
        sx={{
          position: 'absolute',
          top: NAME - 2,
          bottom: 0,
          left: x(value),
          width: 0,
          borderLeft: 1,
          borderColor: 'kit.signal',
          pointerEvents: 'none',
        }}
      />
      {edges.map(({ at, ids }) => (
        <Edge key={at} at={at} ids={ids} edges={edges} variable={variable} x={x} />
      ))}
    </Box>
  );
}

function placeOf({ from, to }: Span, x: ScaleLinear<number, number>): { left: number; width: number } {
  const [low, high] = x.range();
  const left = from === null ? low : Math.max(low, x(from));
  return { left, width: Math.max(0, (to === null ? high : Math.min(high, x(to))) - left) };
}

interface EdgeOf {
  at: number;
  /** Switches that have an edge there. */
  ids: string[];
}

/** Edges of all spans, each value once, rising. */
function edgesOf(switches: readonly Switch[]): EdgeOf[] {
  const out = new Map<number, string[]>();
  for (const { id, spans } of switches)
    for (const { from, to } of spans)
      for (const at of [from, to]) if (at !== null && !out.get(at)?.includes(id)) out.set(at, [...(out.get(at) ?? []), id]);
  return [...out].map(([at, ids]) => ({ at, ids })).sort((a, b) => a.at - b.at);
}

interface EdgeProps extends EdgeOf {
  edges: EdgeOf[];
  variable: Variable;
  x: ScaleLinear<number, number>;
}

/** An edge: dragged, or moved by the arrows, between its neighbours. */
function Edge({ at, ids, edges, variable, x }: EdgeProps) {
  const run = useRun();
  const [drag, setDrag] = useState<{ from: number; by: number } | null>(null);
  const step = leverStep(variable);
  const place = edges.findIndex((one) => one.at === at);
  const low = edges[place - 1]?.at ?? variable.min;
  const high = edges[place + 1]?.at ?? variable.max;
  const within = (value: number) => Number(Math.min(high - step, Math.max(low + step, Math.round(value / step) * step)).toPrecision(12));
  const move = (to: number) => to !== at && run(callOf(moveEdge, { switches: ids, at, to }));
  const target = (by: number) => within(x.invert(x(at) + by));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    event.preventDefault();
    move(within(at + (event.key === 'ArrowRight' ? 1 : -1) * (event.shiftKey ? 10 : 1) * step));
  };
  const shown = drag ? target(drag.by) : at;
  return (
    <Box
      role="slider"
      tabIndex={0}
      data-edge={at}
      aria-label={`Edge at ${figure(at)} ${variable.unit}`}
      aria-valuenow={shown}
      aria-valuemin={low}
      aria-valuemax={high}
      title={`${figure(shown)} ${variable.unit}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: event.clientX, by: 0 });
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, by: event.clientX - drag.from })}
      onPointerUp={() => {
        if (drag && Math.abs(drag.by) > 2) move(target(drag.by));
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={onKeyDown}
      sx={{
        position: 'absolute',
        top: NAME - 2,
        bottom: 0,
        left: x(shown) - 5,
        width: 10,
        cursor: 'ew-resize',
        touchAction: 'none',
        '&::after': { content: '""', position: 'absolute', left: 4, top: 0, bottom: 0, width: 2, bgcolor: drag ? 'kit.signal' : 'kit.ink' },
      }}
    />
  );
}
