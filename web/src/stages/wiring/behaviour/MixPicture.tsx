'use client';
import Box from '@mui/material/Box';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { setPeg, sharesOf, type ParameterRule, type Slide, type Values } from '@itchkit/core/behaviour';
import { callOf, type Kit, type Mix, type Peg } from '@itchkit/core/document';
import { figure } from '@itchkit/core/rulebook';
import { useKit, useRun, useSetSlice, useUi } from '../../../session/context';
import { numbersOf } from './new-mix';
import { useSlides } from './use-slides';

const MARGIN = 26;
/** The picture of a line; of a field it is a square beside its words. */
const LINE = { width: 440, height: 150, rope: 96 };
const FIELD = 250;
/** How many places are looked at along a side. */
const ALONG = 49;
const ACROSS = 13;
/** Feet that slide as fast are drawn as dark as it goes, metres a second. */
const DARKEST = 2;

interface PictureProps {
  mix: Mix;
  parameters: readonly ParameterRule[];
  values: Values;
}

const clipName = (kit: Kit, { clip }: Peg) => (clip === null ? 'rest' : (kit.clips[clip]?.name ?? 'rest'));
const places = (low: number, high: number, n: number) => Array.from({ length: n }, (_, i) => low + ((high - low) * i) / (n - 1));
const round = (value: number, step: number) => Math.round(value / step) * step;

/** What a parameter's axis shows: what is passed in, and where clips are beyond that. */
function reach(mix: Mix, i: number, parameters: readonly ParameterRule[]): [number, number] {
  const rule = numbersOf(parameters).find(({ name }) => name === mix.parameters[i]);
  const at = mix.pegs.map((peg) => peg.at[i]);
  return [Math.min(...at, rule?.min ?? Infinity), Math.max(...at, rule?.max ?? -Infinity)];
}

/** A clip's place that is dragged: written once it is let go. */
function useDrag(mix: Mix) {
  const run = useRun();
  const set = useSetSlice('behaviour');
  const [held, setHeld] = useState<{ peg: string; at: number[] } | null>(null);
  const latest = useRef<{ peg: string; at: number[] } | null>(null);
  const put = (peg: Peg, at: number[]) => void run(callOf(setPeg, { mix: mix.id, peg: peg.id, at }));
  return {
    held,
    placeOf: (peg: Peg) => (held?.peg === peg.id ? held.at : peg.at),
    put,
    handlers: (peg: Peg, where: (event: PointerEvent<SVGElement>) => number[]) => ({
      onPointerDown: (event: PointerEvent<SVGElement>) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        set({ peg: peg.id });
        latest.current = { peg: peg.id, at: peg.at };
        setHeld(latest.current);
      },
      onPointerMove: (event: PointerEvent<SVGElement>) => {
        if (latest.current?.peg !== peg.id) return;
        latest.current = { peg: peg.id, at: where(event) };
        setHeld(latest.current);
      },
      onPointerUp: () => {
        // What is drawn may be a move behind.
        const now = latest.current;
        latest.current = null;
        setHeld(null);
        if (now?.peg === peg.id && now.at.some((value, i) => value !== peg.at[i])) put(peg, now.at);
      },
      onPointerCancel: () => {
        latest.current = null;
        setHeld(null);
      },
    }),
  };
}

/** Where on the picture an event is, pixels of a picture as wide, however large it is shown. */
function pixel(event: PointerEvent<SVGElement>, wide: number): [number, number] {
  const { left, top, width } = (event.currentTarget.ownerSVGElement ?? event.currentTarget).getBoundingClientRect();
  const scale = wide / width;
  return [(event.clientX - left) * scale, (event.clientY - top) * scale];
}

const worst = (slides: readonly (Slide | null)[]): number =>
  slides.reduce((most, one, i) => ((one?.speed ?? -1) > (slides[most]?.speed ?? -1) ? i : most), 0);

