'use client';
import Box from '@mui/material/Box';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { figure, type DutyLine } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import type { Variable } from '@itchkit/core/rulebook';
import { leverStep } from '../../card/Lever';

/** Pixels of a lane, and between its border and the ends of the range. */
export const LANE = 34;
const EDGE = 6;

/** What can be done to a line of a duty of one's own. */
export interface LaneEdits {
  /** The point that is chosen; null for none here. */
  chosen: number | null;
  onChoose(point: number): void;
  onMove(point: number, time: number, value: number): void;
  onDrop(point: number): void;
}

interface LaneProps {
  of: DutyLine;
  seconds: number;
  top: number;
  x: ScaleLinear<number, number>;
  variable: Variable | undefined;
  /** What stands below its name; empty where something follows it. */
  remark: string;
  /** Worked out of an order: drawn thin, and not to be changed. */
  worked: boolean;
  edits: LaneEdits | null;
}

/** Where values of a line are drawn: its variable’s range over the height of the lane. */
export function laneScale({ points }: DutyLine, variable: Variable | undefined, top: number): ScaleLinear<number, number> {
  const values = points.map(({ value }) => value);
  return scaleLinear([variable?.min ?? Math.min(...values), variable?.max ?? Math.max(...values)], [top + LANE - EDGE, top + EDGE]);
}

/** One variable of a duty over time, within its range. Its points are moved by the pointer or the arrows, where they are one's own. */
export function DutyLane({ of, seconds, top, x, variable, remark, worked, edits }: LaneProps) {
  const [drag, setDrag] = useState<{ point: number; time: number; value: number } | null>(null);
  const y = laneScale(of, variable, top);
  const [min, max] = y.domain();
  const points = drag ? of.points.map((one, i) => (i === drag.point ? drag : one)) : of.points;
  const path = line<{ time: number; value: number }>(
    (point) => x(point.time),
    (point) => y(point.value),
  )([{ time: 0, value: points[0].value }, ...points, { time: seconds, value: points.at(-1)!.value }]);
  const at = (event: PointerEvent<Element>) => {
    const box = event.currentTarget.closest('svg')!.getBoundingClientRect();
    return { time: x.invert(event.clientX - box.left), value: y.invert(event.clientY - box.top) };
  };
  const key = leverKey(of.variable, of.index);
  return (
    <g opacity={remark && !worked ? 0.45 : 1} data-lane={key}>
      <line x1={0} x2={x(seconds)} y1={top + LANE} y2={top + LANE} stroke="currentColor" opacity={0.2} />
      <text x={4} y={top + 15} fontSize={11} fill="currentColor">
        {key}
      </text>
      <text x={4} y={top + 28} fontSize={10} fill="currentColor">
        {remark}
      </text>
      <Box
        component="path"
        d={path ?? ''}
        fill="none"
        strokeWidth={worked ? 1 : 1.75}
        strokeDasharray={worked ? '4 3' : undefined}
        pointerEvents="none"
        sx={{ stroke: (t) => t.vars!.palette.kit.sea }}
      />
      {edits &&
        points.map((one, i) => (
          <Box
            // Points have no identity but their place in the line.
            key={i}
            component="circle"
            cx={x(one.time)}
            cy={y(one.value)}
            r={edits.chosen === i ? 5.5 : 4.5}
            role="button"
            tabIndex={0}
            aria-label={`${key}: ${figure(one.value)} ${variable?.unit ?? ''} at ${figure(one.time)} s`}
            aria-pressed={edits.chosen === i}
            data-point={i}
            onFocus={() => edits.onChoose(i)}
            onPointerDown={(event: PointerEvent<Element>) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              edits.onChoose(i);
              setDrag({ point: i, ...of.points[i] });
            }}
            onPointerMove={(event: PointerEvent<Element>) => {
              if (!drag) return;
              event.stopPropagation();
              const { time, value } = at(event);
              const [low, high] = [of.points[i - 1]?.time ?? 0, of.points[i + 1]?.time ?? seconds];
              setDrag({ point: i, time: Math.min(high, Math.max(low, time)), value: Math.min(max, Math.max(min, value)) });
            }}
            onPointerUp={() => {
              const { time, value } = of.points[i];
              if (drag && (drag.time !== time || drag.value !== value)) edits.onMove(i, drag.time, drag.value);
              setDrag(null);
            }}
            onPointerCancel={() => setDrag(null)}
            onKeyDown={(event: KeyboardEvent) => {
              const much = event.shiftKey ? 10 : 1;
              const step = variable ? leverStep(variable) : 1;
              const way = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
              if (way) edits.onMove(i, one.time + much * way[0], one.value + much * way[1]);
              else if (event.key === 'Delete' || event.key === 'Backspace') edits.onDrop(i);
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
            sx={{
              fill: (t) => (edits.chosen === i ? t.vars!.palette.kit.signal : t.vars!.palette.kit.card),
              stroke: (t) => (edits.chosen === i ? t.vars!.palette.kit.signal : t.vars!.palette.kit.sea),
              strokeWidth: 2,
              cursor: 'grab',
              touchAction: 'none',
              outlineOffset: 2,
            }}
          />
        ))}
    </g>
  );
}
