'use client';
import Box from '@mui/material/Box';
import type { ScaleLinear } from 'd3-scale';
import { useState, type KeyboardEvent } from 'react';
import { callOf, count, figure } from '@itchkit/core/document';
import { moveStation, removeStation, type Station } from '@itchkit/core/wiring';
import { leverStep } from '../../card/Lever';
import { useRun } from '../../session/context';
import type { BoundLever } from './levers';

interface BeadProps {
  station: Station;
  lever: BoundLever;
  x: ScaleLinear<number, number>;
  top: number;
  here: boolean;
  snap(value: number): number;
  /** Sets the lever. */
  onGo(value: number): void;
}

/**
 * A station on the ruler of values. A click sets the lever there; dragging, or the arrows, moves it with every part that is posed at it;
 * Delete takes it away. Neutral stays.
 */
export function StationBead({ station, lever, x, top, here, snap, onGo }: BeadProps) {
  const run = useRun();
  const [drag, setDrag] = useState<{ from: number; by: number } | null>(null);
  const { value, bindings, neutral } = station;
  const unit = lever.variable?.unit ?? '';
  const move = (to: number) => {
    if (to === value) return;
    if (run(callOf(moveStation, { bindings, from: value, to }))) onGo(to);
  };
  const target = (by: number) => snap(x.invert(x(value) + by));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      event.stopPropagation();
      run(callOf(removeStation, { bindings, value }));
      return;
    }
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    event.preventDefault();
    const step = lever.variable ? leverStep(lever.variable) : 1;
    move(Number((value + (event.key === 'ArrowRight' ? 1 : -1) * (event.shiftKey ? 10 : 1) * step).toPrecision(12)));
  };
  const label = neutral
    ? `Neutral, ${figure(value)} ${unit}: everything is at rest`
    : `Station at ${figure(value)} ${unit}, poses ${count(bindings.length, 'part')}`;
  return (
    <Box
      component="button"
      data-station={value}
      aria-label={label}
      aria-pressed={here}
      title={label}
      onClick={() => drag === null && onGo(value)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: event.clientX, by: 0 });
      }}
      onPointerMove={(event) => drag && !neutral && setDrag({ ...drag, by: event.clientX - drag.from })}
      onPointerUp={() => {
        if (drag && Math.abs(drag.by) > 3) move(target(drag.by));
        else onGo(value);
        setDrag(null);
      }}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={onKeyDown}
      sx={{
        position: 'absolute',
        left: (drag ? x(target(drag.by)) : x(value)) - 6,
        top: top - 6,
        width: 12,
        height: 12,
        p: 0,
        borderRadius: neutral ? '2px' : '50%',
        border: 2,
        borderColor: here ? 'kit.signal' : 'kit.sea',
        bgcolor: here ? 'kit.signal' : 'kit.card',
        cursor: neutral ? 'pointer' : 'grab',
        touchAction: 'none',
      }}
    />
  );
}
