'use client';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Part } from '@itchkit/core/document';
import { Fold } from '../../panels/Fold';
import { UvDialog } from './UvDialog';

/** The way to a part's UVs. */
export function UvSection({ part }: { part: Part }) {
  const [open, setOpen] = useState(false);
  if (part.mesh === null) return null;
  return (
    <Fold title="UVs">
      <Button variant="outlined" onClick={() => setOpen(true)}>
        Look at its UVs
      </Button>
      {open && <UvDialog part={part} onClose={() => setOpen(false)} />}
    </Fold>
  );
}
