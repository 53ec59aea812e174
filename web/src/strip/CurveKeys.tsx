'use client';
import Box from '@mui/material/Box';
import { useMemo, useState, type PointerEvent } from 'react';
import { callOf, type Clip, type Key, type KeyTrack } from '@itchkit/core/document';
import { keySlopes, setKeys, setSlopes } from '@itchkit/core/motion';
import { useKit, useOpenKit, useRun, useUi } from '../session/context';
import { isSameKey } from './chosen-keys';
import { snapTime } from './snap-time';
import { useTimeScale } from './time-scale';
import { trackColour } from './track-words';

/** Pixels that a tangent's handle is long. */
const HANDLE = 42;

interface CurveKeysProps {
  clip: Clip;
  track: KeyTrack;
  y: (value: number) => number;
  value: (y: number) => number;
}

/**
 * Keys on their curve: dragged up and down they change their value; those of a curve have tangents that are dragged, both at once or with
 * Alt one alone.
 */
export function CurveKeys({ clip, track, y, value }: CurveKeysProps) {
  const run = useRun();
  const { ui } = useOpenKit();
  const kit = useKit();
  const scale = useTimeScale();
  const refs = useUi((state) => state.keys);
  const [held, setHeld] = useState<{ time: number; by: number } | null>(null);
  const { slopesIn, slopesOut } = useMemo(() => keySlopes(track.keys), [track.keys]);
  const colour = trackColour(track);
  const part = kit.parts[track.part].name;
  const visible = track.keys.map((key, i) => ({ key, i })).filter(({ key }) => key.time >= scale.from && key.time <= scale.to);
  if (visible.length > 200) return null;
  const set = (key: Key, next: number) => {
    const { part: id, property, axis } = track;
    run(callOf(setKeys, { clip: clip.id, time: key.time, easing: key.easing, values: [{ part: id, property, axis, value: next }] }));
  };
  return (
    <>
      {visible.map(({ key, i }) => {
        const chosen = refs.some((ref) => isSameKey(ref, track.id, key.time));
        const by = held?.time === key.time ? held.by : 0;
        const [x, at] = [scale.x(key.time), y(key.value) + by];
        const next = (event: PointerEvent) =>
          Number(value(y(key.value) + (event.clientY - Number((event.currentTarget as HTMLElement).dataset.from))).toFixed(4));
        return (
          <Box key={key.time}>
            {chosen &&
              (['in', 'out'] as const).map((side) => {
                const curved =
                  side === 'out' ? key.easing === 'curve' && i + 1 < track.keys.length : i > 0 && track.keys[i - 1].easing === 'curve';
                return (
                  curved && (
                    <Tangent
                      key={side}
                      side={side}
                      x={x}
                      y={at}
                      slope={side === 'in' ? slopesIn[i] : slopesOut[i]}
                      clip={clip}
                      track={track}
                      keyframe={key}
                      perPixel={value(0) - value(1)}
                    />
                  )
                );
              })}
            <Box
              component="button"
              data-curve-key={`${part}, ${track.property} ${'xyz'[track.axis] ?? track.axis}, ${key.time.toFixed(2)} s`}
              aria-label={`${part}, ${track.property} ${'xyz'[track.axis] ?? track.axis}, ${key.time.toFixed(2)} s: ${Number(key.value.toFixed(4))}`}
              aria-pressed={chosen}
              onPointerDown={(event: PointerEvent<HTMLElement>) => {
                event.currentTarget.dataset.from = String(event.clientY);
                event.currentTarget.setPointerCapture(event.pointerId);
                ui.setState((state) => ({
                  keys: event.shiftKey ? [...state.keys, { track: track.id, time: key.time }] : [{ track: track.id, time: key.time }],
                  time: snapTime(key.time, clip, ui.getState().strip.snap),
                  playing: false,
                }));
                setHeld({ time: key.time, by: 0 });
              }}
              onPointerMove={(event: PointerEvent<HTMLElement>) =>
                held && setHeld({ time: key.time, by: event.clientY - Number(event.currentTarget.dataset.from) })
              }
              onPointerUp={(event: PointerEvent<HTMLElement>) => {
                if (held && Math.abs(held.by) > 2) set(key, next(event));
                setHeld(null);
              }}
              onPointerCancel={() => setHeld(null)}
              sx={{
                position: 'absolute',
                left: x - 5,
                top: at - 5,
                width: 10,
                height: 10,
                p: 0,
                borderRadius: '50%',
                border: 2,
                borderColor: chosen ? 'kit.signal' : (colour ?? 'kit.sea'),
                bgcolor: chosen ? 'kit.signal' : 'kit.card',
                cursor: 'ns-resize',
                touchAction: 'none',
                zIndex: 1,
              }}
            />
          </Box>
        );
      })}
    </>
  );
}

