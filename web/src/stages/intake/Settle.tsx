'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMemo } from 'react';
import { callOf, SIGNED_AXES, type SignedAxis, type Source, type Space } from '@itchkit/core/document';
import { kitBounds, sizeOf } from '@itchkit/core/geometry';
import { guessSpace, settleSource, UNITS, unitOf } from '@itchkit/core/intake';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { formatLength } from '../../format';

/** Unit and axes of the source: a guess with its reason, the alternatives a click away, each with the size that it gives. */
export function Settle({ source }: { source: Source }) {
  const { session } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const { space } = source;
  const longest = useMemo(() => Math.max(...sizeOf(kitBounds(kit, session.blobs))), [kit, session]);
  const guess = useMemo(() => guessSpace(kit, session.blobs), [kit, session]);
  const settle = (change: Partial<Space>) => run(callOf(settleSource, { space: { ...space, ...change } }));
  const guessed = !source.settled && (guess.space.metresPerUnit !== space.metresPerUnit || guess.space.up !== space.up);

  return (
    <Section title="Unit and axes">
      <Box sx={{ fontSize: 13, lineHeight: 1.5, mb: 2, color: guessed ? 'kit.warn' : 'text.secondary' }}>
        {source.settled ? `Taken in ${unitOf(space.metresPerUnit).name}.` : guess.why}
        {guessed &&
          ` It was probably drawn in ${unitOf(guess.space.metresPerUnit).name}${guess.space.up === space.up ? '' : `, with ${guess.space.up} up`}.`}
      </Box>
      {guessed && (
        <Button variant="outlined" size="small" fullWidth sx={{ mb: 2 }} onClick={() => settle(guess.space)}>
          Take {unitOf(guess.space.metresPerUnit).name}, {guess.space.up} up
        </Button>
      )}
      <Box role="radiogroup" aria-label="Unit of the source" sx={{ display: 'grid', gap: 0.5, mb: 3 }}>
        {UNITS.map((unit) => {
          const on = Math.abs(unit.metres - space.metresPerUnit) < 1e-9;
          const suggested = guessed && unit.metres === guess.space.metresPerUnit;
          const unchosen = suggested ? 'outlined' : 'text';
          return (
            <Button
              key={unit.name}
              role="radio"
              aria-checked={on}
              variant={on ? 'contained' : unchosen}
              color={on || suggested ? 'primary' : 'inherit'}
              onClick={() => settle({ metresPerUnit: unit.metres })}
              sx={{ justifyContent: 'space-between', py: 0.25, fontWeight: on || suggested ? 600 : 400 }}
            >
              <span>{unit.name}</span>
              <span className="figures">{formatLength((longest / space.metresPerUnit) * unit.metres)}</span>
            </Button>
          );
        })}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
        <AxisField label="Up" value={space.up} taken={space.forward} onChange={(up) => settle({ up })} />
        <AxisField label="Forward" value={space.forward} taken={space.up} onChange={(forward) => settle({ forward })} />
      </Box>
    </Section>
  );
}

function AxisField({
  label,
  value,
  taken,
  onChange,
}: {
  label: string;
  value: SignedAxis;
  taken: SignedAxis;
  onChange: (axis: SignedAxis) => void;
}) {
  return (
    <TextField select label={label} value={value} onChange={(event) => onChange(event.target.value as SignedAxis)} fullWidth>
      {SIGNED_AXES.map((axis) => (
        <MenuItem key={axis} value={axis} disabled={axis[1] === taken[1]}>
          {axis}
        </MenuItem>
      ))}
    </TextField>
  );
}
