'use client';
import { useEffect, useRef, useState } from 'react';
import { callOf, clipsInOrder, freeName, newId, type Call, type Id, type Kit, type Mix, type Peg } from '@itchkit/core/document';
import { setPeg } from '@itchkit/core/behaviour';
import { AS_IT_IS, fitsOn, fittedMotion, LIBRARY, rolesOf } from '@itchkit/core/motion';
import { Choice } from '../../../card/Choice';
import { useTrying } from '../../../card/TryButton';
import { useKit, useOpenKit, useRulebook, useRun, useUi } from '../../../session/context';
import { endPreview, startPreview } from '../../../strip/playing';
import { ClipFromElsewhere } from './ClipFromElsewhere';

const TRIED = 'tried-clip';
const SHIPPED = 'library ';
const ELSEWHERE = 'elsewhere';
const IN_PLACE = { ...AS_IT_IS, inPlace: true };

const namesOf = (kit: Kit) => new Set(Object.values(kit.clips).map(({ name }) => name));

/**
 * Which clip a mix has at a place: one of the kit, one that ships, fitted, or one of another kit or a file. What the pointer or the
 * keyboard rests on is played on the bench while the list is open.
 */
export function ClipChoice({ mix, peg }: { mix: Mix; peg: Peg }) {
  const kit = useKit();
  const run = useRun();
  const { ui } = useOpenKit();
  const by = useTrying();
  const rate = useRulebook()?.motion?.rate ?? 30;
  const [elsewhere, setElsewhere] = useState(false);
  const roles = rolesOf(kit);
  const shipped = LIBRARY.filter((motion) => fitsOn(motion, roles));
  const mixIn = (clip: Id | null): Call => callOf(setPeg, { mix: mix.id, peg: peg.id, clip });
  /** What takes a choice; a motion that ships becomes a clip first. */
  const callsOf = (value: string, id: Id, name: (wanted: string) => string): Call[] | null => {
    if (value === ELSEWHERE) return null;
    if (!value.startsWith(SHIPPED)) return [mixIn(value === '' ? null : value)];
    const motion = shipped.find((one) => one.id === value.slice(SHIPPED.length))!;
    return [...fittedMotion(kit, { motion, clip: id, name: name(motion.id), choices: IN_PLACE, rate }), mixIn(id)];
  };
  // What the list tries is played alone, where the bench does not play all of it already.
  const playing = useUi((state) => state.behaviour.playing);
  const proposal = useUi((state) => state.proposal);
  const tried = useRef<{ calls: Call[]; clip: Id } | null>(null);
  useEffect(() => {
    if (playing || !proposal || tried.current?.calls !== proposal) return;
    startPreview(ui, tried.current.clip);
    return () => endPreview(ui);
  }, [ui, playing, proposal]);
  const trying = (value: string): Call[] | null => {
    const calls = callsOf(value, TRIED, () => TRIED);
    tried.current = calls && value !== '' ? { calls, clip: value.startsWith(SHIPPED) ? TRIED : value } : null;
    return calls;
  };
  const choose = (value: string) => {
    const calls = callsOf(value, newId(), (wanted) => freeName(wanted, namesOf(kit)));
    if (!calls) return setElsewhere(true);
    const motion = shipped.find(({ id }) => value === SHIPPED + id);
    run(calls, motion && `Mix “${motion.title}” in, of the library`);
  };
  return (
    <>
      <Choice
        label="Clip"
        value={peg.clip !== null && kit.clips[peg.clip] ? peg.clip : ''}
        options={[
          ['', 'rest'] as const,
          ...clipsInOrder(kit).map(({ id, name }) => [id, name] as const),
          ...shipped.map(({ id, title }) => [SHIPPED + id, `${title}, of the library`] as const),
          [ELSEWHERE, 'of another kit or a file …'] as const,
        ]}
        onChange={choose}
        tries={{ by, calls: trying }}
      />
      {elsewhere && <ClipFromElsewhere rate={rate} mixIn={mixIn} onClose={() => setElsewhere(false)} />}
    </>
  );
}
