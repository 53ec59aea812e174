'use client';
import Box from '@mui/material/Box';
import { useState } from 'react';
import { callOf, renameKit } from '@itchkit/core/document';
import { useRun, useSession } from '../session/context';
import { FONT } from '../theme/tokens';

/** The kit's name; a click makes it a field. */
export function KitName() {
  const name = useSession((state) => state.kit.name);
  const run = useRun();
  const [draft, setDraft] = useState<string | null>(null);
  const take = () => {
    const next = draft?.trim() ?? '';
    setDraft(null);
    if (next !== '' && next !== name) run(callOf(renameKit, { name: next.slice(0, 200) }));
  };
  const type = { fontFamily: FONT.title, fontWeight: 600, fontSize: 16 };
  if (draft === null)
    return (
      <Box component="h1" sx={{ m: 0, minWidth: 0, display: 'flex' }}>
        <Box
          component="button"
          title={`${name} (rename)`}
          onClick={() => setDraft(name)}
          sx={{
            ...type,
            color: 'inherit',
            bgcolor: 'transparent',
            border: 0,
            px: 1,
            py: 0.5,
            cursor: 'text',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
            minWidth: 0,
          }}
        >
          {name}
        </Box>
      </Box>
    );
  return (
    <Box
      component="input"
      aria-label="Name of the kit"
      autoFocus
      value={draft}
      onChange={(event) => setDraft(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={take}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') take();
        if (event.key === 'Escape') setDraft(null);
      }}
      sx={{
        ...type,
        color: 'inherit',
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'kit.sea',
        borderRadius: 1,
        px: 1,
        py: 0.25,
        minWidth: 0,
        width: 190,
      }}
    />
  );
}
