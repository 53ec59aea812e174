'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Pause from '@mui/icons-material/Pause';
import PlayArrow from '@mui/icons-material/PlayArrow';
import { scaleLinear } from 'd3-scale';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type MouseEvent, type PointerEvent } from 'react';
import type { Rulebook } from '@itchkit/core/rulebook';
import { callOf, newId, freeName, type OwnDuty } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import { DUTY_FORMAT, dutyAt, orderOf, setByHand, withOrdersFollowed, type Duty, type Order } from '@itchkit/core/trial';
import { removeDuties, setDuty } from '@itchkit/core/wiring';
import { Choice } from '../../card/Choice';
import { niceStep } from '../../nice-step';
import { setSlice, useKit, useOpenKit, useRun } from '../../session/context';
import { DutyEditor, type ChosenPoint } from './DutyEditor';
import { addPoint, dropPoint, movePoint } from './duty-edits';
import { DutyLane, LANE, laneScale } from './DutyLane';
import type { Worked } from './duty-record';

const LABELS = 150;
const RULER = 22;
const FRAME = 1 / 30;

interface DutyPaneProps {
  /** Those that ship. */
  duties: readonly Duty[];
  /** Levers of the package. */
  keys: ReadonlySet<string>;
  /** Levers and orders: what a line can be of. */
  worked: readonly Worked[];
  /** All that moves levers. */
  orders: readonly Order[];
  variables: Rulebook['variables'];
  name: string;
  onName(name: string): void;
}

/**
 * A run of several variables over time: its lines over a ruler, played in a loop. What nothing follows is drawn pale, what an order brings
 * about dashed. One’s own are changed here: points moved, added by a double click and taken away.
 */
