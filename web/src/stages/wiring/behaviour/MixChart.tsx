'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import type { KeyboardEvent, PointerEvent } from 'react';
import type { Peg } from '@itchkit/core/document';
import { figure } from '@itchkit/core/rulebook';
import { useKit, useSetSlice, useUi } from '../../../session/context';
import { Boat, clipName, DARKEST, Knot, MARGIN, pixel, places, reach, round, useDrag, Words, worst, type PictureProps } from './mix-parts';
import { numbersOf } from './beginnings';
import { labelPlaces } from './label-places';
import { useSlides } from './use-slides';

const FIELD = 250;
/** At how many places along a side feet are looked at. */
const ACROSS = 13;

/** A mix over two values: a chart with its clips as buoys, how feet slide as soundings. */
export function MixChart({ mix, parameters, values }: PictureProps) {
  const kit = useKit();
  const set = useSetSlice('behaviour');
  const chosen = useUi((state) => state.behaviour.peg);
  const passed = useUi((state) => state.behaviour.values);
  const drag = useDrag(mix);
  const [[lowX, highX], [lowY, highY]] = [reach(mix, 0, parameters), reach(mix, 1, parameters)];
  // The first value goes up, as ahead does; the second to the left where it is positive.
  const y = scaleLinear([lowX, highX], [FIELD - MARGIN, MARGIN]);
  const x = scaleLinear([lowY, highY], [FIELD - MARGIN, MARGIN]);
  const looked = places(lowX, highX, ACROSS).flatMap((first) => places(lowY, highY, ACROSS).map((second) => [first, second]));
  const slides = useSlides(mix, looked, parameters);
  const most = worst(slides);
  const titles = mix.parameters.map((name) => numbersOf(parameters).find((one) => one.name === name)?.title ?? name);
  const value = (i: number) => (typeof values[mix.parameters[i]] === 'number' ? Number(values[mix.parameters[i]]) : 0);
  const at = (event: PointerEvent<SVGElement>): number[] => {
    const [px, py] = pixel(event, FIELD);
    return [Math.min(highX, Math.max(lowX, y.invert(py))), Math.min(highY, Math.max(lowY, x.invert(px)))].map((one) => round(one, 0.05));
  };
  const step = (event: KeyboardEvent, peg: Peg) => {
    const way = { ArrowUp: [0.1, 0], ArrowDown: [-0.1, 0], ArrowLeft: [0, 0.1], ArrowRight: [0, -0.1] }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    drag.put(
      peg,
      peg.at.map((one, i) => round(one + way[i] * (event.shiftKey ? 10 : 1), 0.01)),
    );
  };
  const knots = mix.pegs.map((peg) => {
    const [first, second] = drag.placeOf(peg);
    return { x: x(second), y: y(first), name: clipName(kit, peg) };
  });
  const words = labelPlaces(knots, { width: FIELD, height: FIELD });
  const cell = (FIELD - 2 * MARGIN) / (ACROSS - 1);
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start' }}>
      <Box
        component="svg"
        role="group"
        aria-label={`The mix ${mix.name} over ${titles.join(' and ')}`}
        width={FIELD}
        height={FIELD}
        onPointerDown={(event: PointerEvent<SVGElement>) => {
          const place = at(event);
          set({ values: { ...passed, ...Object.fromEntries(mix.parameters.map((name, i) => [name, place[i]])) } });
        }}
        sx={{
          flex: 'none',
          bgcolor: 'kit.card',
          border: 1,
          borderColor: 'kit.line',
          borderRadius: 1,
          color: 'text.primary',
          touchAction: 'none',
        }}
      >
        {slides.map((slide, i) =>
          slide ? (
            <Box
              key={i}
              component="circle"
              aria-hidden
              cx={x(looked[i][1])}
              cy={y(looked[i][0])}
              r={Math.max(0.6, (cell / 2) * Math.sqrt(Math.min(1, slide.speed / DARKEST)))}
              sx={{ fill: (t) => t.vars!.palette.kit.warn, opacity: 0.4 }}
            />
          ) : null,
        )}
        <line x1={x(0)} x2={x(0)} y1={MARGIN} y2={FIELD - MARGIN} stroke="currentColor" opacity={0.25} />
        <line y1={y(0)} y2={y(0)} x1={MARGIN} x2={FIELD - MARGIN} stroke="currentColor" opacity={0.25} />
        <text x={FIELD / 2} y={14} fontSize={10} textAnchor="middle" fill="currentColor">
          {titles[0]} {figure(highX, 1)}
        </text>
        <text x={6} y={FIELD - 6} fontSize={10} fill="currentColor">
          {titles[1]} {figure(highY, 1)} to {figure(lowY, 1)}
        </text>
        <Boat x={x(Math.min(highY, Math.max(lowY, value(1))))} y={y(Math.min(highX, Math.max(lowX, value(0))))} />
        {mix.pegs.map((peg, i) => {
          const place = drag.placeOf(peg);
          return (
            <Knot
              key={peg.id}
              label={`${clipName(kit, peg)} at ${place.map((one) => figure(one, 2)).join(' and ')}`}
              {...knots[i]}
              words={words[i]}
              chosen={peg.id === chosen}
              onFocus={() => set({ peg: peg.id })}
              onKeyDown={(event) => step(event, peg)}
              {...drag.handlers(peg, at)}
            />
          );
        })}
      </Box>
      <Words slide={slides[most]} at={slides.length > 0 ? looked[most] : null} parameters={titles} />
    </Box>
  );
}
