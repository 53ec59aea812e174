'use client';
import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState, type KeyboardEvent } from 'react';
import { FONT } from '../theme/tokens';
import { readNumber } from './read-number';

export interface NumberFieldProps {
  label: string;
  /** What stands on the field where the surroundings say the rest; `label` is still read out. */
  caption?: string;
  value: number | null;
  onCommit: (value: number) => void;
  /** Takes it that the field was emptied; where it is left out, a number has to stand there. */
  onClear?: () => void;
  /** Hears what is typed while it is typed; null where that is nothing that could be taken. */
  onDraft?: (value: number | null) => void;
  /** Whether Enter takes a number that is the one there already: keys are set by it. */
  takesSame?: boolean;
  unit?: string;
  /** What an arrow key changes it by. */
  step?: number;
  min?: number;
  max?: number;
  digits?: number;
  /** Small print under the field: the expected range. */
  hint?: string;
  disabled?: boolean;
  /** Colour of the left edge, for axes. */
  edge?: string;
}

const shown = (value: number | null, digits: number) => (value === null ? '' : String(Number(value.toFixed(digits)) + 0));

/**
 * A number with its unit; arithmetic and other units of its kind are taken. Arrows step, Shift ×10, Alt ÷10; Enter or leaving the field
 * takes it, Esc brings the old one back.
 */
export function NumberField({
  label,
  caption,
  value,
  onCommit,
  onClear,
  onDraft,
  takesSame = false,
  unit,
  step = 1,
  min = -Infinity,
  max = Infinity,
  digits = 4,
  hint,
  disabled,
  edge,
}: NumberFieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const read = (text: string) => readNumber(text, unit);
  const fails = (text: string) => !Number.isFinite(read(text)) || read(text) < min || read(text) > max;
  const number = draft === null ? value : read(draft);
  const cleared = onClear !== undefined && draft?.trim() === '';
  const bad = draft !== null && !cleared && fails(draft);
  const type = (text: string | null) => {
    setDraft(text);
    onDraft?.(text === null || fails(text) ? null : read(text));
  };

  const clear = () => {
    type(null);
    if (value !== null) onClear?.();
  };
  const commit = (next: number, same = false) => {
    type(null);
    if (next !== value || same) onCommit(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter' && cleared) clear();
    else if (event.key === 'Enter' && !bad && number !== null && (draft !== null || takesSame)) commit(number, takesSame);
    else if (event.key === 'Escape' && draft !== null) {
      event.stopPropagation();
      type(null);
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const finer = event.altKey ? 0.1 : 1;
      const by = step * (event.shiftKey ? 10 : finer) * (event.key === 'ArrowUp' ? 1 : -1);
      const from = Number.isFinite(number) && number !== null ? number : 0;
      commit(Math.min(max, Math.max(min, Number((from + by).toFixed(digits + 1)))));
    }
  };
  const limits = `${min === -Infinity ? '' : `from ${min} `}${max === Infinity ? '' : `to ${max}`}`.trim();
  return (
    <TextField
      label={caption ?? label}
      disabled={disabled}
      value={draft ?? shown(value, digits)}
      onChange={(event) => type(event.target.value)}
      onBlur={() => {
        if (cleared) clear();
        else if (bad || draft === null) type(null);
        else commit(number as number);
      }}
      onFocus={(event) => event.target.select()}
      onKeyDown={onKeyDown}
      error={bad}
      helperText={bad ? `A number ${limits}`.trim() : hint}
      fullWidth
      slotProps={{
        htmlInput: {
          inputMode: 'decimal',
          style: { fontFamily: FONT.figures, fontSize: 12, paddingTop: 6, paddingBottom: 6 },
          'aria-label': label,
          'data-taken': draft === null,
        } as object,
        input: {
          endAdornment: unit ? <InputAdornment position="end">{unit}</InputAdornment> : undefined,
          sx: { pr: 1, '& .MuiInputAdornment-root p': { fontSize: 11 }, ...(edge ? { borderLeft: `3px solid ${edge}` } : {}) },
        },
        formHelperText: { sx: { mx: 0.5, mt: 0.25, fontSize: 11 } },
        inputLabel: { shrink: true, sx: { fontSize: 12 } },
      }}
    />
  );
}
