import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, setAside, takeUp } from '@itchkit/core/document';
import type { Finding } from '@itchkit/core/rulebook';
import { useKit, useRun } from '../session/context';

/** Sets a finding aside with a reason, or takes it up again. A stop can't be. */
export function SetAside({ finding }: { finding: Finding }) {
  const [reason, setReason] = useState<string | null>(null);
  const run = useRun();
  const rulebook = useKit().targets[0]?.rulebook;
  if (finding.grade === 'stop' || rulebook === undefined) return null;
  if (finding.aside !== null)
    return (
      <Box sx={{ mb: 1 }}>
        <Box sx={{ mb: 0.5 }}>Set aside: {finding.aside}</Box>
        <Button variant="text" sx={{ py: 0.25, ml: -1.5 }} onClick={() => run(callOf(takeUp, { rulebook, finding: finding.id }))}>
          Take it up again
        </Button>
      </Box>
    );
  if (reason === null)
    return (
      <Button variant="text" sx={{ py: 0.25, ml: -1.5, mb: 1 }} onClick={() => setReason('')}>
        Set it aside …
      </Button>
    );
  const apply = () => reason.trim() !== '' && run(callOf(setAside, { rulebook, finding: finding.id, reason: reason.trim() }));
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        apply();
      }}
      sx={{ display: 'grid', gap: 1, mb: 1.5 }}
    >
      <TextField
        autoFocus
        size="small"
        label="Why it may stay"
        helperText="Goes into the package’s report."
        value={reason}
        slotProps={{ htmlInput: { maxLength: 1000 } }}
        onChange={(event) => setReason(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && (event.stopPropagation(), setReason(null))}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="outlined" disabled={reason.trim() === ''} sx={{ py: 0.25 }}>
          Set aside
        </Button>
        <Button onClick={() => setReason(null)} sx={{ py: 0.25 }}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}
