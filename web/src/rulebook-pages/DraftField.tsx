import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Draft } from './read-draft';

export type DraftError = Draft['error'];

/** The error's sentence where it is about a field or something in it. */
export function errorAt(error: DraftError, path: string): string | undefined {
  return error?.path !== undefined && error?.path !== null && (error.path === path || error.path.startsWith(`${path}.`))
    ? error.message
    : undefined;
}

interface Field<T> {
  label: string;
  path: string;
  value: T;
  error: DraftError;
  onChange: (value: T) => void;
}

export function DraftText({
  label,
  path,
  value,
  error,
  onChange,
  multiline,
  figures,
}: Field<string> & { multiline?: boolean; figures?: boolean }) {
  const wrong = errorAt(error, path);
  return (
    <TextField
      size="small"
      fullWidth
      label={label}
      value={value}
      multiline={multiline}
      error={wrong !== undefined}
      helperText={wrong}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ htmlInput: { 'data-path': path, className: figures ? 'figures' : undefined } }}
    />
  );
}

/** A number; what is typed stays as it is typed until it is one. */
export function DraftNumber({ label, path, value, error, onChange, unit }: Field<number> & { unit?: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed !== null && Number(typed) === value ? typed : String(value);
  const broken = typed !== null && typed.trim() !== '' && !Number.isFinite(Number(typed));
  const wrong = broken ? 'This is no number.' : errorAt(error, path);
  return (
    <TextField
      size="small"
      label={label}
      value={broken || typed === '' ? typed : text}
      error={wrong !== undefined}
      helperText={wrong}
      onChange={(event) => {
        setTyped(event.target.value);
        const number = Number(event.target.value);
        if (event.target.value.trim() !== '' && Number.isFinite(number)) onChange(number);
      }}
      onBlur={() => setTyped(null)}
      slotProps={{
        htmlInput: { 'data-path': path, inputMode: 'decimal', className: 'figures' },
        input: unit === undefined ? undefined : { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
      }}
    />
  );
}
