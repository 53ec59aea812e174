'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { ParameterRule, Values } from '@itchkit/core/behaviour';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';

interface ValueFieldsProps {
  parameters: readonly ParameterRule[];
  values: Values;
  say: (values: Values) => void;
  send: (signal: string) => void;
}

/** A field for each value that a game passes in; what never changes on this platform is not asked for. */
export function ValueFields({ parameters, values, say, send }: ValueFieldsProps) {
  // What the kit works out by itself is nobody’s to say.
  const said = parameters.filter((rule) => rule.kind !== 'number' || rule.expression === undefined);
  const open = said.filter((rule) => rule.kind === 'signal' || rule.always === undefined);
  return (
    <Box sx={{ display: 'grid', gap: 1.5, width: 170 }}>
      {open.map((rule) => {
        const { name, title } = rule;
        if (rule.kind === 'signal')
          return (
            <Button key={name} size="small" variant="outlined" onClick={() => send(name)} sx={{ justifySelf: 'start' }}>
              Send {title}
            </Button>
          );
        if (rule.kind === 'yes-no')
          return (
            <FormControlLabel
              key={name}
              control={<Checkbox size="small" checked={values[name] === 'yes'} onChange={(_, on) => say({ [name]: on ? 'yes' : 'no' })} />}
              label={title}
              sx={{ '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
            />
          );
        if (rule.kind === 'names')
          return (
            <Choice
              key={name}
              label={title}
              value={String(values[name])}
              options={rule.values.map((one) => [one, one] as const)}
              onChange={(value) => say({ [name]: value })}
            />
          );
        return (
          <NumberField
            key={name}
            label={title}
            unit={rule.unit}
            min={rule.min}
            max={rule.max}
            step={rule.whole ? 1 : 0.5}
            digits={3}
            value={Number(values[name])}
            onCommit={(value) => say({ [name]: value })}
          />
        );
      })}
    </Box>
  );
}
