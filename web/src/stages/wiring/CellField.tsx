'use client';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { FONT } from '../../theme/tokens';

/** A number in a table cell; Enter or leaving takes it, Esc brings the old one back. */
export function CellField({
  label,
  value,
  digits,
  strong = false,
  onCommit,
}: {
  label: string;
  value: number;
  digits: number;
  strong?: boolean;
  onCommit: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const number = draft === null ? value : Number(draft.replace(',', '.'));
  const bad = draft !== null && (draft.trim() === '' || !Number.isFinite(number));
  const take = () => {
    setDraft(null);
    if (!bad && draft !== null && number !== value) onCommit(number);
  };
  return (
    <Box
      component="input"
      aria-label={label}
      aria-invalid={bad}
      inputMode="decimal"
      value={draft ?? String(Number(value.toFixed(digits)) + 0)}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take();
        if (event.key === 'Escape') setDraft(null);
      }}
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
