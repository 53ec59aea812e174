'use client';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, type RefObject } from 'react';
import type { Id, Vec3 } from '@itchkit/core/document';
import { restWorlds, sizeOf, type Bounds } from '@itchkit/core/geometry';
import { clipTime, cuesBetween } from '@itchkit/core/motion';
import type { Stage } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useUi } from '../session/context';
import { hear } from '../stages/motion/sounds';
import type { Tokens } from '../theme/tokens';
import { sightAt, type BenchTool } from './bench-tool';
import type { BenchView } from './bench-view';
import { effectMarks, ghostMarks, pathMarks, trailMarks } from './motion-marks';

/** What Motion draws on the bench beside the kit: the way of the chosen parts, ghosts of other frames, a path that is being placed; and what its cues say. */
export function useMotionBench(view: RefObject<BenchView | null>, stage: Stage, bounds: Bounds, tokens: Tokens): void {
  const { session, ui } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  const kit = useKit();
  const inMotion = stage === 'motion';
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  const selection = useUi((state) => state.selection);
  const { trail, path } = useUi((state) => state.motion);
  const time = useUi((state) => (state.playing || !state.motion.trail ? null : state.time));
  const parts = useMemo(() => selection.filter((id) => kit.parts[id]), [selection, kit]);
  const [first] = parts;

  useEffect(() => {
    const shown = inMotion && trail && clip && parts.length > 0;
    view.current?.setOverlay('trail', shown ? trailMarks(kit, clip, session.blobs, parts, tokens) : null);
  }, [view, inMotion, trail, clip, parts, kit, session, tokens]);
  useEffect(() => {
    const at = clip && time !== null ? clipTime(clip.loop, clip.lengthSeconds, time) : null;
    const shown = inMotion && trail && clip && at !== null && parts.length > 0;
    view.current?.setOverlay('ghosts', shown ? ghostMarks(kit, clip, session.blobs, parts, at, tokens) : null);
  }, [view, inMotion, trail, clip, parts, time, kit, session, tokens]);

  // Points of a path lie at the height of the part that is sent along it; on what is under the pointer with Shift.
  useEffect(() => view.current?.setOverlay('path', inMotion && path ? pathMarks(path, tokens) : null), [view, inMotion, path, tokens]);
  useEffect(() => {
    const made = view.current;
    if (!made || !inMotion || path === null || first === undefined) return;
    made.setTool(
      placing(restWorlds(kit).get(first)![13], (point) =>
        ui.setState((state) => ({ motion: { ...state.motion, path: [...(state.motion.path ?? []), point] } })),
      ),
    );
    return () => made.setTool(null);
  }, [view, inMotion, path, first, kit, ui]);

  // Cues: sounds and messages as they are passed while it plays, effects at any time.
  useEffect(() => {
    if (!inMotion) return;
    const size = 0.02 * Math.max(0.1, ...sizeOf(bounds));
    const bench = view.current;
    let before: { clip: Id; time: number } | null = null;
    const look = () => {
      const { clip: id, time: running, playing, motion } = ui.getState();
      const now = id === null ? undefined : session.shown.clips[id];
      if (!now || !(now.cues?.length ?? 0)) {
        before = null;
        return;
      }
      const at = clipTime(now.loop, now.lengthSeconds, running);
      if (playing && motion.cues && at !== null) {
        if (before?.clip === id)
          for (const cue of cuesBetween(now, before.time, at)) {
            if (cue.kind === 'sound') hear(cue.name);
            else if (cue.kind === 'message') enqueueSnackbar(`${cue.name}`, { variant: 'info', autoHideDuration: 1500 });
          }
        before = { clip: now.id, time: at };
      } else before = null;
      const made = view.current;
      if (made?.poser && motion.cues && now.cues!.some(({ kind }) => kind === 'effect'))
        made.setOverlay('effects', effectMarks(now, running, made.poser, size));
    };
    const stop = ui.subscribe(look);
    return () => {
      stop();
      bench?.setOverlay('effects', null);
    };
  }, [view, inMotion, bounds, session, ui, enqueueSnackbar]);
}

/** Clicks put points into a level plane, or with Shift onto what is under the pointer. */
function placing(height: number, put: (point: Vec3) => void): BenchTool {
  return {
    down: (at) => {
      const { from, direction } = sightAt(at);
      if (at.shift && at.hit) {
        put(at.hit.point);
        return true;
      }
      const way = (height - from[1]) / direction[1];
      // Where the line of sight does not meet the plane in front of the eye the view turns.
      if (!Number.isFinite(way) || way <= 0) return false;
      put(from.map((value, axis) => Number((value + way * direction[axis]).toFixed(4)) + 0) as Vec3);
      return true;
    },
    move: () => undefined,
    up: () => undefined,
  };
}
