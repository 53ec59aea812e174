'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import Lock from '@mui/icons-material/Lock';
import LockOpen from '@mui/icons-material/LockOpen';
import { useState } from 'react';
import type { Vec3 } from '@itchkit/core/document';
import { remember, remembered } from '../panels/remembered';
import { NumberField } from './NumberField';

/** Red, green and blue for x, y and z, as everywhere. */
const EDGES = ['#c0392b', '#2e8b57', '#2f6fb3'];

const withAxis = (value: Vec3, axis: number, next: number) => value.map((old, i) => (i === axis ? next : old)) as Vec3;

/** All three by the same share; all the same where the one that was typed was none. */
const inProportion = (value: Vec3, axis: number, next: number) =>
  value.map((old) => (value[axis] === 0 ? next : (old * next) / value[axis])) as Vec3;

interface VectorFieldProps {
  title: string;
  /** Said beside the title. */
  note?: string;
  value: Vec3;
  /** Hears of the axes that were meant. */
  onCommit: (value: Vec3, axes: number[]) => void;
  /** A lock, by which one number takes the other two along in proportion, remembered under this name. */
  lock?: string;
  takesSame?: boolean;
  /** Hears what is typed while it is typed. */
  onDraft?: (value: Vec3 | null) => void;
  unit?: string;
  step?: number;
  digits?: number;
  disabled?: boolean;
}

export function VectorField({ title, note, value, onCommit, onDraft, lock, ...rest }: VectorFieldProps) {
  const [locked, setLocked] = useState(() => lock !== undefined && remembered<boolean>(lock, false));
  const typed = (axis: number, next: number) => (locked ? inProportion : withAxis)(value, axis, next);
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2.5, minWidth: 0 }}>
      <Box component="legend" sx={{ fontSize: 12, color: 'text.secondary', mb: 1.5, p: 0 }}>
        {title}
        {note && (
          <Box component="span" sx={{ ml: 1, color: 'kit.warn' }}>
            {note}
          </Box>
        )}
        {lock !== undefined && (
          <Tooltip title={locked ? 'All three together, in proportion' : 'Each by itself'} describeChild>
            <IconButton
              size="small"
              aria-label={`Lock the proportions of ${title}`}
              aria-pressed={locked}
              sx={{ ml: 1, p: 0.25 }}
              onClick={() => {
                setLocked(!locked);
                remember(lock, !locked);
              }}
            >
              {locked ? <Lock sx={{ fontSize: 14 }} /> : <LockOpen sx={{ fontSize: 14 }} />}
            </IconButton>
          </Tooltip>
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
            onCommit={(next) => onCommit(typed(axis, next), locked ? [0, 1, 2] : [axis])}
            onDraft={onDraft && ((next) => onDraft(next === null ? null : typed(axis, next)))}
            {...rest}
          />
        ))}
      </Box>
    </Box>
  );
}
