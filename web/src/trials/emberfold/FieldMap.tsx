'use client';
import Box from '@mui/material/Box';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { FieldFrame } from '@itchkit/core/trial';
import type { RowPose } from '../trial-state';
import { stickAt, TURNS, wishOfStick, type Stick } from './stick';
import type { Past } from './use-body';
import { usePad } from './use-pad';

const SIZE = 170;
/** Metres from its middle to its edge. */
const REACH = 6;

interface FieldMapProps {
  frame: FieldFrame;
  past: readonly Past[];
  /** Who else is there. */
  others: readonly Pick<RowPose, 'place' | 'facing'>[];
  /** How fast it is to go ahead, and from where to where; null where the platform has no such value. */
  ahead: { value: number; min: number; max: number } | null;
  onAhead: (value: number) => void;
  onTurn: (turning: number) => void;
}

/**
 * The field from above, the body in its middle: where it came from, and where it faces. Arrow keys work it, a pad’s left stick, or the
 * pointer as one: pressed, it goes as far as that is from the middle; let go, it stands.
 */
export function FieldMap({ frame, past, others, ahead, onAhead, onTurn }: FieldMapProps) {
  const [left, on] = frame.place;
  const x = scaleLinear([left + REACH, left - REACH], [0, SIZE]);
  const y = scaleLinear([on + REACH, on - REACH], [0, SIZE]);
  const way = line<Past>(
    (one) => x(one.frame.place[0]),
    (one) => y(one.frame.place[1]),
  )([...past]);
  const turning = useRef(0);
  const stop = () => {
    if (turning.current === 0) return;
    turning.current = 0;
    onTurn(0);
  };
  useEffect(() => {
    window.addEventListener('blur', stop);
    return () => window.removeEventListener('blur', stop);
  });
  const press = (event: KeyboardEvent) => {
    const turn = { ArrowLeft: TURNS, ArrowRight: -TURNS }[event.key];
    const go = { ArrowUp: 0.5, ArrowDown: -0.5 }[event.key];
    if (turn === undefined && go === undefined && event.key !== 'Home') return;
    event.preventDefault();
    event.stopPropagation();
    if (turn !== undefined && turning.current !== turn) {
      turning.current = turn;
      onTurn(turn);
    }
    if (!ahead) return;
    if (event.key === 'Home') onAhead(Math.min(ahead.max, Math.max(ahead.min, 0)));
    else if (go !== undefined)
      onAhead(Math.min(ahead.max, Math.max(ahead.min, Math.round((ahead.value + go * (event.shiftKey ? 2 : 1)) * 10) / 10)));
  };
  const [stick, setStick] = useState<Stick | null>(null);
  const obey = (said: Stick) => {
    const wish = wishOfStick(said, ahead);
    if (turning.current !== wish.turning) {
      turning.current = wish.turning;
      onTurn(wish.turning);
    }
    if (ahead && ahead.value !== wish.ahead) onAhead(wish.ahead);
  };
  usePad(obey);
  const hold = (event: PointerEvent<SVGSVGElement>) => {
    const { left: edge, top } = event.currentTarget.getBoundingClientRect();
    const said = stickAt(event.clientX - edge, event.clientY - top, SIZE);
    setStick(said);
    obey(said);
  };
  const letGo = () => {
    if (!stick) return;
    setStick(null);
    obey({ x: 0, y: 0 });
  };
  const grid = (of: number) => Array.from({ length: 2 * REACH + 1 }, (_, i) => Math.floor(of) - REACH + i);
  return (
    <Box
      component="svg"
      role="application"
      tabIndex={0}
      aria-label="The field from above. Up and down: faster and slower; left and right: turn; Home: stand still. Pressed with the pointer it goes as far as that is from the middle"
      width={SIZE}
      height={SIZE}
      onKeyDown={press}
      onKeyUp={(event: KeyboardEvent) => (event.key === 'ArrowLeft' || event.key === 'ArrowRight') && stop()}
      onBlur={stop}
      onPointerDown={(event: PointerEvent<SVGSVGElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        hold(event);
      }}
      onPointerMove={(event: PointerEvent<SVGSVGElement>) => stick && hold(event)}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      sx={{
        touchAction: 'none',
        flex: 'none',
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'kit.line',
        borderRadius: 1,
        color: 'text.secondary',
      }}
    >
      {grid(left).map((at) => (
        <line key={`x${at}`} x1={x(at)} x2={x(at)} y1={0} y2={SIZE} stroke="currentColor" opacity={0.15} />
      ))}
      {grid(on).map((at) => (
        <line key={`y${at}`} y1={y(at)} y2={y(at)} x1={0} x2={SIZE} stroke="currentColor" opacity={0.15} />
      ))}
      {way && <Box component="path" d={way} fill="none" sx={{ stroke: (t) => t.vars!.palette.kit.sea, strokeWidth: 1.5 }} />}
      {others.map(({ place, facing }, i) => (
        <Box
          key={i}
          component="path"
          data-other
          d="M0 -5L3 4L-3 4Z"
          transform={`translate(${x(place[0])} ${y(place[1])}) rotate(${-facing})`}
          sx={{ fill: (t) => t.vars!.palette.kit.sea, opacity: 0.7 }}
        />
      ))}
      <Box
        component="path"
        d="M0 -9L6 7L0 3L-6 7Z"
        transform={`translate(${SIZE / 2} ${SIZE / 2}) rotate(${-frame.facing})`}
        sx={{ fill: (t) => t.vars!.palette.kit.signal }}
      />
      {stick && (
        <Box
          component="g"
          aria-hidden
          sx={{ stroke: (t) => t.vars!.palette.kit.signal, fill: (t) => t.vars!.palette.kit.signal, pointerEvents: 'none' }}
        >
          <line
            x1={SIZE / 2}
            y1={SIZE / 2}
            x2={((1 + stick.x) * SIZE) / 2}
            y2={((1 - stick.y) * SIZE) / 2}
            strokeWidth={1.5}
            strokeDasharray="3 3"
          />
          <circle cx={((1 + stick.x) * SIZE) / 2} cy={((1 - stick.y) * SIZE) / 2} r={5} />
        </Box>
      )}
      <text x={6} y={SIZE - 6} fontSize={10} fill="currentColor">
        squares of 1 m · press to walk
      </text>
    </Box>
  );
}
