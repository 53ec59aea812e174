'use client';
import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import { figure } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { NumberField } from './NumberField';

/** A variable's step for arrows and dragging: about two hundred in its range, a round number. */
export function leverStep(variable: Variable): number {
  const raw = (variable.max - variable.min) / 200;
  const power = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((factor) => factor * power).find((step) => step >= raw)!;
}

/** A control for one variable: slid, or typed. */
export function Lever({
  name,
  variable,
  value,
  onChange,
}: {
  name: string;
  variable: Variable;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minWidth: 0 }}>
      <Slider
        size="small"
        aria-label={`Lever ${name}`}
        min={variable.min}
        max={variable.max}
        step={leverStep(variable)}
        value={Math.min(variable.max, Math.max(variable.min, value))}
        marks={[{ value: variable.neutral }]}
        onChange={(_, next) => onChange(next as number)}
        sx={{ flex: 1, minWidth: 60, mx: 1 }}
      />
      <Box sx={{ width: 112, flex: 'none' }}>
        <NumberField
          label={`Value of ${name}`}
          caption="value"
          unit={variable.unit}
          step={leverStep(variable)}
          value={value}
          hint={`${figure(variable.min)} to ${figure(variable.max)}`}
          onCommit={onChange}
        />
      </Box>
    </Box>
  );
}
