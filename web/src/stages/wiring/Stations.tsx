'use client';
import Box from '@mui/material/Box';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useLayoutEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { figure, type Binding } from '@itchkit/core/document';
import { stationsOf } from '@itchkit/core/wiring';
import { leverStep } from '../../card/Lever';
import { niceStep } from '../../nice-step';
import { useKit, useOpenKit } from '../../session/context';
import { AXIS_COLOURS } from '../../strip/track-words';
import type { BoundLever } from './levers';
import { domainOf, kindsOf, responseLines, SHOWN, type Kind } from './response';
import { useValue } from './use-value';
import { StationBead } from './StationBead';
import { Toggles } from '../../panels/Toggles';

const RULER = 30;
const LEFT = 58;
const RIGHT = 14;
const FOOT = 10;

/** A number as near as the lever goes. */
const snapped = (value: number, lever: BoundLever) => {
  if (!lever.variable) return Number(value.toPrecision(4));
  const step = leverStep(lever.variable);
  return Number((Math.round(value / step) * step).toPrecision(12));
};

/** The stations of a variable on a ruler of its values, and over it what everything that follows does, beyond the ends too. */
export function Stations({ lever, binding }: { lever: BoundLever; binding: Binding }) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const { key, variable, bindings } = lever;
  const value = useValue(lever);
  const area = useRef<HTMLDivElement>(null);
  const [{ width, height }, setSize] = useState({ width: 480, height: 180 });
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setSize({ width: entry.contentRect.width, height: entry.contentRect.height }));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const [asked, setKind] = useState<Kind>('turn');
  const domain = useMemo(() => domainOf(variable, bindings), [variable, bindings]);
  const { kinds, kind, lines } = useMemo(() => {
    const all = kindsOf(bindings);
    const one = all.includes(asked) ? asked : all[0];
    return { kinds: all, kind: one, lines: responseLines(bindings, one, domain) };
  }, [bindings, asked, domain]);
  const stations = useMemo(() => stationsOf(bindings), [bindings]);
  const x = useMemo(() => scaleLinear(domain, [LEFT, Math.max(LEFT + 40, width - RIGHT)]), [domain, width]);
  const y = useMemo(() => heights(lines, height), [lines, height]);
  const set = (next: number) => ui.setState(({ wiring }) => ({ wiring: { ...wiring, levers: { ...wiring.levers, [key]: next } } }));
  const seek = (event: PointerEvent<Element>) => {
    const at = x.invert(event.clientX - area.current!.getBoundingClientRect().left);
    set(variable ? Math.min(variable.max, Math.max(variable.min, snapped(at, lever))) : snapped(at, lever));
  };
  const tick = niceStep(domain[1] - domain[0], Math.max(2, (width - LEFT) / 70));
  const ticks = Array.from(
    { length: Math.floor((domain[1] - domain[0]) / tick) + 2 },
    (_, i) => (Math.ceil(domain[0] / tick) + i) * tick,
  ).filter((one) => one <= domain[1]);
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      {kinds.length > 1 && (
        <Toggles
          label="What is shown"
          value={kind}
          options={kinds.map((one) => [one, `${SHOWN[one].title}, ${SHOWN[one].unit}`] as const)}
          onChange={setKind}
          sx={{ px: 2.5, pb: 1 }}
        />
      )}
      <Box
        ref={area}
        role="group"
        aria-label={`Stations of ${key}`}
        sx={{ flex: 1, minHeight: 96, position: 'relative', userSelect: 'none' }}
      >
        <Box
          component="svg"
          aria-hidden
          {...{ width, height }}
          onPointerDown={(event: PointerEvent<Element>) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            seek(event);
          }}
          onPointerMove={(event: PointerEvent<Element>) => event.buttons === 1 && seek(event)}
          sx={{ position: 'absolute', inset: 0, touchAction: 'none', cursor: 'ew-resize', color: 'text.secondary' }}
        >
          {variable && <Beyond x={x} height={height} min={variable.min} max={variable.max} />}
          {ticks.map((one) => (
            <g key={one}>
              <line x1={x(one)} x2={x(one)} y1={RULER - 5} y2={height} stroke="currentColor" opacity={0.18} />
              <text x={x(one)} y={11} fontSize={10.5} textAnchor="middle" fill="currentColor">
                {figure(one)}
              </text>
            </g>
          ))}
          <line x1={0} x2={width} y1={RULER} y2={RULER} stroke="currentColor" opacity={0.4} />
          {y.ticks(3).map((one) => (
            <g key={one}>
              <line x1={LEFT - 4} x2={width} y1={y(one)} y2={y(one)} stroke="currentColor" opacity={one === 0 ? 0.45 : 0.15} />
              <text x={LEFT - 8} y={y(one) + 3.5} fontSize={10.5} textAnchor="end" fill="currentColor">
                {figure(one)}
                {SHOWN[kind].unit === '°' ? '°' : ''}
              </text>
            </g>
          ))}
          {lines.map((one) => (
            <path
              key={`${one.binding}${one.axis}`}
              data-response={`${kit.parts[kit.bindings[one.binding]?.part]?.name} ${kind} ${'xyz'[one.axis]}`}
              d={pathOf(one.points, x, y)}
              fill="none"
              stroke={AXIS_COLOURS[one.axis]}
              strokeWidth={one.binding === binding.id ? 2 : 1}
              opacity={one.binding === binding.id ? 1 : 0.5}
            />
          ))}
          {lines.flatMap((one) =>
            one.points
              .filter(({ row }) => row)
              .map((point) => (
                <circle
                  key={`${one.binding}${one.axis}${point.value}`}
                  cx={x(point.value)}
                  cy={y(point.at)}
                  r={one.binding === binding.id ? 3 : 2}
                  fill={AXIS_COLOURS[one.axis]}
                  opacity={one.binding === binding.id ? 1 : 0.5}
                />
              )),
          )}
        </Box>
        <Box
          aria-hidden
          sx={{
            position: 'absolute',
            left: x(value) - 0.75,
            top: 14,
            bottom: 0,
            width: '1.5px',
            bgcolor: 'kit.signal',
            pointerEvents: 'none',
          }}
        />
        {stations.map((station, i) => (
          <StationBead
            // A bead that is moved stays the same one while its place among the others is.
            key={i}
            station={station}
            lever={lever}
            x={x}
            top={RULER}
            here={station.value === value}
            snap={(next) => snapped(next, lever)}
            onGo={set}
          />
        ))}
      </Box>
    </Box>
  );
}

