'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { count } from '@itchkit/core/document';
import type { Finding, Mend } from '@itchkit/core/rulebook';

/** A finding whose mend shows first what it changes. */
export type Asking = Finding & { mend: Mend };

const MOST_LINES = 3;

/** Whether a finding can be mended beside others: its mend asks, and there is one way alone. */
export const isAskable = (finding: Finding): finding is Asking =>
  finding.mend !== null && !finding.mend.safe && finding.mend.ways === undefined && finding.aside === null && finding.grade !== 'note';

/** What several mends would change, one below the other; those that are ticked are made as one step. */
export function AskMany({ findings, onClose, onApply }: { findings: Asking[]; onClose: () => void; onApply: (ids: string[]) => void }) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = findings.filter(({ id }) => !left.has(id));
  const toggle = (id: string) => setLeft((before) => new Set(before.has(id) ? [...before].filter((one) => one !== id) : [...before, id]));
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>What these mends would change</DialogTitle>
      <DialogContent>
        <Box component="ul" aria-label="Mends" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 2 }}>
          {findings.map(({ id, title, message, mend }) => (
            <Box component="li" key={id}>
              <FormControlLabel
                control={<Checkbox size="small" checked={!left.has(id)} onChange={() => toggle(id)} />}
                label={`${title}: ${mend.title}`}
                slotProps={{ typography: { sx: { fontWeight: 600, fontSize: 13.5 } } }}
              />
              <Box sx={{ pl: 7.5, fontSize: 13, lineHeight: 1.5 }}>
                {message}
                <Box component="ul" sx={{ m: 0, pl: 4, color: 'text.secondary' }}>
                  {(mend.changes ?? []).slice(0, MOST_LINES).map((line) => (
                    <li key={line}>{line}</li>
                  ))}
                  {(mend.changes ?? []).length > MOST_LINES && <li>and {mend.changes!.length - MOST_LINES} more</li>}
                </Box>
              </Box>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave them</Button>
        <Button variant="contained" disabled={chosen.length === 0} onClick={() => onApply(chosen.map(({ id }) => id))} autoFocus>
          Mend {chosen.length === 0 ? 'them' : count(chosen.length, 'finding')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
