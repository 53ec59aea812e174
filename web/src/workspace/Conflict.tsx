'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import { fieldWords, valueWords, type Clash } from '@itchkit/core/document';
import { useOpenKit, useSession } from '../session/context';

/** Two windows changed one kit in ways that meet: the person decides, field by field where that is possible. */
export function Conflict() {
  const save = useSession((state) => state.save);
  const clashes = useSession((state) => state.clashes);
  return (
    <Dialog open={save === 'conflict'} maxWidth="sm" fullWidth>
      <DialogTitle>Changed in two windows</DialogTitle>
      {clashes ? <Fields clashes={clashes} /> : <Whole />}
    </Dialog>
  );
}

const pathOf = ({ change }: Clash): string => JSON.stringify(change.path);

function Fields({ clashes }: { clashes: Clash[] }) {
  const { session } = useOpenKit();
  const kit = useSession((state) => state.kit);
  // A field may be met by several changes after one another: it is asked once, with the last.
  const asked = [...new Map(clashes.map((clash) => [pathOf(clash), clash])).values()];
  const [theirs, setTheirs] = useState<ReadonlySet<string>>(new Set());
  const choose = (paths: string[], mine: boolean) => {
    const next = new Set(theirs);
    for (const path of paths) {
      if (mine) next.delete(path);
      else next.add(path);
    }
    setTheirs(next);
  };
  const all = asked.map(pathOf);
  return (
    <>
      <DialogContent>
        Another window changed {asked.length === 1 ? 'a field' : `${asked.length} fields`} that you changed too. Everything else of both is
        kept. Which value stays?
        <Box component="ul" aria-label="Fields" sx={{ listStyle: 'none', m: 0, mt: 3, p: 0, maxHeight: 320, overflowY: 'auto' }}>
          {asked.map((clash) => (
            <Box component="li" key={pathOf(clash)} sx={{ py: 1.5, borderTop: 1, borderColor: 'divider' }}>
              <Box sx={{ fontSize: 13, mb: 1 }}>{fieldWords(clash.change, kit)}</Box>
              <ToggleButtonGroup
                exclusive
                fullWidth
                size="small"
                aria-label={fieldWords(clash.change, kit)}
                value={theirs.has(pathOf(clash)) ? 'theirs' : 'mine'}
                onChange={(_, value: 'mine' | 'theirs' | null) => value && choose([pathOf(clash)], value === 'mine')}
              >
                <ToggleButton value="mine">here: {valueWords(clash.change.now)}</ToggleButton>
                <ToggleButton value="theirs">other window: {valueWords(clash.theirs)}</ToggleButton>
              </ToggleButtonGroup>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        {asked.length > 1 && (
          <>
            <Button onClick={() => choose(all, true)}>All from here</Button>
            <Button onClick={() => choose(all, false)}>All from there</Button>
          </>
        )}
        <Button variant="contained" onClick={() => session.decide((clash) => !theirs.has(pathOf(clash)))}>
          Go on with these
        </Button>
      </DialogActions>
    </>
  );
}

function Whole() {
  const { session } = useOpenKit();
  return (
    <>
      <DialogContent>
        Another window saved changes to this kit that do not hold together with the latest ones here. Keep what is in this window (the other
        one stays in the kit’s revisions), or take the other window’s and let go of what is not saved here.
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={() => session.takeTheirs()}>Take the other window’s</Button>
        <Button variant="contained" onClick={() => session.keepMine()}>
          Keep this window’s
        </Button>
      </DialogActions>
    </>
  );
}
