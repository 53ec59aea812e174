'use client';
import Box from '@mui/material/Box';
import { readNumber } from '../../card/read-number';
import { useDraft } from '../../card/use-draft';
import { FONT } from '../../theme/tokens';

/** A number in a table cell; Enter or leaving takes it, Esc brings the old one back. */
export function CellField({
  label,
  value,
  digits,
  unit,
  strong = false,
  onCommit,
}: {
  label: string;
  value: number;
  digits: number;
  unit?: string;
  strong?: boolean;
  onCommit: (value: number) => void;
}) {
  const shown = String(Number(value.toFixed(digits)) + 0);
  const { draft, field, taken } = useDraft(shown, {
    take: (text) => {
      const number = readNumber(text, unit);
      if (Number.isFinite(number) && number !== value) onCommit(number);
    },
  });
  const bad = draft !== null && !Number.isFinite(readNumber(draft, unit));
  return (
    <Box
      component="input"
      aria-label={label}
      aria-invalid={bad}
      inputMode="decimal"
      {...field}
      {...taken}
      onFocus={(event: { target: HTMLInputElement }) => event.target.select()}
      sx={{
        width: '100%',
        minWidth: 30,
        boxSizing: 'border-box',
        border: 1,
        borderColor: bad ? 'kit.stop' : 'transparent',
        borderRadius: 1,
        bgcolor: 'transparent',
        color: value === 0 && draft === null ? 'text.secondary' : 'text.primary',
        fontFamily: FONT.figures,
        fontSize: 10.5,
        fontWeight: strong ? 700 : 400,
        px: 0.5,
        py: 0.5,
        '&:hover': { borderColor: bad ? 'kit.stop' : 'divider' },
        '&:focus': { bgcolor: 'kit.card' },
      }}
    />
  );
}