/** What the variable never has. */
function Beyond({ x, height, min, max }: { x: ScaleLinear<number, number>; height: number; min: number; max: number }) {
  const [from, to] = x.range();
  return (
    <>
      <rect x={from} width={Math.max(0, x(min) - from)} y={RULER} height={Math.max(0, height - RULER)} fill="currentColor" opacity={0.1} />
      <rect x={x(max)} width={Math.max(0, to - x(max))} y={RULER} height={Math.max(0, height - RULER)} fill="currentColor" opacity={0.1} />
    </>
  );
}

type Lines = ReturnType<typeof responseLines>;

function heights(lines: Lines, height: number): ScaleLinear<number, number> {
  const all = lines.flatMap(({ points }) => points.map(({ at }) => at));
  const [least, most] = [Math.min(0, ...all), Math.max(0, ...all)];
  const beyond = most > least ? 0.06 * (most - least) : 1;
  return scaleLinear([least - beyond, most + beyond], [height - FOOT, RULER + FOOT + 4]);
}

const pathOf = (points: Lines[number]['points'], x: ScaleLinear<number, number>, y: ScaleLinear<number, number>): string =>
  line<Lines[number]['points'][number]>(
    ({ value }) => x(value),
    ({ at }) => y(at),
  )(points) ?? '';