interface TangentProps {
  side: 'in' | 'out';
  x: number;
  y: number;
  slope: number;
  clip: Clip;
  track: KeyTrack;
  keyframe: Key;
  /** Value of a pixel upwards. */
  perPixel: number;
}

/** A handle of a key's tangent. */
function Tangent({ side, x, y, slope, clip, track, keyframe, perPixel }: TangentProps) {
  const run = useRun();
  const scale = useTimeScale();
  const [held, setHeld] = useState<number | null>(null);
  /** Pixels up a pixel to the right. */
  const steep = (held ?? slope) / perPixel / scale.pixelsPerSecond;
  const sign = side === 'out' ? 1 : -1;
  const length = Math.hypot(1, steep);
  const [dx, dy] = [(sign * HANDLE) / length, (-sign * HANDLE * steep) / length];
  const slopeAt = (event: PointerEvent<HTMLElement>) => {
    const frame = event.currentTarget.parentElement!.parentElement!.parentElement!.getBoundingClientRect();
    const [px, py] = [event.clientX - frame.left - x, event.clientY - frame.top - y];
    const run_ = sign * Math.max(4, sign * px);
    return Number(((-py / run_) * scale.pixelsPerSecond * perPixel).toPrecision(6));
  };
  return (
    <>
      <Box
        component="svg"
        aria-hidden
        sx={{
          position: 'absolute',
          left: x - HANDLE,
          top: y - HANDLE,
          width: 2 * HANDLE,
          height: 2 * HANDLE,
          pointerEvents: 'none',
          overflow: 'visible',
          color: 'kit.signal',
        }}
      >
        <line x1={HANDLE} y1={HANDLE} x2={HANDLE + dx} y2={HANDLE + dy} stroke="currentColor" strokeWidth={1} />
      </Box>
      <Box
        component="button"
        aria-label={`Tangent ${side === 'in' ? 'into' : 'out of'} the key at ${keyframe.time.toFixed(2)} s: ${Number(slope.toFixed(3))} a second`}
        title="Drag for the tangent; with Alt this side alone; a double click lets it be chosen again"
        onPointerDown={(event: PointerEvent<HTMLElement>) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(slope);
        }}
        onPointerMove={(event: PointerEvent<HTMLElement>) => held !== null && setHeld(slopeAt(event))}
        onPointerUp={(event: PointerEvent<HTMLElement>) => {
          if (held === null) return;
          setHeld(null);
          if (held === slope) return;
          run(
            callOf(setSlopes, {
              clip: clip.id,
              keys: [{ track: track.id, time: keyframe.time }],
              ...(event.altKey ? { [side]: held } : { in: held, out: held }),
            }),
          );
        }}
        onDoubleClick={() =>
          run(callOf(setSlopes, { clip: clip.id, keys: [{ track: track.id, time: keyframe.time }], in: null, out: null }))
        }
        sx={{
          position: 'absolute',
          left: x + dx - 4,
          top: y + dy - 4,
          width: 8,
          height: 8,
          p: 0,
          border: 1.5,
          borderColor: 'kit.signal',
          bgcolor: 'kit.card',
          cursor: 'grab',
          touchAction: 'none',
          zIndex: 2,
        }}
      />
    </>
  );
}
