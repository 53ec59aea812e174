'use client';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo } from 'react';
import type { Id, Vec3 } from '@itchkit/core/document';
import { restWorlds, sizeOf } from '@itchkit/core/geometry';
import { clipTime, cuesBetween } from '@itchkit/core/motion';
import { useKit, useOpenKit, useUi } from '../../session/context';
import { hear } from './sounds';
import { sightAt, type BenchTool } from '../../bench/bench-tool';
import type { OverlayProps } from '../../bench/bench-stage';
import { effectMarks, ghostMarks, pathMarks, trailMarks } from './motion-marks';

/**
 * What Motion draws on the bench beside the kit: the way of the chosen parts, ghosts of other frames, a path that is being placed; and what
 * its cues say.
 */
export function MotionOverlays({ view, bounds, tokens }: OverlayProps): null {
  const { session, ui } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  const kit = useKit();
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  const selection = useUi((state) => state.selection);
  const { trail, path } = useUi((state) => state.motion);
  const follow = useUi((state) => state.motion.follow);
  useEffect(() => {
    view.setFollow(follow);
    return () => view.setFollow(false);
  }, [view, follow]);
  const time = useUi((state) => (state.playing || !state.motion.trail ? null : state.time));
  const parts = useMemo(() => selection.filter((id) => kit.parts[id]), [selection, kit]);
  const [first] = parts;

  useEffect(() => {
    const shown = trail && clip && parts.length > 0;
    view.setOverlay('trail', shown ? trailMarks(kit, clip, session.blobs, parts, tokens) : null);
  }, [view, trail, clip, parts, kit, session, tokens]);
  useEffect(() => {
    const at = clip && time !== null ? clipTime(clip.loop, clip.lengthSeconds, time) : null;
    const shown = trail && clip && at !== null && parts.length > 0;
    view.setOverlay('ghosts', shown ? ghostMarks(kit, clip, session.blobs, parts, at, tokens) : null);
  }, [view, trail, clip, parts, time, kit, session, tokens]);

  // Points of a path lie at the height of the part that is sent along it; on what is under the pointer with Shift.
  useEffect(() => view.setOverlay('path', path ? pathMarks(path, tokens) : null), [view, path, tokens]);
  useEffect(() => {
    if (path === null || first === undefined) return;
    view.setTool(
      placing(restWorlds(kit).get(first)![13], (point) =>
        ui.setState((state) => ({ motion: { ...state.motion, path: [...(state.motion.path ?? []), point] } })),
      ),
    );
    return () => view.setTool(null);
  }, [view, path, first, kit, ui]);

  // Cues: sounds and messages as they are passed while it plays, effects at any time.
  useEffect(() => {
    const size = 0.02 * Math.max(0.1, ...sizeOf(bounds));
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
      if (view.poser && motion.cues && now.cues!.some(({ kind }) => kind === 'effect'))
        view.setOverlay('effects', effectMarks(now, running, view.poser, size));
    };
    const stop = ui.subscribe(look);
    return () => {
      stop();
      view.setOverlay('effects', null);
    };
  }, [view, bounds, session, ui, enqueueSnackbar]);

  useEffect(() => () => ['trail', 'ghosts', 'path'].forEach((name) => view.setOverlay(name, null)), [view]);
  return null;
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
