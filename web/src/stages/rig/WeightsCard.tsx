'use client';
import { useMemo } from 'react';
import { jointsOf, type Id, type Kit } from '@itchkit/core/document';
import { jointsInOrder, skinField } from '@itchkit/core/rig';
import { Empty } from '../../panels/Section';
import { useKit, useOpenKit, useUi } from '../../session/context';
import { BrushSection } from './BrushSection';
import { SharesSection } from './SharesSection';
import { SolveSection } from './SolveSection';
import { VertexTable } from './VertexTable';
import { WeightToolsSection } from './WeightToolsSection';

/** What joints hold: solved, brushed, set by hand; seen as heat on the bench and as shares here. */
export function WeightsCard() {
  const kit = useKit();
  const { session } = useOpenKit();
  const selection = useUi((state) => state.selection);
  const joints = jointsOf(kit);
  const skinned = skinnedParts(kit);
  const field = useMemo(() => (skinnedParts(kit).length > 0 ? skinField(kit, skinnedParts(kit), session.blobs) : null), [kit, session]);
  const chosen = selection.find((id) => joints.has(id)) ?? null;
  if (joints.size === 0) return <Empty>There are no joints yet. Fit a skeleton under Joints; then they can hold something.</Empty>;
  return (
    <>
      {field && chosen === null && (
        <Empty>
          Each vertex has the colour of the joint that holds most of it. Choose a joint on the bench, in the list or in the tree to see what
          it holds.
        </Empty>
      )}
      <SolveSection />
      {field && <SharesSection field={field} order={jointsInOrder(kit)} chosen={chosen} />}
      {field && <BrushSection joint={chosen} />}
      <WeightToolsSection joint={chosen} skinned={skinned} />
      {field && <VertexTable field={field} />}
    </>
  );
}

function skinnedParts(kit: Kit): Id[] {
  return Object.values(kit.parts)
    .filter((part) => part.skin !== null && part.mesh !== null)
    .map((part) => part.id);
}
