'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import type { KeyboardEvent, PointerEvent } from 'react';
import { sharesOf, type Slide } from '@itchkit/core/behaviour';
import type { Mix, Peg } from '@itchkit/core/document';
import { figure } from '@itchkit/core/rulebook';
import { useKit, useSetSlice, useUi } from '../../../session/context';
import { Boat, clipName, DARKEST, Knot, MARGIN, pixel, places, reach, round, useDrag, Words, worst, type PictureProps } from './mix-parts';
import { numbersOf } from './beginnings';
import { labelPlaces } from './label-places';
import { useSlides } from './use-slides';

const LINE = { width: 440, height: 150, rope: 96 };
/** At how many places feet are looked at. */
const ALONG = 49;

/** Shares along a line, at places close together. */
function sharesAlong(mix: Mix, low: number, high: number): { at: number; shares: number[] }[] {
  const of = sharesOf(mix);
  return places(low, high, 141).map((at) => {
    const out = new Float64Array(mix.pegs.length);
    of.at([at], out);
    return { at, shares: [...out] };
  });
}

/** A mix along one value: a rope with its clips as knots, their shares above, how feet slide below. */
export function MixRope({ mix, parameters, values }: PictureProps) {
  const kit = useKit();
  const set = useSetSlice('behaviour');
  const chosen = useUi((state) => state.behaviour.peg);
  const passed = useUi((state) => state.behaviour.values);
  const drag = useDrag(mix);
  const [low, high] = reach(mix, 0, parameters);
  const x = scaleLinear([low, high], [MARGIN, LINE.width - MARGIN]);
  const y = scaleLinear([0, 1], [LINE.rope - 22, 12]);
  const ats = places(low, high, ALONG);
  const looked = ats.map((at) => [at]);
  const slides = useSlides(mix, looked, parameters);
  const shares = sharesAlong(mix, low, high);
  const name = mix.parameters[0];
  const now = typeof values[name] === 'number' ? values[name] : 0;
  const most = worst(slides);
  const rule = numbersOf(parameters).find((one) => one.name === name);
  const step = (event: KeyboardEvent, peg: Peg) => {
    const by = { ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    drag.put(peg, [round(peg.at[0] + by * (event.shiftKey ? 10 : 1), 0.01)]);
  };
  const slidePath = area<Slide | null>()
    .defined((one) => one !== null)
    .x((_, i) => x(ats[i]))
    .y0(LINE.height - 14)
    .y1((one) => LINE.height - 14 - Math.min(1, (one?.speed ?? 0) / DARKEST) * 26);
  const knots = mix.pegs.map((peg) => ({ x: x(drag.placeOf(peg)[0]), y: LINE.rope, name: clipName(kit, peg) }));
  const words = labelPlaces(knots, LINE);
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <Box
        component="svg"
        role="group"
        aria-label={`The mix ${mix.name} along ${rule?.title ?? name}`}
        viewBox={`0 0 ${LINE.width} ${LINE.height}`}
        onPointerDown={(event: PointerEvent<SVGElement>) =>
          set({ values: { ...passed, [name]: round(Math.min(high, Math.max(low, x.invert(pixel(event, LINE.width)[0]))), 0.05) } })
        }
        sx={{
          width: '100%',
          maxWidth: 760,
          bgcolor: 'kit.card',
          border: 1,
          borderColor: 'kit.line',
          borderRadius: 1,
          color: 'text.primary',
          touchAction: 'none',
        }}
      >
        {x.ticks(10).map((at) => (
          <g key={at} aria-hidden>
            <line x1={x(at)} x2={x(at)} y1={8} y2={LINE.height - 14} stroke="currentColor" opacity={0.08} />
            <text x={x(at)} y={LINE.height - 3} fontSize={9} textAnchor="middle" fill="currentColor" opacity={0.7}>
              {at}
            </text>
          </g>
        ))}
        {mix.pegs.map((peg, i) => (
          <Box
            key={peg.id}
            component="path"
            aria-hidden
            d={line<(typeof shares)[number]>(
              (one) => x(one.at),
              (one) => y(one.shares[i]),
            )(shares)!}
            fill="none"
            sx={{
              stroke: (t) => t.vars!.palette.kit[peg.id === chosen ? 'signal' : 'sea'],
              opacity: peg.id === chosen ? 1 : 0.55,
              strokeWidth: 1.2,
            }}
          />
        ))}
        <Box component="path" aria-hidden d={slidePath([...slides]) ?? ''} sx={{ fill: (t) => t.vars!.palette.kit.warn, opacity: 0.45 }} />
        <Box
          component="path"
          aria-hidden
          d={`M${MARGIN} ${LINE.rope}H${LINE.width - MARGIN}`}
          sx={{ stroke: (t) => t.vars!.palette.text.secondary, strokeWidth: 3, strokeDasharray: '5 1.5' }}
        />
        <Boat x={x(Math.min(high, Math.max(low, now)))} y={LINE.rope - 5} />
        {mix.pegs.map((peg, i) => {
          const [place] = drag.placeOf(peg);
          return (
            <Knot
              key={peg.id}
              label={`${clipName(kit, peg)} at ${figure(place, 2)}`}
              {...knots[i]}
              words={words[i]}
              chosen={peg.id === chosen}
              onFocus={() => set({ peg: peg.id })}
              onKeyDown={(event) => step(event, peg)}
              {...drag.handlers(peg, (event) => [round(Math.min(high, Math.max(low, x.invert(pixel(event, LINE.width)[0]))), 0.05)])}
            />
          );
        })}
      </Box>
      <Words slide={slides[most]} at={slides.length > 0 ? [ats[most]] : null} parameters={[rule?.title ?? name]} />
    </Box>
  );
}
