'use client';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { NewPivot, NewPlace, SplitChoice } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';

const PLACES: [NewPlace, string][] = [
  ['below', 'below the old part'],
  ['beside', 'beside the old part'],
];
const PIVOTS: [NewPivot, string][] = [
  ['middle', 'middle of its bounds'],
  ['bottom', 'bottom of its bounds'],
  ['keep', 'where the old one is'],
];

export const useSplitChoice = () => useState<SplitChoice>({ place: 'below', pivot: 'middle' });

/** Where a new part hangs and turns, and what it is called. */
export function SplitChoiceFields({
  choice,
  onChange,
  name,
  onName,
}: {
  choice: SplitChoice;
  onChange: (choice: SplitChoice) => void;
  name?: string;
  onName?: (name: string) => void;
}) {
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      {onName && (
        <TextField
          size="small"
          label="Name of the new part"
          value={name}
          onChange={(event) => onName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 200, className: 'figures' } }}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <Choice label="Hangs" value={choice.place} options={PLACES} onChange={(place) => onChange({ ...choice, place })} />
        <Choice label="Its pivot" value={choice.pivot} options={PIVOTS} onChange={(pivot) => onChange({ ...choice, pivot })} />
      </Box>
    </Box>
  );
}
