'use client';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { callOf, type Part } from '@itchkit/core/document';
import { flipFaces, recomputePartNormals, tangentsOfParts, unifyWindings, weldParts } from '@itchkit/core/shape';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../panels/Fold';
import { TryButton } from '../../card/TryButton';

/** Normals, windings, tangents, welding. */
export function SurfaceSection({ parts }: { parts: Part[] }) {
  const [angle, setAngle] = useState(40);
  const [distance, setDistance] = useState(0.1);
  const ids = parts.filter((part) => part.mesh !== null).map((part) => part.id);
  if (ids.length === 0) return null;
  return (
    <Fold title="Surface">
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', gap: 1.5, alignItems: 'start' }}>
        <NumberField label="Smooth up to" unit="°" value={angle} min={0} max={180} step={5} digits={1} onCommit={setAngle} />
        <TryButton calls={() => callOf(recomputePartNormals, { parts: ids, angleDegrees: angle })}>Compute normals</TryButton>
        <NumberField label="Within" unit="mm" value={distance} min={0} max={1000} step={0.1} digits={3} onCommit={setDistance} />
        <TryButton calls={() => callOf(weldParts, { parts: ids, distanceMm: distance })}>Weld vertices</TryButton>
      </Box>
      <Buttons>
        <TryButton calls={() => callOf(unifyWindings, { parts: ids, angleDegrees: angle })}>Unify windings</TryButton>
        <TryButton calls={() => callOf(flipFaces, { parts: ids })}>Inside out</TryButton>
        <TryButton calls={() => callOf(tangentsOfParts, { parts: ids })}>Compute tangents</TryButton>
      </Buttons>
    </Fold>
  );
}
