'use client';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, patternOf, removeParts, renameParts, roleOf, ROLES, setHidden, setRole, type Part, type Role } from '@itchkit/core';
import { TryButton, useTrying } from '../../card/TryButton';
import { Buttons } from '../../frame/Fold';
import { useRulebook, useRun, useSetUi } from '../../session/context';
import { FONT } from '../../theme/tokens';

export function NameAndRole({ parts }: { parts: Part[] }) {
  const run = useRun();
  const rulebook = useRulebook();
  const [draft, setDraft] = useState<string | null>(null);
  const [part] = parts;
  const role = parts.every((one) => one.role === part.role) ? part.role : null;
  const found = rulebook ? roleOf(rulebook, { name: part.name, role: null }) : null;
  const { trying, begin, stop } = useTrying();
  const setUi = useSetUi();
  const ids = parts.map((one) => one.id);
  const type = (text: string | null) => {
    setDraft(text);
    const name = text?.trim() ?? '';
    if (name === '' || name === part.name) stop();
    else begin(() => callOf(renameParts, { names: { [part.id]: name } }));
  };
  const giving = (role: Role | null) => callOf(setRole, { parts: ids, role });
  const hidden = parts.every((one) => one.hidden);
  const rename = () => {
    const name = draft?.trim() ?? '';
    type(null);
    if (name !== '' && name !== part.name) run(callOf(renameParts, { names: { [part.id]: name } }));
  };
  return (
    <Box sx={{ display: 'grid', gap: 3, mb: 2, mt: 1 }}>
      {parts.length === 1 && (
        <TextField
          label="Name"
          value={draft ?? part.name}
          onChange={(event) => type(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => {
            if (event.key === 'Enter') rename();
            if (event.key === 'Escape') type(null);
          }}
          helperText={rulebook && patternOf(rulebook, roleOf(rulebook, part))?.explain}
          slotProps={{ htmlInput: { style: { fontFamily: FONT.figures, fontSize: 12 } }, formHelperText: { sx: { mx: 0.5 } } }}
        />
      )}
      <TextField
        select
        label="Role"
        value={role ?? ''}
        onChange={(event) => {
          stop();
          run(giving((event.target.value || null) as Role | null));
        }}
        helperText={part.role === null && found ? `By its name: ${found}` : undefined}
        slotProps={{ select: { displayEmpty: true, onClose: stop }, inputLabel: { shrink: true }, formHelperText: { sx: { mx: 0.5 } } }}
      >
        <MenuItem value="" {...trying(() => giving(null))}>
          {found ? `by name (${found})` : 'none'}
        </MenuItem>
        {ROLES.map((one) => (
          <MenuItem key={one} value={one} {...trying(() => giving(one))}>
            {one}
          </MenuItem>
        ))}
      </TextField>
      <Buttons>
        <TryButton calls={() => callOf(setHidden, { parts: ids, hidden: !hidden })}>{hidden ? 'Show' : 'Hide'}</TryButton>
        <TryButton calls={() => callOf(removeParts, { parts: ids })} onDone={() => setUi({ selection: [] })}>
          Delete
        </TryButton>
      </Buttons>
    </Box>
  );
}
