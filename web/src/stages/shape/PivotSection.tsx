'use client';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, invertMatrix, movePivot, multiplyMatrices, pivotToAnchor, restWorlds, transformPoint, type Kit, type Part, type Vec3 } from '@itchkit/core';
import { VectorField } from '../../card/VectorField';
import { Section } from '../../frame/Section';
import { useKit, useRun } from '../../session/context';

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
  const kit = useKit();
  const [frame, setFrame] = useState<'world' | 'parent'>('world');
  const ids = parts.map((part) => part.id);
  const skinned = parts.find((part) => part.skin !== null);
  if (skinned) return <Section title="Pivot">“{skinned.name}” follows its joints; its pivot has no meaning.</Section>;
  return (
    <Section title="Pivot" aside={<span style={{ fontSize: 12 }}>nothing else moves</span>}>
      <Box sx={{ display: 'flex', gap: 3, mb: 2.5 }} role="group" aria-label="Pivot to an anchor of the bounds">
        {LEVELS.map((level) => (
          <Box key={level.name} sx={{ flex: 1 }}>
            <Box sx={{ fontSize: 11, color: 'text.secondary', mb: 0.5 }}>{level.name}</Box>
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', border: 1, borderColor: 'divider', borderRadius: 1, overflow: 'hidden' }}>
              {ROWS.flatMap((row) =>
                COLUMNS.map((column) => (
                  <Box
                    key={`${row.name} ${column.name}`}
                    component="button"
                    data-pivot-anchor={`${column.x},${level.y},${row.z}`}
                    aria-label={`Pivot to ${level.name}, ${row.name}, ${column.name}`}
                    title={`${level.name}, ${row.name}, ${column.name}`}
                    onClick={() => run(callOf(pivotToAnchor, { parts: ids, anchor: [column.x, level.y, row.z] as Vec3 }))}
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
      {parts.length === 1 && (
        <>
          <VectorField
            title={`Pivot in ${frame === 'world' ? 'the world' : 'the parent'}`}
            unit="m"
            step={0.001}
            digits={6}
            value={pivotIn(kit, parts[0], frame)}
            onCommit={(value) => run(callOf(movePivot, { part: parts[0].id, to: toOwn(kit, parts[0], frame, value) }))}
          />
          <TextField select label="Typed in the axes of" value={frame} onChange={(event) => setFrame(event.target.value as 'world')} fullWidth>
            <MenuItem value="world">the world</MenuItem>
            <MenuItem value="parent">the parent</MenuItem>
          </TextField>
        </>
      )}
    </Section>
  );
}

function pivotIn(kit: Kit, part: Part, frame: 'world' | 'parent'): Vec3 {
  if (frame === 'parent') return part.translation;
  const world = restWorlds(kit).get(part.id)!;
  return [world[12], world[13], world[14]].map((value) => Number(value.toFixed(6)) + 0) as Vec3;
}

/** A point of the world, or of the parent's axes, in the part's own axes. */
function toOwn(kit: Kit, part: Part, frame: 'world' | 'parent', point: Vec3): Vec3 {
  const worlds = restWorlds(kit);
  const above = frame === 'parent' && part.parent !== null ? worlds.get(part.parent)! : null;
  const inverse = invertMatrix(worlds.get(part.id)!)!;
  const own = transformPoint(above ? multiplyMatrices(inverse, above) : inverse, point);
  return own.map((value) => Number(value.toFixed(9)) + 0) as Vec3;
}
