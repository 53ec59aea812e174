'use client';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useMemo } from 'react';
import { partsInOrder, type Id } from '@itchkit/core/document';
import { useKit } from '../../session/context';

interface Props {
  /** Which part of the other kit or file one is chosen for. */
  of: string;
  value: Id | null;
  /** What it is called to choose none. */
  none: string;
  onChange: (part: Id | null) => void;
}

/** A part of this kit, chosen in a row of a table of matches. */
export function PartChoice({ of, value, none, onChange }: Props) {
  const kit = useKit();
  const parts = useMemo(() => partsInOrder(kit), [kit]);
  return (
    <Select
      variant="standard"
      size="small"
      displayEmpty
      value={value ?? ''}
      onChange={(event) => onChange(event.target.value === '' ? null : (event.target.value as Id))}
      inputProps={{ 'aria-label': `Part of the kit for ${of}` }}
      sx={{ fontSize: 13, minWidth: 120 }}
    >
      <MenuItem value="">{none}</MenuItem>
      {parts.map((part) => (
        <MenuItem key={part.id} value={part.id}>
          {part.name}
        </MenuItem>
      ))}
    </Select>
  );
}
