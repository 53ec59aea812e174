'use client';
import Box from '@mui/material/Box';
import { scaleLinear, scaleSequential } from 'd3-scale';
import { interpolateViridis } from 'd3-scale-chromatic';
import { useEffect, useRef } from 'react';
import type { LoopsFound } from './motion.worker';

const SIDE = 244;
const AXIS = 22;

/**
 * How far apart the poses of every two times are, the nearest brightest; what would loop is ringed, and a click takes the nearest of them.
 */
export function LoopMap({
  found,
  from,
  to,
  chosen,
  onChoose,
}: {
  found: LoopsFound;
  from: number;
  to: number;
  chosen: number;
  onChoose: (index: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    const { map, side } = found;
    let most = 0;
    for (const value of map) most = Math.max(most, value);
    const colour = scaleSequential((share: number) => interpolateViridis(1 - share)).domain([0, Math.sqrt(most || 1)]);
    const picture = context.createImageData(side, side);
    for (let i = 0; i < map.length; i++) {
      const hex = colour(Math.sqrt(map[i]));
      const channels = /^#(..)(..)(..)$/
        .exec(hex)!
        .slice(1)
        .map((text) => parseInt(text, 16));
      picture.data.set([...channels, 255], 4 * i);
    }
    context.putImageData(picture, 0, 0);
  }, [found]);
  const place = scaleLinear().domain([from, to]).range([0, SIDE]);
  const pairs = found.pairs.slice(0, 8);
  const pick = (event: React.MouseEvent<HTMLElement>) => {
    const own = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - own.left, event.clientY - own.top];
    const off = pairs.map((pair) =>
      Math.min(
        Math.hypot(place(pair.toSeconds) - x, place(pair.fromSeconds) - y),
        Math.hypot(place(pair.fromSeconds) - x, place(pair.toSeconds) - y),
      ),
    );
    onChoose(off.indexOf(Math.min(...off)));
  };
  return (
    <Box
      role="img"
      aria-label={`How near the poses of every two times are; ${found.pairs.length} places would loop`}
      sx={{ position: 'relative', width: SIDE, height: SIDE + AXIS }}
    >
      <Box
        component="canvas"
        ref={canvas}
        width={found.side}
        height={found.side}
        onClick={pick}
        sx={{ width: SIDE, height: SIDE, imageRendering: 'pixelated', cursor: 'crosshair', display: 'block', borderRadius: 1 }}
      />
      <Box
        component="svg"
        aria-hidden
        sx={{ position: 'absolute', inset: 0, width: SIDE, height: SIDE + AXIS, pointerEvents: 'none', overflow: 'visible' }}
      >
        {pairs.map((pair, i) => (
          <Box
            key={i}
            component="circle"
            cx={place(pair.toSeconds)}
            cy={place(pair.fromSeconds)}
            r={i === chosen ? 7 : 5}
            fill="none"
            strokeWidth={i === chosen ? 2.5 : 1.5}
            sx={{ stroke: (t) => (i === chosen ? t.vars!.palette.kit.signal : t.vars!.palette.kit.card) }}
          />
        ))}
        {place.ticks(4).map((tick) => (
          <Box
            key={tick}
            component="text"
            x={place(tick)}
            y={SIDE + 14}
            textAnchor="middle"
            sx={{ fontSize: 10, fill: (t) => t.vars!.palette.kit.inkSoft }}
          >
            {tick}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
