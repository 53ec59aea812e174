'use client';
import { callOf, quatFromTurn, setTransform, turnFromQuat, type Part, type Vec3 } from '@itchkit/core';
import { VectorField } from '../../card/VectorField';
import { Section } from '../../frame/Section';
import { useRulebook, useRun } from '../../session/context';

/** Rest placement in the parent's axes. */
export function TransformSection({ part }: { part: Part }) {
  const run = useRun();
  const rulebook = useRulebook();
  const turn = turnFromQuat(part.rotation, part.turnOrder).map((value) => Number(value.toFixed(5)) + 0) as Vec3;
  return (
    <Section title="Placement" aside={<span style={{ fontSize: 12 }}>in the parent’s axes</span>}>
      <VectorField
        title="Position"
        unit="m"
        step={rulebook?.stepMetres ?? 0.001}
        digits={7}
        value={part.translation}
        onCommit={(translation) => run(callOf(setTransform, { part: part.id, translation }))}
      />
      <VectorField title="Turn" unit="°" step={1} digits={5} value={turn} onCommit={(degrees) => run(callOf(setTransform, { part: part.id, rotation: quatFromTurn(degrees, part.turnOrder) }))} />
      <VectorField title="Scale" unit="×" step={0.01} digits={7} value={part.scale} onCommit={(scale) => run(callOf(setTransform, { part: part.id, scale }))} />
    </Section>
  );
}
