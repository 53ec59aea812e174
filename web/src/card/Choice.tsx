'use client';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

interface ChoiceProps<T extends string | number> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, title: string])[];
  onChange: (value: T) => void;
  help?: string;
}

/** One of a few, from a list. */
export function Choice<T extends string | number>({ label, value, options, onChange, help }: ChoiceProps<T>) {
  return (
    <TextField
      select
      size="small"
      fullWidth
      label={label}
      value={value}
      helperText={help}
      onChange={(event) => onChange(event.target.value as T)}
      slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
    >
      {options.map(([one, title]) => (
        <MenuItem key={one} value={one}>
          {title}
        </MenuItem>
      ))}
    </TextField>
  );
}
