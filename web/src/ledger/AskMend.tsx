'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { Finding } from '@itchkit/core/rulebook';

const MOST_LINES = 40;

/** Shows what a mend will change before it does. */
export function AskMend({ finding, onClose, onApply }: { finding: Finding; onClose: () => void; onApply: () => void }) {
  const changes = finding.mend?.changes ?? [];
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{finding.title}</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 2 }}>{finding.message}</Box>
        <Box sx={{ mb: 1, color: 'text.secondary', fontSize: 13 }}>This will change:</Box>
        <Box component="ul" tabIndex={0} sx={{ m: 0, pl: 5, fontSize: 13, lineHeight: 1.7, maxHeight: 260, overflowY: 'auto' }}>
          {changes.slice(0, MOST_LINES).map((line) => (
            <li key={line}>{line}</li>
          ))}
          {changes.length > MOST_LINES && <li>and {changes.length - MOST_LINES} more</li>}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={onApply} autoFocus>
          {finding.mend?.title}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
