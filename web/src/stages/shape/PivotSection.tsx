'use client';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { callOf, partsInOrder, type Part, type Vec3 } from '@itchkit/core/document';
import { boundsByPart, findTwins } from '@itchkit/core/geometry';
import { massCentre, movePivot, pivotFromWithin, pivotToAnchor, pivotToTwin, pivotWithin } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { TryButton, useTrying } from '../../card/TryButton';
import { VectorField } from '../../card/VectorField';
import { Buttons } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useRun } from '../../session/context';

const LEVELS = [
  { y: 1, name: 'top' },
  { y: 0, name: 'middle' },
  { y: -1, name: 'bottom' },
];
const ROWS = [
  { z: -1, name: 'back' },
  { z: 0, name: 'centre' },
  { z: 1, name: 'front' },
];
const COLUMNS = [
  { x: -1, name: 'right' },
  { x: 0, name: 'centre' },
  { x: 1, name: 'left' },
];

/** The pivot by one of 27 anchors of the part's own bounds, or typed. Nothing else moves. */
export function PivotSection({ parts }: { parts: Part[] }) {
  const run = useRun();
  const { trying, stop } = useTrying();
  const ids = parts.map((part) => part.id);
  const toAnchor = (anchor: Vec3) => callOf(pivotToAnchor, { parts: ids, anchor });
  const skinned = parts.find((part) => part.skin !== null);
  if (skinned) return <Section title="Pivot">“{skinned.name}” follows its joints; its pivot has no meaning.</Section>;
  return (
    <Section title="Pivot" aside={<span style={{ fontSize: 12 }}>nothing else moves</span>}>
      <Box sx={{ display: 'flex', gap: 3, mb: 2.5 }} role="group" aria-label="Pivot to an anchor of the bounds">
        {LEVELS.map((level) => (
          <Box key={level.name} sx={{ flex: 1 }}>
            <Box sx={{ fontSize: 11, color: 'text.secondary', mb: 0.5 }}>{level.name}</Box>
            <Box
              sx={{
                display: 'grid',
                gridTemplateColumns: 'repeat(3, 1fr)',
                border: 1,
                borderColor: 'divider',
                borderRadius: 1,
                overflow: 'hidden',
              }}
            >
              {ROWS.flatMap((row) =>
                COLUMNS.map((column) => (
                  <Box
                    key={`${row.name} ${column.name}`}
                    component="button"
                    data-pivot-anchor={`${column.x},${level.y},${row.z}`}
                    aria-label={`Pivot to ${level.name}, ${row.name}, ${column.name}`}
                    title={`${level.name}, ${row.name}, ${column.name}`}
                    {...trying(() => toAnchor([column.x, level.y, row.z]))}
                    onClick={() => {
                      stop();
                      run(toAnchor([column.x, level.y, row.z]));
                    }}
                    sx={{
                      height: 22,
                      border: 0,
                      bgcolor: 'transparent',
                      cursor: 'pointer',
                      display: 'grid',
                      placeItems: 'center',
                      color: 'text.secondary',
                      '&:hover': { bgcolor: 'kit.card', color: 'kit.signal' },
                    }}
                  >
                    <Box component="span" sx={{ width: 6, height: 6, borderRadius: '50%', bgcolor: 'currentColor' }} />
                  </Box>
                )),
              )}
            </Box>
          </Box>
        ))}
      </Box>
      {parts.length === 1 && <PivotNumbers key={parts[0].id} part={parts[0]} />}
    </Section>
  );
}

/** The pivot typed in the axes of the world, the parent, or any other part; at the middle of the mass; on the twin. */
function PivotNumbers({ part }: { part: Part }) {
  const run = useRun();
  const kit = useKit();
  const { session } = useOpenKit();
  const [axes, setAxes] = useState('world');
  const known = axes === 'world' || axes === 'parent' || kit.parts[axes] ? axes : 'world';
  const axesOf = (name: string) => ({ world: null, parent: part.parent })[name] ?? (kit.parts[name] ? name : null);
  const toTwin = () => {
    const pair = findTwins(kit, boundsByPart(kit, session.blobs)).find(({ left, right }) => left === part.id || right === part.id);
    return pair ? callOf(pivotToTwin, { from: part.id, to: pair.left === part.id ? pair.right : pair.left, axis: 0, at: 0 }) : null;
  };
  const twin = toTwin();
  const move = (to: Vec3) => callOf(movePivot, { part: part.id, to });
  const names: [string, string][] = [
    ['world', 'the world'],
    ...(part.parent === null ? [] : [['parent', 'the parent'] as [string, string]]),
  ];
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Choice
        label="Typed in the axes of"
        value={known}
        options={[
          ...names,
          ...partsInOrder(kit)
            .filter(({ id }) => id !== part.id)
            .map(({ id, name }) => [id, name] as const),
        ]}
        onChange={setAxes}
      />
      <VectorField
        title={known === 'world' || known === 'parent' ? `Pivot in the ${known}` : `Pivot in the axes of ${kit.parts[known].name}`}
        unit="m"
        step={0.001}
        digits={6}
        value={pivotWithin(kit, part.id, axesOf(known))}
        onCommit={(value) => run(move(pivotFromWithin(kit, part.id, axesOf(known), value)))}
      />
      <Buttons>
        <TryButton disabled={part.mesh === null} calls={() => move(massCentre(kit, part.id, session.blobs))}>
          Middle of its mass
        </TryButton>
        <TryButton
          disabled={twin === null}
          title={twin ? 'To the part that is its mirror image' : `No part is the mirror image of “${part.name}”`}
          calls={() => twin}
        >
          Copy to its twin
        </TryButton>
      </Buttons>
    </Box>
  );
}