/** A mix as it is: of one value a rope with its clips as knots, of two a chart with its clips as buoys. */
export function MixPicture(props: PictureProps) {
  return props.mix.kind === 'line' ? <Rope key={props.mix.id} {...props} /> : <Chart key={props.mix.id} {...props} />;
}

/** Shares along a line, at places close together. */
function sharesAlong(mix: Mix, low: number, high: number): { at: number; shares: number[] }[] {
  const of = sharesOf(mix);
  return places(low, high, 141).map((at) => {
    const out = new Float64Array(mix.pegs.length);
    of.at([at], out);
    return { at, shares: [...out] };
  });
}

function Rope({ mix, parameters, values }: PictureProps) {
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
        {mix.pegs.map((peg) => {
          const [place] = drag.placeOf(peg);
          return (
            <Knot
              key={peg.id}
              label={`${clipName(kit, peg)} at ${figure(place, 2)}`}
              name={clipName(kit, peg)}
              x={x(place)}
              y={LINE.rope}
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

/** Where feet slide most, in words. */
function slideSaid(slide: Slide | null | undefined, at: readonly number[] | null, parameters: readonly string[]): string {
  if (at === null) return 'How feet slide is being worked out …';
  if (!slide) return 'Nothing that is mixed steps.';
  const where = at.map((value, i) => `${parameters[i]} ${figure(value, 1)}`).join(' and ');
  return `Feet slide most at ${where}: ${figure(slide.speed, 2)} m/s.`;
}

function Words({
  slide,
  at,
  parameters,
}: {
  slide: Slide | null | undefined;
  at: readonly number[] | null;
  parameters: readonly string[];
}) {
  return (
    <Box role="status" sx={{ fontSize: 12, color: 'text.secondary' }}>
      {slideSaid(slide, at, parameters)}
    </Box>
  );
}

/** Where what is passed in is. */
function Boat({ x, y }: { x: number; y: number }) {
  return (
    <Box
      component="path"
      aria-hidden
      d="M-9 0H9L6 5H-6ZM0 -1V-13L7 -3H0"
      transform={`translate(${x} ${y - 4})`}
      sx={{ fill: (t) => t.vars!.palette.kit.signal, pointerEvents: 'none' }}
    />
  );
}

interface KnotProps {
  label: string;
  name: string;
  x: number;
  y: number;
  chosen: boolean;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  onPointerDown: (event: PointerEvent<SVGElement>) => void;
  onPointerMove: (event: PointerEvent<SVGElement>) => void;
  onPointerUp: () => void;
  onPointerCancel: () => void;
}

function Knot({ label, name, x, y, chosen, onFocus, ...hears }: KnotProps) {
  return (
    <Box
      component="g"
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuetext={label}
      aria-valuenow={Math.round(x)}
      onFocus={onFocus}
      {...hears}
      sx={{ cursor: 'grab', outlineOffset: 2 }}
    >
      <Box
        component="path"
        d="M-7 -5Q0 -9 7 -5Q9 0 7 5Q0 9 -7 5Q-9 0 -7 -5ZM-6 -3Q0 3 6 3"
        transform={`translate(${x} ${y})`}
        sx={{
          fill: (t) => t.vars!.palette.kit.sheet,
          stroke: (t) => (chosen ? t.vars!.palette.kit.signal : t.vars!.palette.text.primary),
          strokeWidth: chosen ? 2.2 : 1.4,
        }}
      />
      <text x={x} y={y + 20} fontSize={11} textAnchor="middle" fill="currentColor">
        {name}
      </text>
    </Box>
  );
}

function Chart({ mix, parameters, values }: PictureProps) {
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
        {mix.pegs.map((peg) => {
          const place = drag.placeOf(peg);
          return (
            <Knot
              key={peg.id}
              label={`${clipName(kit, peg)} at ${place.map((one) => figure(one, 2)).join(' and ')}`}
              name={clipName(kit, peg)}
              x={x(place[1])}
              y={y(place[0])}
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
