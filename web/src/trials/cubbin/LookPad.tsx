'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { aboutNothing, type Figure, type FigureFacts } from '@itchkit/core/trial';

const WIDTH = 300;
const HEIGHT = 150;
const MARGIN = 14;
/** Degrees that an arrow key moves a gaze by; with Shift three times as much. */
const STEP = 5;

const x = scaleLinear([180, -180], [MARGIN, WIDTH - MARGIN]);
const y = scaleLinear([90, -90], [MARGIN, HEIGHT - MARGIN]);

const clamped = (value: number, most: number) => Math.max(-most, Math.min(most, Math.round(value)));

/** Where a gaze goes, in words. */
export function gazeInWords([aside, up]: readonly [number, number]): string {
  const round = (value: number) => Math.abs(Math.round(value));
  const side = round(aside) === 0 ? 'ahead' : `${round(aside)}° to its ${aside > 0 ? 'left' : 'right'}`;
  return round(up) === 0 ? side : `${side}, ${round(up)}° ${up > 0 ? 'up' : 'down'}`;
}

/** What a head reaches from where its body faces: once, or twice where that goes over straight behind. */
function reached({ turn, nod }: FigureFacts, facing: number): { left: number; width: number; top: number; height: number }[] {
  const [min, max] = turn ?? [-1, 1];
  const [low, high] = nod ?? [-1, 1];
  const across = (from: number, to: number) => ({ left: x(to), width: x(from) - x(to), top: y(high), height: y(low) - y(high) });
  const from = aboutNothing(facing + min);
  const to = from + max - min;
  return to <= 180 ? [across(from, to)] : [across(from, 180), across(-180, to - 360)];
}

interface LookPadProps {
  figure: Figure;
  facts: FigureFacts;
  gaze: readonly [aside: number, up: number];
  onGaze: (gaze: [aside: number, up: number]) => void;
}

/**
 * All ways that a figure can be asked to look, unrolled: its left on the left, up above. What its head reaches as its body stands is
 * shaded.
 */
export function LookPad({ figure, facts, gaze, onGaze }: LookPadProps) {
  const [held, setHeld] = useState(false);
  const lookAt = (event: PointerEvent<SVGSVGElement>) => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    onGaze([clamped(x.invert(event.clientX - left), 180), clamped(y.invert(event.clientY - top), 90)]);
  };
  const move = (event: KeyboardEvent) => {
    const by = STEP * (event.shiftKey ? 3 : 1);
    const way = { ArrowLeft: [by, 0], ArrowRight: [-by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key];
    if (!way && event.key !== 'Home') return;
    event.preventDefault();
    event.stopPropagation();
    onGaze(way ? [aboutNothing(gaze[0] + way[0]), clamped(gaze[1] + way[1], 90)] : [0, 0]);
  };
  return (
    <Box
      component="svg"
      role="group"
      aria-label="Where it looks"
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      onPointerDown={(event: PointerEvent<SVGSVGElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
        lookAt(event);
      }}
      onPointerMove={(event: PointerEvent<SVGSVGElement>) => held && lookAt(event)}
      onPointerUp={() => setHeld(false)}
      onPointerCancel={() => setHeld(false)}
      sx={{
        flex: 'none',
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'kit.line',
        borderRadius: 1,
        touchAction: 'none',
        cursor: 'crosshair',
      }}
    >
      {reached(facts, figure.facing).map(({ left, width, top, height }) => (
        <Box
          key={left}
          component="rect"
          x={left}
          y={top}
          width={width}
          height={height}
          sx={{ fill: (t) => t.vars!.palette.kit.sea, opacity: 0.14 }}
        />
      ))}
      {[-90, 0, 90].map((at) => (
        <line key={at} x1={x(at)} x2={x(at)} y1={MARGIN} y2={HEIGHT - MARGIN} stroke="currentColor" opacity={at === 0 ? 0.4 : 0.15} />
      ))}
      <line x1={MARGIN} x2={WIDTH - MARGIN} y1={y(0)} y2={y(0)} stroke="currentColor" opacity={0.4} />
      {[
        [90, 'its left'],
        [-90, 'its right'],
      ].map(([at, words]) => (
        <text key={words} x={x(Number(at))} y={HEIGHT - 4} fontSize={10} textAnchor="middle" fill="currentColor">
          {words}
        </text>
      ))}
      <Box component="path" d={`M${x(figure.facing) - 5} 2h10l-5 8z`} aria-hidden sx={{ fill: (t) => t.vars!.palette.text.secondary }} />
      <Box
        component="path"
        d={`M${x(aboutNothing(figure.facing + figure.turn)) - 6} ${y(figure.nod)}h12m-6 -6v12`}
        aria-hidden
        sx={{ stroke: (t) => t.vars!.palette.kit.sea, strokeWidth: 2 }}
      />
      <Box
        component="circle"
        cx={x(gaze[0])}
        cy={y(gaze[1])}
        r={6}
        role="button"
        tabIndex={0}
        aria-label={`Looks ${gazeInWords(gaze)}; arrows move it, Home is ahead`}
        onKeyDown={move}
        sx={{
          fill: (t) => t.vars!.palette.kit.card,
          stroke: (t) => t.vars!.palette.kit.signal,
          strokeWidth: 2.5,
          outlineOffset: 2,
          cursor: 'grab',
        }}
      />
    </Box>
  );
}
