'use client';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { namePattern, nameFits, fittingName, type NamingPattern, type Rulebook } from '@itchkit/core/rulebook';
import { Fact } from '../panels/Section';
import { BookTable } from './BookTable';

/** Patterns in plain words, each with a field to try a name in. */
export function NamesSection({ rulebook }: { rulebook: Rulebook }) {
  const { patterns, maxLength, reserved, sides, required } = rulebook.naming;
  return (
    <>
      <Fact name="Length">up to {maxLength} characters</Fact>
      {sides && (
        <Fact name="Sides">
          {sides.place === 'prefix' ? `${sides.left}… and ${sides.right}… in front` : `…${sides.left} and …${sides.right} at the end`}
        </Fact>
      )}
      {reserved && <Fact name="Kept">{reserved.join(', ')}</Fact>}
      <Box sx={{ mt: 2 }}>
        <BookTable
          head={['Role', 'Name', 'Examples', 'Try one']}
          rows={patterns.map((pattern) => ({
            key: pattern.role ?? 'others',
            cells: [
              pattern.role ?? 'all others',
              pattern.explain,
              <span key="examples" className="figures">
                {pattern.examples.join(', ')}
              </span>,
              <TryName key="try" rulebook={rulebook} pattern={pattern} />,
            ],
          }))}
        />
      </Box>
      {required && required.length > 0 && (
        <BookTable
          head={['Needed part', 'Where', 'Why']}
          rows={required.map(({ name, under, why }) => ({
            key: name,
            cells: [<b key="name">{name}</b>, under === null ? 'at the top' : `below “${under}”`, why],
          }))}
        />
      )}
    </>
  );
}

function TryName({ rulebook, pattern }: { rulebook: Rulebook; pattern: NamingPattern }) {
  const [name, setName] = useState('');
  const fits = name === '' || (namePattern(pattern.pattern).test(name) && nameFits(rulebook, name, pattern.role));
  const nearest = fits ? null : fittingName(rulebook, name, pattern.role);
  const instead = nearest ? `perhaps ${nearest}` : 'does not fit';
  const answer = fits ? 'fits' : instead;
  return (
    <TextField
      size="small"
      value={name}
      error={!fits}
      placeholder={pattern.examples[0]}
      onChange={(event) => setName(event.target.value)}
      helperText={name === '' ? ' ' : answer}
      slotProps={{ htmlInput: { 'aria-label': `Try a name for ${pattern.role ?? 'other parts'}`, maxLength: 200 } }}
      sx={{ width: 190 }}
    />
  );
}
