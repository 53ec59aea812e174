'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { BehavioursRules, Values } from '@itchkit/core/behaviour';
import { valuesAtStart } from '@itchkit/core/behaviour';
import type { Blobs, Kit } from '@itchkit/core/document';
import type { Pose } from '@itchkit/core/geometry';
import { FieldBody, ScriptReader, ScriptRecorder, type FieldFrame, type FieldWish, type ValueScript } from '@itchkit/core/trial';

/** Seconds that a step may be at most: a page that was away does not leap. */
const LONGEST = 0.1;
/** How long what was is kept for the strips, frames, and how many of them are one. */
const KEPT = 240;
const EVERY = 3;

/** What was at a moment, for the strips over time. */
export interface Past {
  frame: FieldFrame;
  pose: Pose;
  values: Values;
}

export interface LiveBody {
  body: FieldBody;
  frame: FieldFrame;
  /** The oldest first. */
  past: readonly Past[];
  values: Values;
  turning: number;
  say: (values: Values) => void;
  turn: (turning: number) => void;
  send: (signal: string) => void;
  again: () => void;
  /** A script that is played, with what of it is over; null where it is worked by hand. */
  script: ValueScript | null;
  playScript: (script: ValueScript | null) => void;
  recording: boolean;
  record: () => void;
  /** Ends a recording. */
  recorded: () => ValueScript | null;
}

interface Shown {
  playing: boolean;
  /** How fast time goes by: 1 as it is. */
  pace: number;
  /** Hears the pose of each frame that is seen. */
  show: (pose: Pose, frame: FieldFrame) => void;
  /** Hears what is passed in, frame by frame. */
  each?: (wish: FieldWish, body: FieldBody) => void;
}

/**
 * A body that lives while it is played: by hand, or by a script.
 *
 */
export function useBody(
  { kit, blobs }: { kit: Kit; blobs: Blobs },
  rules: BehavioursRules,
  { playing, pace, show, each }: Shown,
): LiveBody {
  const [body, setBody] = useState(() => new FieldBody(kit, blobs, rules));
  const [frame, setFrame] = useState(() => body.now());
  const [past, setPast] = useState<readonly Past[]>([]);
  const [values, setValues] = useState<Values>(() => valuesAtStart(rules.parameters));
  const [turning, setTurning] = useState(0);
  const [script, setScript] = useState<ValueScript | null>(null);
  const [recording, setRecording] = useState(false);
  const sent = useRef<Record<string, true>>({});
  const reader = useRef<ScriptReader | null>(null);
  const recorder = useRef<{ notes: ScriptRecorder; from: number } | null>(null);
  const frames = useRef(0);

  const tell = useCallback(
    (now: FieldFrame) => {
      const pose = body.newPose();
      body.pose(pose);
      show(pose, now);
      setFrame(now);
      return pose;
    },
    [body, show],
  );

  // What is put down stands before anything plays.
  useEffect(() => void tell(body.now()), [body, tell]);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let handle = requestAnimationFrame(function tick(now) {
      const seconds = pace * Math.min(LONGEST, Math.max(0, now - before) / 1000);
      before = now;
      let said = values;
      const passed = body.pass((at) => {
        const wish = reader.current?.wishAt(at) ?? { values: { ...values, ...sent.current }, turning };
        sent.current = {};
        recorder.current?.notes.note(at - recorder.current.from, wish.values, wish.turning);
        said = wish.values;
        each?.(wish, body);
        return wish;
      }, seconds);
      if (passed > 0) {
        const told = body.now();
        const pose = tell(told);
        if (frames.current++ % EVERY === 0) setPast((list) => [...list, { frame: told, values: said, pose }].slice(-KEPT));
        if (script && told.seconds >= script.seconds) {
          reader.current = null;
          setScript(null);
        }
      }
      handle = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(handle);
  }, [playing, pace, body, values, turning, script, tell, each]);

  const again = () => {
    sent.current = {};
    setPast([]);
    setBody(new FieldBody(kit, blobs, rules));
  };
  return {
    body,
    frame,
    past,
    values,
    turning,
    say: (change) => setValues((all) => ({ ...all, ...change })),
    turn: setTurning,
    send: (signal) => void (sent.current[signal] = true),
    again,
    script,
    playScript: (next) => {
      reader.current = next && new ScriptReader(next.lines);
      setScript(next);
      if (next) again();
    },
    recording,
    record: () => {
      // From the beginning: a script is played from there.
      const next = new FieldBody(kit, blobs, rules);
      setPast([]);
      setBody(next);
      recorder.current = { notes: new ScriptRecorder(), from: 0 };
      setRecording(true);
    },
    recorded: () => {
      const done = recorder.current?.notes.script(body.now().seconds) ?? null;
      recorder.current = null;
      setRecording(false);
      return done;
    },
  };
}
