'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { callOf, partsInOrder, type Id, type Parked } from '@itchkit/core/document';
import { dropParked, giveParked } from '@itchkit/core/intake';
import { Section } from '../../panels/Section';
import { useKit, useRun } from '../../session/context';

/** Motion and wiring of parts that went with a new version, by part: given to another one, or let go. */
export function ParkedSection() {
  const kit = useKit();
  const run = useRun();
  const parked = kit.parked ?? [];
  if (parked.length === 0) return null;
  const names = [...new Set(parked.map((one) => one.partName))];
  const parts = partsInOrder(kit);
  const say = (one: Parked) => {
    if (one.kind === 'binding') return `binding to ${one.binding.variable || 'no variable'}`;
    if (one.kind === 'switch') return `shown by ${one.switch.variable}`;
    return `track in “${kit.clips[one.clip]?.name ?? 'a clip that is gone'}”`;
  };
  return (
    <Section title="Parked">
      <Box sx={{ fontSize: 13, lineHeight: 1.5, mb: 2, color: 'kit.warn' }}>
        These parts went with the new version. What moved them waits here.
      </Box>
      {names.map((name) => {
        const own = parked.filter((one) => one.partName === name);
        const ids = own.map((one) => one.id);
        return (
          <Box key={name} sx={{ mb: 3 }}>
            <Box sx={{ fontSize: 13, mb: 1.5 }}>
              <b>{name}</b>: {own.map(say).join(', ')}
            </Box>
            <Box sx={{ display: 'flex', gap: 1 }}>
              <TextField
                select
                size="small"
                fullWidth
                label="Give to"
                value=""
                onChange={(event) => run(callOf(giveParked, { parked: ids, part: event.target.value as Id }))}
              >
                {parts.map((part) => (
                  <MenuItem key={part.id} value={part.id}>
                    {part.name}
                  </MenuItem>
                ))}
              </TextField>
              <Button color="inherit" sx={{ whiteSpace: 'nowrap' }} onClick={() => run(callOf(dropParked, { parked: ids }))}>
                Let go
              </Button>
            </Box>
          </Box>
        );
      })}
    </Section>
  );
}
