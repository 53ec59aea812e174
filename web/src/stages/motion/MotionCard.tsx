'use client';
import { useKit, useUi } from '../../session/context';
import { Empty } from '../../panels/Section';
import { ClipList } from './ClipList';
import { ClipSection } from './ClipSection';
import { CueSection } from './CueSection';
import { FormulaSection } from './FormulaSection';
import { KeysSection } from './KeysSection';
import { LoopSection } from './LoopSection';
import { PartMotion } from './PartMotion';
import { PathSection, RecordSection } from './PathSection';
import { PlayedSection } from './PlayedSection';
import { ToolsSection } from './ToolsSection';

export function MotionCard() {
  const kit = useKit();
  const clip = useUi((state) => (state.clip === null ? undefined : kit.clips[state.clip]));
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const part = selection.length === 1 ? kit.parts[selection[0]] : null;
  return (
    <>
      <ClipList />
      {clip && <PlayedSection clip={clip} />}
      {clip && <KeysSection clip={clip} />}
      {clip && part && <PartMotion clip={clip} part={part} />}
      {clip && <ToolsSection />}
      {clip && <LoopSection clip={clip} />}
      {clip && selection.length > 0 && <FormulaSection clip={clip} part={kit.parts[selection[0]]} />}
      {clip && part && <PathSection clip={clip} part={part} />}
      {clip && part && <RecordSection clip={clip} part={part} />}
      {clip && <CueSection clip={clip} />}
      {clip && <ClipSection key={clip.id} clip={clip} />}
      {clip && selection.length === 0 && (
        <Empty>Choose a part to key it: type a value here, or switch on Move, Turn or Size and drag it on the bench.</Empty>
      )}
    </>
  );
}
