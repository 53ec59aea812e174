'use client';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useOpenKit, useSession } from '../session/context';

/** Two windows changed one kit in ways that do not fit: the person decides which one goes on. */
export function Conflict() {
  const { session } = useOpenKit();
  const save = useSession((state) => state.save);
  return (
    <Dialog open={save === 'conflict'}>
      <DialogTitle>Changed in two windows</DialogTitle>
      <DialogContent>
        Another window saved changes to this kit that the latest ones here do not fit. Keep what is in this window (the other one stays in
        the kit’s revisions), or take the other window’s and let go of what is not saved here.
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={() => session.takeTheirs()}>Take the other window’s</Button>
        <Button variant="contained" onClick={() => session.keepMine()}>
          Keep this window’s
        </Button>
      </DialogActions>
    </Dialog>
  );
}
