'use client';
import type { Call } from '@itchkit/core/document';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { useTrying } from './TryButton';

/** A list that faded would pass under the pointer on its way, and what is there would be tried. */
const GOES_AT_ONCE = { enter: 160, exit: 0 };

interface ChoiceProps<T extends string | number> {
  label: string;
  value: T;
  options: readonly (readonly [value: T, title: string])[];
  onChange: (value: T) => void;
  help?: string;
  /** What each would do, shown on the bench while the pointer rests on it. */
  tries?: { by: ReturnType<typeof useTrying>; calls: (value: T) => Call | Call[] | null };
}

/** One of a few, from a list. */
export function Choice<T extends string | number>({ label, value, options, onChange, help, tries }: ChoiceProps<T>) {
  return (
    <TextField
      select
      size="small"
      fullWidth
      label={label}
      value={value}
      helperText={help}
      onChange={(event) => onChange(event.target.value as T)}
      slotProps={{
        inputLabel: { shrink: true },
        select: { displayEmpty: true, onClose: tries?.by.stop, MenuProps: { transitionDuration: GOES_AT_ONCE } },
      }}
    >
      {options.map(([one, title]) => (
        <MenuItem key={one} value={one} {...(tries?.by.trying(() => tries.calls(one)) ?? {})}>
          {title}
        </MenuItem>
      ))}
    </TextField>
  );
}
