'use client';
import Box from '@mui/material/Box';
import type { Vec3 } from '@itchkit/core/document';
import { NumberField } from './NumberField';

/** Red, green and blue for x, y and z, as everywhere. */
const EDGES = ['#c0392b', '#2e8b57', '#2f6fb3'];

const withAxis = (value: Vec3, axis: number, next: number) => value.map((old, i) => (i === axis ? next : old)) as Vec3;

interface VectorFieldProps {
  title: string;
  /** Said beside the title. */
  note?: string;
  value: Vec3;
  onCommit: (value: Vec3, axis: number) => void;
  takesSame?: boolean;
  /** Hears what is typed while it is typed. */
  onDraft?: (value: Vec3 | null) => void;
  unit?: string;
  step?: number;
  digits?: number;
  disabled?: boolean;
}

export function VectorField({ title, note, value, onCommit, onDraft, ...rest }: VectorFieldProps) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2.5, minWidth: 0 }}>
      <Box component="legend" sx={{ fontSize: 12, color: 'text.secondary', mb: 1.5, p: 0 }}>
        {title}
        {note && (
          <Box component="span" sx={{ ml: 1, color: 'kit.warn' }}>
            {note}
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 1 }}>
        {value.map((number, axis) => (
          <NumberField
            key={axis}
            label={`${title} ${'xyz'[axis]}`}
            caption={'xyz'[axis]}
            value={number}
            edge={EDGES[axis]}
            onCommit={(next) => onCommit(withAxis(value, axis, next), axis)}
            onDraft={onDraft && ((next) => onDraft(next === null ? null : withAxis(value, axis, next)))}
            {...rest}
          />
        ))}
      </Box>
    </Box>
  );
}
