'use client';
import { useKit, useUi } from '../../session/context';
import { Empty } from '../../frame/Section';
import { ClipList } from './ClipList';
import { ClipSection } from './ClipSection';
import { KeysSection } from './KeysSection';
import { PartMotion } from './PartMotion';

export function MotionCard() {
  const kit = useKit();
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  return (
    <>
      <ClipList />
      {clip && <ClipSection key={clip.id} clip={clip} />}
      {clip && <KeysSection clip={clip} />}
      {clip && selection.length === 1 && <PartMotion clip={clip} part={kit.parts[selection[0]]} />}
      {clip && selection.length === 0 && <Empty>Choose a part to key it: type a value here, or switch on Move, Turn or Size and drag it on the bench.</Empty>}
    </>
  );
}
