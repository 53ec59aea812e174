import type { StoreApi } from 'zustand';
import { callOf, type Axis, type Call, type Clip, type KeyProperty } from '@itchkit/core/document';
import { clipTime, keyValueAt, setKeys, type KeyValue } from '@itchkit/core/motion';
import type { Stage } from '@itchkit/core/rulebook';
import type { Session } from '../session/session';
import type { UiState } from '../session/ui-store';
import type { TrialStore } from '../trial/trial-store';
import { snapTime } from './snap-time';

type Run = (calls: Call | Call[], title?: string) => boolean;

/** The clip in view and the time within it, on a frame or whatever else times are put onto. */
export function whereInClip(session: Session, ui: StoreApi<UiState>): { clip: Clip; time: number } | null {
  const { clip: id, time, motion } = ui.getState();
  const clip = id === null ? undefined : session.shown.clips[id];
  if (!clip) return null;
  return { clip, time: snapTime(clipTime(clip.loop, clip.lengthSeconds, time) ?? clip.lengthSeconds, clip, motion.snap) };
}

interface Playing {
  clip: string | null;
  time: number;
  playing: boolean;
}

/** Runs a store's time along with the clock, a step a drawn frame, until `playing` is let go. @param speed @param range Asked at every frame. */
function runClock(
  store: { getState: () => Playing; setState: (change: Partial<Playing>) => void },
  stopAfter: number | null,
  speed: () => number = () => 1,
  range: () => readonly [number, number] | null = () => null,
): void {
  let before = performance.now();
  const tick = (now: number) => {
    const state = store.getState();
    if (!state.playing) return;
    let time = state.time + ((now - before) / 1000) * speed();
    before = now;
    const within = range();
    if (within && (time >= within[1] || time < within[0])) time = within[0] + ((time - within[0]) % (within[1] - within[0]));
    if (within) {
      store.setState({ time: Math.max(within[0], time) });
      requestAnimationFrame(tick);
    } else if (stopAfter !== null && time >= stopAfter) store.setState({ time: stopAfter, playing: false });
    else {
      store.setState({ time });
      requestAnimationFrame(tick);
    }
  };
  requestAnimationFrame(tick);
}

/** When playing ends by itself: clips that loop go on. */
function endOf(clip: Clip): number | null {
  return clip.loop === 'once' || clip.loop === 'hold' ? clip.lengthSeconds : null;
}

export function togglePlay(stage: Stage, session: Session, ui: StoreApi<UiState>, trial: TrialStore): void {
  const inTrial = stage === 'trial';
  const store = (inTrial ? trial : ui) as unknown as { getState: () => Playing; setState: (change: Partial<Playing>) => void };
  const state = store.getState();
  if (state.playing) return store.setState({ playing: false });
  const kit = inTrial ? trial.getState().loaded?.kit : session.shown;
  const clip = state.clip === null ? undefined : kit?.clips[state.clip];
  if (!clip) return;
  const end = endOf(clip);
  store.setState({ playing: true, time: end !== null && state.time >= end ? 0 : state.time });
  if (inTrial) runClock(store, end);
  else
    runClock(
      store,
      end,
      () => ui.getState().motion.speed,
      () => ui.getState().motion.range,
    );
}

/** Plays a clip on the bench for as long as the pointer rests on it in a list. */
export function startPreview(ui: StoreApi<UiState>, clip: string): void {
  ui.setState({ preview: clip, time: 0, playing: true });
  runClock(ui, null);
}

export function endPreview(ui: StoreApi<UiState>): void {
  if (ui.getState().preview !== null) ui.setState({ preview: null, time: 0, playing: false });
}

export function stepFrame(session: Session, ui: StoreApi<UiState>, by: number): void {
  const at = whereInClip(session, ui);
  if (!at) return;
  const time = Math.max(0, Math.min(at.clip.lengthSeconds, at.time + by / at.clip.rate));
  ui.setState({ playing: false, time: snapTime(time, at.clip, 'frame') });
}

export function stepKey(session: Session, ui: StoreApi<UiState>, by: -1 | 1): void {
  const at = whereInClip(session, ui);
  if (!at) return;
  const times = at.clip.tracks.flatMap((track) => (track.kind === 'keys' ? track.keys.map((key) => key.time) : []));
  const beyond = times.filter((time) => (by > 0 ? time > at.time + 1e-6 : time < at.time - 1e-6));
  if (beyond.length > 0) ui.setState({ playing: false, time: by > 0 ? Math.min(...beyond) : Math.max(...beyond) });
}

/**
 * Keys the selected parts where they stand: the axes that have tracks already, and for a part with none all of what the
 * gizmo in use moves (turns where none is).
 */
export function keyHere(session: Session, ui: StoreApi<UiState>, run: Run): void {
  const at = whereInClip(session, ui);
  const { selection, gizmo, held, motion } = ui.getState();
  if (!at || selection.length === 0) return;
  const values = selection.flatMap((part): KeyValue[] => {
    if (held?.part === part) {
      // What was moved by hand and not written yet.
      return (['offset', 'turn', 'size'] as const).flatMap((property) =>
        ([0, 1, 2] as Axis[])
          .map((axis) => ({ part, property, axis, value: held.delta[property][axis] }))
          .filter(
            (one) =>
              !motion.locked.includes(one.axis) &&
              Math.abs(one.value - keyValueAt(session.kit, at.clip.id, part, property, one.axis, at.time)) > 1e-6,
          ),
      );
    }
    const tracked = at.clip.tracks.filter((track) => track.kind === 'keys' && track.part === part) as {
      property: KeyProperty;
      axis: Axis;
    }[];
    const property: KeyProperty = gizmo === 'move' ? 'offset' : gizmo === 'size' ? 'size' : 'turn';
    const wanted = tracked.length > 0 ? tracked : ([0, 1, 2] as Axis[]).map((axis) => ({ property, axis }));
    return wanted.map((one) => ({
      part,
      property: one.property,
      axis: one.axis,
      value: keyValueAt(session.kit, at.clip.id, part, one.property, one.axis, at.time),
    }));
  });
  if (values.length === 0) return;
  if (run(callOf(setKeys, { clip: at.clip.id, time: at.time, values })) && held) ui.setState({ held: null });
}

/** Keys every axis of every part that moves in the clip, as it stands now. */
export function keyEverything(session: Session, ui: StoreApi<UiState>, run: Run): void {
  const at = whereInClip(session, ui);
  if (!at) return;
  const values = at.clip.tracks.flatMap((track): KeyValue[] =>
    track.kind === 'keys'
      ? [
          {
            part: track.part,
            property: track.property,
            axis: track.axis,
            value: keyValueAt(session.kit, at.clip.id, track.part, track.property, track.axis, at.time),
          },
        ]
      : [],
  );
  if (values.length > 0) run(callOf(setKeys, { clip: at.clip.id, time: at.time, values }));
}
