import type { StoreApi } from 'zustand';
import { callOf, type Axis, type Clip, type KeyProperty } from '@itchkit/core/document';
import { clipTime, keyValueAt, setKeys, type KeyValue } from '@itchkit/core/motion';
import type { Run } from '../session/context';
import type { Session } from '../session/session';
import { runClock, togglePlay } from '../session/run-clock';
import type { UiState } from '../session/ui-store';
import { snapTime } from './snap-time';

/** The clip in view and the time within it, on a frame or whatever else times are put onto. */
export function whereInClip(session: Session, ui: StoreApi<UiState>): { clip: Clip; time: number } | null {
  const { clip: id, time, strip } = ui.getState();
  const clip = id === null ? undefined : session.shown.clips[id];
  if (!clip) return null;
  return { clip, time: snapTime(clipTime(clip.loop, clip.lengthSeconds, time) ?? clip.lengthSeconds, clip, strip.snap) };
}

/** Plays the open clip as the strip says, or stops. */
export function playOpenClip(session: Session, ui: StoreApi<UiState>): void {
  togglePlay(ui, session.shown.clips, { speed: () => ui.getState().strip.speed, range: () => ui.getState().strip.range });
}

/** Plays a clip on the bench for as long as the pointer rests on it in a list. */
export function startPreview(ui: StoreApi<UiState>, clip: string): void {
  ui.setState({ preview: clip, time: 0, playing: true });
  runClock(ui, { stopAfter: null });
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
  const { selection, gizmo, held, strip } = ui.getState();
  if (!at || selection.length === 0) return;
  const values = selection.flatMap((part): KeyValue[] => {
    if (held?.part === part) {
      // What was moved by hand and not written yet.
      return (['offset', 'turn', 'size'] as const).flatMap((property) =>
        ([0, 1, 2] as Axis[])
          .map((axis) => ({ part, property, axis, value: held.delta[property][axis] }))
          .filter(
            (one) =>
              !strip.locked.includes(one.axis) &&
              Math.abs(one.value - keyValueAt(session.kit, at.clip.id, part, property, one.axis, at.time)) > 1e-6,
          ),
      );
    }
    const tracked = at.clip.tracks.filter((track) => track.kind === 'keys' && track.part === part) as {
      property: KeyProperty;
      axis: Axis;
    }[];
    const property: KeyProperty = ({ move: 'offset', size: 'size', turn: 'turn' } as const)[gizmo ?? 'turn'];
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
