import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type RevisionRow } from '../api';
import { useOpenKit } from '../session/context';

/** A name for a revision: one with a name stays when old ones go. Empty takes it away. */
export function NameRevision({ row, onClose }: { row: RevisionRow; onClose: () => void }) {
  const { session } = useOpenKit();
  const queries = useQueryClient();
  const [name, setName] = useState(row.name ?? '');
  const [failure, setFailure] = useState<string | null>(null);
  const keep = async () => {
    try {
      await api.nameRevision(session.id, row.number, name.trim() || null);
      await queries.invalidateQueries({ queryKey: ['revisions', session.id] });
      onClose();
    } catch (error) {
      setFailure(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <DialogTitle>Name revision {row.number}</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            label="Name"
            sx={{ mt: 2 }}
            value={name}
            onChange={(event) => setName(event.target.value)}
            error={failure !== null}
            helperText={failure ?? 'A revision with a name stays when old ones are let go.'}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
        </DialogContent>
        <DialogActions sx={{ px: 6, pb: 4 }}>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" variant="contained">
            Keep
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
