'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, LOOP_MODES, removeClip, setClip, type Clip, type LoopMode } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { Section } from '../../frame/Section';
import { useRun } from '../../session/context';

const LOOP_WORDS: Record<LoopMode, string> = { once: 'once, then rest', loop: 'loop', 'ping-pong': 'ping-pong', hold: 'hold at the end' };

export function ClipSection({ clip }: { clip: Clip }) {
  const run = useRun();
  const [name, setName] = useState<string | null>(null);
  const rename = () => {
    const next = name?.trim() ?? '';
    setName(null);
    if (next !== '' && next !== clip.name) run(callOf(setClip, { clip: clip.id, name: next }));
  };
  return (
    <Section
      title="Clip"
      aside={
        <Button color="inherit" sx={{ fontSize: 12, py: 0, fontWeight: 500 }} onClick={() => run(callOf(removeClip, { clip: clip.id }))}>
          Delete clip
        </Button>
      }
    >
      <Box sx={{ display: 'grid', gap: 3, mt: 1 }}>
        <TextField label="Clip name" value={name ?? clip.name} onChange={(event) => setName(event.target.value)} onBlur={rename} onKeyDown={(event) => event.key === 'Enter' && rename()} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
          <NumberField
            label="Length"
            unit="s"
            step={1 / clip.rate}
            min={1 / 240}
            max={3600}
            value={clip.lengthSeconds}
            onCommit={(lengthSeconds) => run(callOf(setClip, { clip: clip.id, lengthSeconds }))}
            hint={`${Math.round(clip.lengthSeconds * clip.rate)} frames`}
          />
          <NumberField label="Rate" unit="fps" step={1} min={1} max={240} value={clip.rate} onCommit={(rate) => run(callOf(setClip, { clip: clip.id, rate }))} hint="1 to 240" />
        </Box>
        <TextField select label="Loop mode" value={clip.loop} onChange={(event) => run(callOf(setClip, { clip: clip.id, loop: event.target.value as LoopMode }))}>
          {LOOP_MODES.map((loop) => (
            <MenuItem key={loop} value={loop}>
              {LOOP_WORDS[loop]}
            </MenuItem>
          ))}
        </TextField>
      </Box>
    </Section>
  );
}
