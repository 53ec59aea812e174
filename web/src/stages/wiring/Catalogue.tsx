'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useDeferredValue, useState } from 'react';
import { callOf, figure, type Part } from '@itchkit/core/document';
import { addBinding, directionInWords, proposedRows } from '@itchkit/core/wiring';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import { Empty, Fact } from '../../panels/Section';
import { useKit, useRun, useSetUi } from '../../session/context';
import { searchVariables } from './search-variables';

export function Catalogue({ rulebook, part }: { rulebook: Rulebook; part: Part | null }) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const found = searchVariables(rulebook.variables, useDeferredValue(text));
  const groups = [...new Set(found.map((one) => one.group))];
  return (
    <Box component="section" aria-label="Catalogue of variables">
      <Box
        sx={{ px: 3, pt: 2.5, pb: 2, position: 'sticky', top: 0, bgcolor: 'kit.sheet', zIndex: 2, borderBottom: 1, borderColor: 'divider' }}
      >
        <Box sx={{ display: 'flex', alignItems: 'baseline', mb: 2 }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            Variables
          </Typography>
          <span className="figures">
            {found.length}/{rulebook.variables.length}
          </span>
        </Box>
        <TextField label="Search" value={text} onChange={(event) => setText(event.target.value)} fullWidth type="search" />
        <Box sx={{ mt: 1.5, fontSize: 12.5, color: 'text.secondary' }}>
          {part ? `Open one to bind “${part.name}”.` : 'Choose a part on the bench or in Parts to bind it.'}
        </Box>
      </Box>
      {found.length === 0 && <Empty>No variable of {rulebook.title} is like that.</Empty>}
      {groups.map((group) => (
        <Box key={group}>
          <Typography component="h3" sx={{ px: 3, pt: 2, pb: 0.5, fontSize: 12, fontWeight: 600, color: 'text.secondary' }}>
            {group}
          </Typography>
          {found
            .filter((one) => one.group === group)
            .map((variable) => (
              <Box key={variable.name} sx={{ bgcolor: open === variable.name ? 'kit.card' : undefined }}>
                <ButtonBase
                  aria-expanded={open === variable.name}
                  onClick={() => setOpen(open === variable.name ? null : variable.name)}
                  sx={{ width: '100%', px: 3, py: 0.75, display: 'block', textAlign: 'left', '&:hover': { bgcolor: 'kit.card' } }}
                >
                  <Box component="span" className="figures" sx={{ display: 'block', overflowWrap: 'anywhere' }}>
                    {variable.name}
                  </Box>
                  <Box component="span" sx={{ display: 'block', fontSize: 12, color: 'text.secondary' }}>
                    {figure(variable.min)} to {figure(variable.max)} {variable.unit}
                    {variable.indices > 0 && `, ${variable.indices} of them`}, {variable.kind}
                  </Box>
                </ButtonBase>
                {open === variable.name && <VariableDetail variable={variable} part={part} />}
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}

function VariableDetail({ variable, part }: { variable: Variable; part: Part | null }) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const [index, setIndex] = useState(0);
  const bind = () => {
    if (!part) return;
    const done = run(
      callOf(addBinding, {
        part: part.id,
        variable: variable.name,
        index: variable.indices > 0 ? index : null,
        outside: 'clamp',
        rows: proposedRows(kit, part.id, variable),
      }),
    );
    if (done) setUi({ held: null });
  };
  return (
    <Box sx={{ px: 3, pb: 2.5 }}>
      <Fact name="What">{variable.title}</Fact>
      <Fact name="Rising">{variable.positive}</Fact>
      {variable.direction && <Fact name="Measured">{directionInWords(variable.direction)}</Fact>}
      {variable.position && (
        <Fact name="Says">
          {variable.kind === 'commanded' ? 'what is asked for' : 'how fast it goes'}; <span className="figures">{variable.position}</span>{' '}
          says where it stands
        </Fact>
      )}
      <Fact name="Neutral">
        <span className="figures">{figure(variable.neutral)}</span> {variable.unit}
      </Fact>
      <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
        {variable.indices > 0 && (
          <TextField select label="Index" value={index} onChange={(event) => setIndex(Number(event.target.value))} sx={{ width: 84 }}>
            {Array.from({ length: variable.indices }, (_, i) => (
              <MenuItem key={i} value={i}>
                {i}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button variant="contained" disabled={!part} onClick={bind} sx={{ flex: 1, minWidth: 0 }}>
          {part ? `Bind ${part.name}` : 'Choose a part first'}
        </Button>
      </Box>
    </Box>
  );
}
