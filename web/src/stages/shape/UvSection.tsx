'use client';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Part } from '@itchkit/core';
import { Section } from '../../frame/Section';
import { UvDialog } from './UvDialog';

/** The way to a part's UVs. */
export function UvSection({ part }: { part: Part }) {
  const [open, setOpen] = useState(false);
  if (part.mesh === null) return null;
  return (
    <Section title="UVs">
      <Button variant="outlined" onClick={() => setOpen(true)}>
        Look at its UVs
      </Button>
      {open && <UvDialog part={part} onClose={() => setOpen(false)} />}
    </Section>
  );
}
