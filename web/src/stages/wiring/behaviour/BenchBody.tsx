'use client';
import { useCallback, useEffect, useMemo } from 'react';
import { valuesAtStart, type BehavioursRules } from '@itchkit/core/behaviour';
import { newId, type Blobs, type Kit } from '@itchkit/core/document';
import type { Pose } from '@itchkit/core/geometry';
import type { FieldFrame } from '@itchkit/core/trial';
import { setSlice, useKit, useOpenKit, useUi } from '../../../session/context';
import { proposedOnce } from '../../../session/proposed';
import { useBody } from '../../../trials/emberfold/use-body';

/** The kit with what is tried, as the bench shows it. */
function useTried(): { kit: Kit; blobs: Blobs } {
  const kit = useKit();
  const { session } = useOpenKit();
  return proposedOnce(
    kit,
    useUi((state) => state.proposal),
    session.blobs,
  );
}

/** While it is there, the bench plays what is passed in, and what is tried. */
export function BenchBody({ rules }: { rules: BehavioursRules }) {
  const { parts, clips, mixes, behaviour, derived } = useTried().kit;
  // Whatever changes of what is played, it begins anew.
  // eslint-disable-next-line react-hooks/exhaustive-deps -- these are what it is made of
  const key = useMemo(() => newId(), [parts, clips, mixes, behaviour, derived]);
  return <Played key={key} rules={rules} />;
}

function Played({ rules }: { rules: BehavioursRules }) {
  const { kit, blobs } = useTried();
  const { ui } = useOpenKit();
  const values = useUi((state) => state.behaviour.values);
  const show = useCallback(
    (pose: Pose, { layers }: FieldFrame) =>
      setSlice(ui, 'behaviour', { body: { pose }, in: Object.fromEntries(layers.map(({ layer, state }) => [layer, state])) }),
    [ui],
  );
  const played = useMemo(() => ({ kit, blobs }), [kit, blobs]);
  const { say, send } = useBody(played, rules, { playing: true, pace: 1, show });
  useEffect(() => {
    const signals = rules.parameters.filter(({ kind }) => kind === 'signal').map(({ name }) => name);
    const sent = signals.filter((name) => values[name] === true);
    say({ ...valuesAtStart(rules.parameters), ...values, ...Object.fromEntries(signals.map((name) => [name, false])) });
    if (sent.length === 0) return;
    for (const name of sent) send(name);
    // It is there for one frame.
    setSlice(ui, 'behaviour', { values: { ...values, ...Object.fromEntries(sent.map((name) => [name, false])) } });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is passed in is told when it changes
  }, [values]);
  useEffect(() => () => setSlice(ui, 'behaviour', { body: null }), [ui]);
  return null;
}
