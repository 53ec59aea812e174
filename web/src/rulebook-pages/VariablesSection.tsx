'use client';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useDeferredValue, useState } from 'react';
import { figure } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { searchVariables } from '../stages/wiring/search-variables';
import { BookTable } from './BookTable';

/** The catalogue of variables, with a search. */
export function VariablesSection({ variables, curves }: { variables: Variable[]; curves: boolean }) {
  const [text, setText] = useState('');
  const found = searchVariables(variables, useDeferredValue(text));
  return (
    <>
      <TextField
        label="Search the variables"
        type="search"
        size="small"
        value={text}
        onChange={(event) => setText(event.target.value)}
        sx={{ width: 320, mb: 2 }}
      />
      <BookTable
        head={['Variable', 'Range', 'Neutral', 'How many', 'When it rises']}
        rows={found.map((variable) => ({
          key: variable.name,
          cells: [
            <span key="name" className="figures">
              {variable.name}
            </span>,
            `${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}`,
            figure(variable.neutral),
            variable.indices === 0 ? 'one' : `${variable.indices}, from 0`,
            variable.positive,
          ],
        }))}
      />
      {curves && (
        <Typography sx={{ fontSize: 13.5 }}>Tables may go from row to row in a curve that overshoots none of them, or straight.</Typography>
      )}
      {found.length === 0 && 'No variable is like that.'}
    </>
  );
}
