'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { callOf, flipFaces, recomputePartNormals, tangentsOfParts, unifyWindings, weldParts, type Part } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../frame/Fold';
import { useRun } from '../../session/context';

/** Normals, windings, tangents, welding. */
export function SurfaceSection({ parts }: { parts: Part[] }) {
  const run = useRun();
  const [angle, setAngle] = useState(40);
  const [distance, setDistance] = useState(0.1);
  const ids = parts.filter((part) => part.mesh !== null).map((part) => part.id);
  if (ids.length === 0) return null;
  return (
    <Fold title="Surface">
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', gap: 1.5, alignItems: 'start' }}>
        <NumberField label="Smooth up to" unit="°" value={angle} min={0} max={180} step={5} digits={1} onCommit={setAngle} />
        <Button variant="outlined" onClick={() => run(callOf(recomputePartNormals, { parts: ids, angleDegrees: angle }))}>
          Compute normals
        </Button>
        <NumberField label="Within" unit="mm" value={distance} min={0} max={1000} step={0.1} digits={3} onCommit={setDistance} />
        <Button variant="outlined" onClick={() => run(callOf(weldParts, { parts: ids, distanceMm: distance }))}>
          Weld vertices
        </Button>
      </Box>
      <Buttons>
        <Button variant="outlined" onClick={() => run(callOf(unifyWindings, { parts: ids, angleDegrees: angle }))}>
          Unify windings
        </Button>
        <Button variant="outlined" onClick={() => run(callOf(flipFaces, { parts: ids }))}>
          Inside out
        </Button>
        <Button variant="outlined" onClick={() => run(callOf(tangentsOfParts, { parts: ids }))}>
          Compute tangents
        </Button>
      </Buttons>
    </Fold>
  );
}
