import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { SxProps } from '@mui/material/styles';
import type { ReactNode } from 'react';

interface TogglesProps<T extends string> {
  /** What is chosen between, for who does not see it. */
  label: string;
  value: T;
  options: readonly (readonly [value: T, title: ReactNode])[];
  onChange: (value: T) => void;
  sx?: SxProps;
}

/** One of a few, side by side; pressing the one that is chosen changes nothing. */
export function Toggles<T extends string>({ label, value, options, onChange, sx }: TogglesProps<T>) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      onChange={(_, next: T | null) => next && onChange(next)}
      aria-label={label}
      sx={{ flex: 'none', ...(sx as object) }}
    >
      {options.map(([one, title]) => (
        <ToggleButton key={one} value={one} sx={{ py: 0.25, px: 1.5, fontSize: 12 }}>
          {title}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
