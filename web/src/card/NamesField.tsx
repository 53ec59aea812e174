'use client';
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface NamesFieldProps {
  label: string;
  names: readonly string[];
  /** Names that are offered, since they stand elsewhere. */
  offered: readonly string[];
  placeholder?: string;
  /** Characters a name may have. */
  longest: number;
  onCommit: (names: string[]) => void;
}

/** A few names, each a piece of its own, with commas in it too. Enter takes what was typed, and so does leaving the field. */
export function NamesField({ label, names, offered, placeholder, longest, onCommit }: NamesFieldProps) {
  const [typed, setTyped] = useState('');
  const take = (all: readonly string[]) => onCommit([...new Set(all.map((name) => name.trim()))].filter(Boolean));
  return (
    <Autocomplete<string, true, false, true>
      multiple
      freeSolo
      filterSelectedOptions
      size="small"
      options={offered.filter((name) => !names.includes(name))}
      value={[...names]}
      inputValue={typed}
      onInputChange={(_, text) => setTyped(text)}
      onChange={(_, all) => take(all)}
      onBlur={({ currentTarget, relatedTarget }) => {
        if (currentTarget.contains(relatedTarget) || typed.trim() === '') return;
        take([...names, typed]);
        setTyped('');
      }}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          placeholder={names.length === 0 ? placeholder : undefined}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, maxLength: longest },
            inputLabel: { ...params.slotProps.inputLabel, shrink: true },
          }}
        />
      )}
      sx={{ gridColumn: '1 / -1' }}
    />
  );
}
