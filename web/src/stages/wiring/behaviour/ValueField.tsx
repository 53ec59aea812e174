'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { ParameterRule } from '@itchkit/core/behaviour';
import { figure } from '@itchkit/core/document';
import { Choice } from '../../../card/Choice';
import { NumberField } from '../../../card/NumberField';
import { useSetSlice, useUi } from '../../../session/context';

/** What the game passes in for one parameter, tried. */
export function ValueField({ rule, value }: { rule: ParameterRule; value: number | string | boolean }) {
  const set = useSetSlice('behaviour');
  const values = useUi((state) => state.behaviour.values);
  const say = (next: number | string | boolean) => set({ values: { ...values, [rule.name]: next } });
  if (rule.kind === 'signal')
    return (
      <FormControlLabel
        control={<Checkbox size="small" checked={value === true} onChange={(_, on) => say(on)} />}
        label={`${rule.title} is sent`}
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
      />
    );
  if (rule.kind === 'number' && rule.expression !== undefined)
    return (
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }} title={rule.about}>
        {rule.title} is {figure(Number(value), 3)} {rule.unit}
      </Box>
    );
  if (rule.always !== undefined)
    return (
      <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        {rule.title} is always {String(rule.always)} here
      </Box>
    );
  if (rule.kind === 'number')
    return (
      <NumberField
        label={rule.title}
        unit={rule.unit}
        min={rule.min}
        max={rule.max}
        step={rule.whole ? 1 : 0.5}
        digits={3}
        value={Number(value)}
        onCommit={say}
      />
    );
  const options = rule.kind === 'names' ? rule.values : ['no', 'yes'];
  return <Choice label={rule.title} value={String(value)} options={options.map((one) => [one, one] as const)} onChange={say} />;
}
