'use client';
import Box from '@mui/material/Box';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { setPeg, type ParameterRule, type Slide, type Values } from '@itchkit/core/behaviour';
import { callOf, type Kit, type Mix, type Peg } from '@itchkit/core/document';
import { figure } from '@itchkit/core/rulebook';
import { useRun, useSetSlice } from '../../../session/context';
import { numbersOf } from './beginnings';
import type { LabelPlace } from './label-places';

/** About a picture of a mix, pixels of it. */
export const MARGIN = 26;
/** Feet that slide as fast are drawn as dark as it goes, metres a second. */
export const DARKEST = 2;

export interface PictureProps {
  mix: Mix;
  parameters: readonly ParameterRule[];
  values: Values;
}

/** What a clip of a mix is called. */
export const clipName = (kit: Kit, { clip }: Peg) => (clip === null ? 'rest' : (kit.clips[clip]?.name ?? 'rest'));
/** Places from one number to another, as far apart. */
export const places = (low: number, high: number, n: number) => Array.from({ length: n }, (_, i) => low + ((high - low) * i) / (n - 1));
export const round = (value: number, step: number) => Math.round(value / step) * step;

/** What a parameter's axis shows: what is passed in, and where clips are beyond that. */
export function reach(mix: Mix, i: number, parameters: readonly ParameterRule[]): [number, number] {
  const rule = numbersOf(parameters).find(({ name }) => name === mix.parameters[i]);
  const at = mix.pegs.map((peg) => peg.at[i]);
  return [Math.min(...at, rule?.min ?? Infinity), Math.max(...at, rule?.max ?? -Infinity)];
}

/** A clip’s place that is dragged: written once it is let go. */
export function useDrag(mix: Mix) {
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
export function pixel(event: PointerEvent<SVGElement>, wide: number): [number, number] {
  const { left, top, width } = (event.currentTarget.ownerSVGElement ?? event.currentTarget).getBoundingClientRect();
  const scale = wide / width;
  return [(event.clientX - left) * scale, (event.clientY - top) * scale];
}

/** Where feet slide fastest. */
export const worst = (slides: readonly (Slide | null)[]): number =>
  slides.reduce((most, one, i) => ((one?.speed ?? -1) > (slides[most]?.speed ?? -1) ? i : most), 0);

/** Where feet slide most, in words. */
function slideSaid(slide: Slide | null | undefined, at: readonly number[] | null, parameters: readonly string[]): string {
  if (at === null) return 'How feet slide is being worked out …';
  if (!slide) return 'Nothing that is mixed steps.';
  const where = at.map((value, i) => `${parameters[i]} ${figure(value, 1)}`).join(' and ');
  return `Feet slide most at ${where}: ${figure(slide.speed, 2)} m/s.`;
}

/** The same, below the picture. */
export function Words({
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
export function Boat({ x, y }: { x: number; y: number }) {
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
  /** Where its name stands. */
  words: LabelPlace;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  onPointerDown: (event: PointerEvent<SVGElement>) => void;
  onPointerMove: (event: PointerEvent<SVGElement>) => void;
  onPointerUp: () => void;
  onPointerCancel: () => void;
}

/** A clip’s place: dragged, or moved by keys. */
export function Knot({ label, name, x, y, chosen, words, onFocus, ...hears }: KnotProps) {
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
      <text x={x + words.dx} y={y + words.dy} fontSize={11} textAnchor={words.anchor} fill="currentColor">
        {name}
      </text>
    </Box>
  );
}
