'use client';
import Box from '@mui/material/Box';

interface CellChoiceProps {
  label: string;
  value: string;
  options: readonly (readonly [value: string, title: string])[];
  onChange: (value: string) => void;
}

/** One of a few, in a table cell: it looks like the words that it stands for until it is gone to. */
export function CellChoice({ label, value, options, onChange }: CellChoiceProps) {
  return (
    <Box
      component="select"
      aria-label={label}
      value={value}
      onChange={(event: { target: HTMLSelectElement }) => onChange(event.target.value)}
      sx={{
        font: 'inherit',
        color: 'inherit',
        maxWidth: 110,
        border: 1,
        borderColor: 'transparent',
        borderRadius: 1,
        bgcolor: 'transparent',
        appearance: 'none',
        px: 0.25,
        py: 0,
        cursor: 'pointer',
        '&:hover, &:focus': { borderColor: 'divider' },
        '&:focus': { bgcolor: 'kit.card' },
        '& option': { color: 'text.primary', bgcolor: 'kit.card' },
      }}
    >
      {options.map(([one, title]) => (
        <option key={one} value={one}>
          {title}
        </option>
      ))}
    </Box>
  );
}