export function DutyPane({ duties, keys, worked, orders, variables, name, onName }: DutyPaneProps) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const own = kit.duties?.find((one) => one.name === name) ?? null;
  const shipped = duties.find((one) => one.name === name) ?? duties[0];
  const asked: Duty = useMemo(() => (own ? { format: DUTY_FORMAT, ...own } : shipped), [own, shipped]);
  const duty = useMemo(() => withOrdersFollowed(asked, variables), [asked, variables]);
  const [chosen, setChosen] = useState<ChosenPoint | null>(null);
  const [time, setTime] = useState(0);
  const [playing, setPlaying] = useState(false);
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(600);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const go = (to: number) => {
    setTime(to);
    const values = dutyAt(duty, to);
    for (const key of Object.keys(values)) if (!keys.has(key)) delete values[key];
    setSlice(ui, 'trial', { levers: setByHand(ui.getState().trial.levers, values, orders) });
  };
  const latest = useRef({ go, time, duty });
  useEffect(() => {
    latest.current = { go, time, duty };
  });
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let frame = 0;
    const tick = (now: number) => {
      const passed = (now - before) / 1000;
      if (passed >= FRAME) {
        before = now;
        latest.current.go((latest.current.time + passed) % latest.current.duty.seconds);
      }
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing]);
  const x = scaleLinear([0, duty.seconds], [LABELS, Math.max(LABELS + 60, width - 12)]);
  const seek = (event: PointerEvent<Element>) => {
    const at = x.invert(event.clientX - area.current!.getBoundingClientRect().left);
    setPlaying(false);
    go(Math.min(duty.seconds, Math.max(0, at)));
  };
  /** Duties are called by their names: no two of one’s own and of those that ship share one. */
  const takenNames = (but: OwnDuty | null) =>
    new Set([...duties, ...(kit.duties ?? []).filter((one) => one !== but)].map((one) => one.name));
  const change = (next: OwnDuty | null) => {
    if (!own || next === own) return;
    if (next === null) return void run(callOf(removeDuties, { duties: [own.id] }));
    const named = next.name === own.name ? next : { ...next, name: freeName(next.name, takenNames(own), ' ') };
    if (run(callOf(setDuty, { duty: named }))) onName(named.name);
  };
  /** A double click in a lane of one’s own puts a point there. */
  const add = (event: MouseEvent<Element>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const y = event.clientY - box.top;
    const line = Math.floor((y - RULER) / LANE);
    const of = own?.lines[line];
    if (!own || !of) return;
    const variable = variables.find((one) => one.name === of.variable);
    const value = laneScale(of, variable, RULER + LANE * line).invert(y);
    const [next, point] = addPoint(own, line, x.invert(event.clientX - box.left), value, variable);
    change(next);
    setChosen({ line, point });
  };
  const copy = () => {
    const { format: _, ...fields } = asked;
    const made = { ...structuredClone(fields), id: newId(), name: freeName(`${asked.name}, mine`, takenNames(null), ' ') };
    if (run(callOf(setDuty, { duty: made }))) onName(made.name);
  };
  const tick = niceStep(duty.seconds, Math.max(2, (width - LABELS) / 60));
  const height = RULER + LANE * duty.lines.length;
  return (
    <Box sx={{ p: 2.5, pt: 1 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1, mt: 1 }}>
        <Box sx={{ width: 170, flex: 'none' }}>
          <Choice
            label="Duty"
            value={asked.name}
            options={[...duties, ...(kit.duties ?? [])].map((one) => [one.name, one.name] as const)}
            onChange={onName}
          />
        </Box>
        <Button
          variant="outlined"
          startIcon={playing ? <Pause /> : <PlayArrow />}
          onClick={() => setPlaying(!playing)}
          sx={{ flex: 'none', whiteSpace: 'nowrap', py: 0.5 }}
        >
          {playing ? 'Stop the duty' : 'Play the duty'}
        </Button>
        <Box component="output" aria-label="Time in the duty" className="figures" sx={{ flex: 'none', width: 48 }}>
          {time.toFixed(1)} s
        </Box>
        <Button color="inherit" onClick={copy} sx={{ flex: 'none', whiteSpace: 'nowrap' }}>
          {own ? 'Copy it' : 'Copy it to change'}
        </Button>
        <Box
          title={duty.about}
          sx={{ fontSize: 12.5, lineHeight: 1.3, color: 'text.secondary', minWidth: 0, maxHeight: 33, overflow: 'hidden' }}
        >
          {duty.about}
        </Box>
      </Box>
      {own && <DutyEditor key={own.id} duty={own} chosen={chosen} worked={worked} variables={variables} onChange={change} />}
      <Box ref={area} sx={{ position: 'relative' }}>
        <Box
          component="svg"
          role={own ? 'group' : 'img'}
          aria-label={`${duty.name}: ${duty.lines.map(({ variable }) => variable).join(', ')} over ${duty.seconds} s`}
          {...{ width, height }}
          onPointerDown={(event: PointerEvent<Element>) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            seek(event);
          }}
          onPointerMove={(event: PointerEvent<Element>) => event.buttons === 1 && seek(event)}
          onDoubleClick={add}
          sx={{ display: 'block', color: 'text.secondary', cursor: 'ew-resize', touchAction: 'none', userSelect: 'none' }}
        >
          {Array.from({ length: Math.floor(duty.seconds / tick) + 1 }, (_, i) => i * tick).map((one) => (
            <g key={one}>
              <line x1={x(one)} x2={x(one)} y1={RULER - 6} y2={height} stroke="currentColor" opacity={0.18} />
              <text x={x(one)} y={11} fontSize={10.5} textAnchor="middle" fill="currentColor">
                {one} s
              </text>
            </g>
          ))}
          {duty.lines.map((one, i) => {
            const key = leverKey(one.variable, one.index);
            const order = orderOf(variables, one.variable, one.index);
            const mine = own?.lines[i] === one ? own : null;
            const variable = variables.find((other) => other.name === one.variable);
            return (
              <DutyLane
                key={key}
                of={one}
                seconds={duty.seconds}
                top={RULER + LANE * i}
                x={x}
                variable={variable}
                remark={remarkOf(keys, key, order, i >= asked.lines.length)}
                worked={i >= asked.lines.length}
                edits={
                  mine && {
                    chosen: chosen?.line === i ? chosen.point : null,
                    onChoose: (point) => setChosen({ line: i, point }),
                    onMove: (point, at, value) => change(movePoint(mine, i, point, at, value, variable)),
                    onDrop: (point) => change(dropPoint(mine, i, point)),
                  }
                }
              />
            );
          })}
          <Box
            component="line"
            x1={x(time)}
            x2={x(time)}
            y1={RULER - 8}
            y2={height}
            sx={{ stroke: (t) => t.vars!.palette.kit.signal }}
            strokeWidth={1.5}
          />
        </Box>
      </Box>
    </Box>
  );
}

/** What a lane says of itself. */
function remarkOf(keys: ReadonlySet<string>, key: string, order: ReturnType<typeof orderOf>, worked: boolean): string {
  if (worked) return keys.has(key) ? 'as ordered' : 'as ordered; nothing follows it';
  if (keys.has(key) || (order && keys.has(order.position.key))) return '';
  return 'nothing follows it';
}
