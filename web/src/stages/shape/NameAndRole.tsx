'use client';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, patternOf, renameParts, roleOf, ROLES, setRole, type Part, type Role } from '@itchkit/core';
import { useRulebook, useRun } from '../../session/context';
import { FONT } from '../../theme/tokens';

export function NameAndRole({ parts }: { parts: Part[] }) {
  const run = useRun();
  const rulebook = useRulebook();
  const [draft, setDraft] = useState<string | null>(null);
  const [part] = parts;
  const role = parts.every((one) => one.role === part.role) ? part.role : null;
  const found = rulebook ? roleOf(rulebook, { name: part.name, role: null }) : null;
  const rename = () => {
    const name = draft?.trim() ?? '';
    setDraft(null);
    if (name !== '' && name !== part.name) run(callOf(renameParts, { names: { [part.id]: name } }));
  };
  return (
    <Box sx={{ display: 'grid', gap: 3, mb: 2, mt: 1 }}>
      {parts.length === 1 && (
        <TextField
          label="Name"
          value={draft ?? part.name}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => {
            if (event.key === 'Enter') rename();
            if (event.key === 'Escape') setDraft(null);
          }}
          helperText={rulebook && patternOf(rulebook, roleOf(rulebook, part))?.explain}
          slotProps={{ htmlInput: { style: { fontFamily: FONT.figures, fontSize: 12 } }, formHelperText: { sx: { mx: 0.5 } } }}
        />
      )}
      <TextField
        select
        label="Role"
        value={role ?? ''}
        onChange={(event) => run(callOf(setRole, { parts: parts.map((one) => one.id), role: (event.target.value || null) as Role | null }))}
        helperText={part.role === null && found ? `By its name: ${found}` : undefined}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true }, formHelperText: { sx: { mx: 0.5 } } }}
      >
        <MenuItem value="">{found ? `by name (${found})` : 'none'}</MenuItem>
        {ROLES.map((one) => (
          <MenuItem key={one} value={one}>
            {one}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
