'use client';
import { jointsOf } from '@itchkit/core/document';
import { useKit, useUi } from '../../session/context';
import { BodiesCard } from './BodiesCard';
import { CompareSection } from './CompareSection';
import { FitSection } from './FitSection';
import { JointSection } from './JointSection';
import { PosesCard } from './PosesCard';
import { WeightsCard } from './WeightsCard';

/** The numbers of what Rig is at work on. */
export function RigCard() {
  const mode = useUi((state) => state.rig.mode);
  if (mode === 'weights') return <WeightsCard />;
  if (mode === 'poses') return <PosesCard />;
  if (mode === 'bodies') return <BodiesCard />;
  return <JointsCard />;
}

function JointsCard() {
  const kit = useKit();
  const joints = jointsOf(kit);
  const chosen = useUi((state) => state.selection).filter((id) => joints.has(id));
  return (
    <>
      {chosen.length > 0 && <JointSection key={chosen.join()} joints={chosen} />}
      <FitSection />
      <CompareSection />
    </>
  );
}
