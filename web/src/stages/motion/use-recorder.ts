import { useEffect, useRef, useState } from 'react';
import type { StoreApi } from 'zustand';
import type { Clip, Part } from '@itchkit/core/document';
import { useOpenKit, setSlice, useUi } from '../../session/context';
import type { UiState } from '../../session/ui-store';
import { whereInClip } from '../../strip/playing';

export interface Recorded {
  property: 'offset' | 'turn';
  /** Seconds in the clip. */
  times: number[];
  /** Three a time, from rest. */
  values: number[];
}

/**
 * Takes down where a part is held, from the moment it is first dragged until it is let go: time runs with the clock, at the speed of
 * playback.
 */
export function useRecorder(
  clip: Clip,
  part: Part,
): { recorded: Recorded | null; begin: () => void; drop: () => void; running: 'off' | 'ready' | 'running' } {
  const { session, ui } = useOpenKit();
  const running = useUi((state) => state.motion.recording);
  const [recorded, setRecorded] = useState<Recorded | null>(null);
  const own = useRef<{ property: 'offset' | 'turn'; start: number; began: number; times: number[]; values: number[] } | null>(null);
  const { id } = part;
  const active = running !== 'off';
  useEffect(() => () => endRecording(ui), [ui, clip.id, id]);
  useEffect(() => {
    if (!active) return;
    let frame = 0;
    const take = () => {
      const { held, strip } = ui.getState();
      const now = own.current;
      if (!now || held?.part !== id) return;
      const time = now.start + ((performance.now() - now.began) / 1000) * strip.speed;
      if (now.times.length > 0 && time <= now.times[now.times.length - 1]) return;
      now.times.push(time);
      now.values.push(...held.delta[now.property]);
      ui.setState({ time });
    };
    const tick = () => {
      take();
      frame = requestAnimationFrame(tick);
    };
    const stop = ui.subscribe((state, before) => {
      if (state.held === before.held || state.held?.part !== id || own.current) return;
      // The first move starts the clock.
      own.current = {
        property: state.gizmo === 'turn' ? 'turn' : 'offset',
        start: whereInClip(session, ui)?.time ?? 0,
        began: performance.now(),
        times: [],
        values: [],
      };
      setSlice(ui, 'motion', { recording: 'running' });
      frame = requestAnimationFrame(tick);
    });
    const end = () => {
      const done = own.current;
      if (!done) return;
      own.current = null;
      cancelAnimationFrame(frame);
      ui.setState({ held: null, time: done.start });
      endRecording(ui);
      if (done.times.length > 1) setRecorded({ property: done.property, times: done.times, values: done.values });
    };
    window.addEventListener('pointerup', end);
    return () => {
      stop();
      cancelAnimationFrame(frame);
      window.removeEventListener('pointerup', end);
    };
  }, [active, ui, session, id]);
  return {
    recorded,
    running,
    begin: () => {
      own.current = null;
      setRecorded(null);
      ui.setState({ held: null });
      setSlice(ui, 'motion', { recording: 'ready' });
      setSlice(ui, 'strip', { capture: false });
    },
    drop: () => {
      own.current = null;
      setRecorded(null);
      ui.setState({ held: null });
      endRecording(ui);
    },
  };
}

/** From then on what is moved writes keys again. */
function endRecording(ui: StoreApi<UiState>): void {
  setSlice(ui, 'motion', { recording: 'off' });
  setSlice(ui, 'strip', { capture: true });
}
