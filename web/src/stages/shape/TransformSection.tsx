'use client';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { callOf, nameList, subtreeOf, type Kit, type Part, type Vec3 } from '@itchkit/core/document';
import {
  conjugateQuat,
  decomposeMatrix,
  invertMatrix,
  multiplyQuats,
  quatFromTurn,
  restWorlds,
  transformPoint,
  turnFromQuat,
} from '@itchkit/core/geometry';
import { applyRotation, applyScale, setTransform, snapParts } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { TryButton, useTrying } from '../../card/TryButton';
import { VectorField } from '../../card/VectorField';
import { Buttons } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useRulebook, useRun } from '../../session/context';

type Frame = 'parent' | 'world';

const tidy = (values: readonly number[], digits: number) => values.map((value) => Number(value.toFixed(digits)) + 0) as Vec3;

/** Rest placement, in the axes of the parent or of the world. */
export function TransformSection({ part }: { part: Part }) {
  const run = useRun();
  const kit = useKit();
  const rulebook = useRulebook();
  const [frame, setFrame] = useState<Frame>('parent');
  const { position, turn } = placementIn(kit, part, frame);
  const step = { metres: rulebook?.stepMetres ?? 0.001, degrees: rulebook?.stepDegrees ?? 1 };
  const by = useTrying();
  type Fields = { translation: Vec3 } | { turn: Vec3 } | { scale: Vec3 };
  const placing = (fields: Fields) =>
    callOf(setTransform, { part: part.id, ...('scale' in fields ? fields : toParent(kit, part, frame, fields)) });
  /** A field of three numbers: what is typed is seen on the bench before it is taken. */
  const field = (make: (value: Vec3) => Fields) => ({
    onCommit: (value: Vec3) => {
      by.stop();
      run(placing(make(value)));
    },
    onDraft: (value: Vec3 | null) => (value === null ? by.stop() : by.begin(() => placing(make(value)))),
  });
  const skewed = skewedBelow(kit, part);
  const scaled = part.scale.some((value) => value !== 1);
  const turned = Math.abs(part.rotation[3]) < 1;
  return (
    <Section title="Placement">
      <Box sx={{ mt: 1, mb: 2.5 }}>
        <Choice
          label="In the axes of"
          value={frame}
          options={[
            ['parent', 'the parent'],
            ['world', 'the world'],
          ]}
          onChange={setFrame}
        />
      </Box>
      <VectorField
        title="Position"
        unit="m"
        step={step.metres}
        digits={7}
        value={position}
        {...field((translation) => ({ translation }))}
      />
      <VectorField title="Turn" unit="°" step={step.degrees} digits={5} value={turn} {...field((degrees) => ({ turn: degrees }))} />
      <VectorField title="Scale" lock="size-lock" unit="×" step={0.01} digits={7} value={part.scale} {...field((scale) => ({ scale }))} />
      {skewed.length > 0 && (
        <Box role="note" sx={{ mb: 2, fontSize: 12.5, color: 'kit.warn' }}>
          The uneven scale skews {nameList(skewed)}, turned below it. Make it even, or apply it.
        </Box>
      )}
      <Buttons>
        <TryButton
          title={`Whole steps of ${step.metres} m and ${step.degrees}°`}
          calls={() => callOf(snapParts, { parts: [part.id], stepMetres: step.metres, stepDegrees: step.degrees })}
        >
          Onto the step
        </TryButton>
        <TryButton disabled={!scaled} calls={() => callOf(applyScale, { parts: [part.id] })}>
          Apply scale
        </TryButton>
        <TryButton disabled={!turned} calls={() => callOf(applyRotation, { parts: [part.id] })}>
          Apply rotation
        </TryButton>
      </Buttons>
    </Section>
  );
}

function placementIn(kit: Kit, part: Part, frame: Frame): { position: Vec3; turn: Vec3 } {
  if (frame === 'parent') return { position: part.translation, turn: tidy(turnFromQuat(part.rotation, part.turnOrder), 5) };
  const { translation, rotation } = decomposeMatrix(restWorlds(kit).get(part.id)!);
  return { position: tidy(translation, 6), turn: tidy(turnFromQuat(rotation, part.turnOrder), 4) };
}

/** What was typed in a frame, in the parent's axes. */
function toParent(
  kit: Kit,
  part: Part,
  frame: Frame,
  fields: { translation: Vec3 } | { turn: Vec3 },
): Partial<Pick<Part, 'translation' | 'rotation'>> {
  const rotation = 'turn' in fields ? quatFromTurn(fields.turn, part.turnOrder) : null;
  const parent = frame === 'world' && part.parent !== null ? restWorlds(kit).get(part.parent)! : null;
  if ('translation' in fields) {
    const inverse = parent && invertMatrix(parent);
    return { translation: inverse ? transformPoint(inverse, fields.translation) : fields.translation };
  }
  return { rotation: parent ? multiplyQuats(conjugateQuat(decomposeMatrix(parent).rotation), rotation!) : rotation! };
}

const uneven = ({ scale }: Part) => scale.some((value) => Math.abs(value - scale[0]) > 1e-9);

/** Names of the parts that a part's uneven scale skews, since they are turned below it. */
function skewedBelow(kit: Kit, part: Part): string[] {
  if (!uneven(part)) return [];
  return [...subtreeOf(kit, part.id)]
    .filter((id) => id !== part.id && Math.abs(kit.parts[id].rotation[3]) < 1 - 1e-9)
    .map((id) => kit.parts[id].name);
}
