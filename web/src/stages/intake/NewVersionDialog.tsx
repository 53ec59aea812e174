'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, useState } from 'react';
import { callOf, count, clipsInOrder, type Call, type Id } from '@itchkit/core/document';
import { compareVersion, matchVersion, takeVersion, type VersionRow } from '@itchkit/core/intake';
import { takeClips } from '@itchkit/core/motion';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { FileDialog } from './FileDialog';
import type { Brought } from './use-reading';
import { VersionTable } from './VersionTable';

/** Takes in a new version of the kit's source, after showing what is new, gone, renamed and changed. */
export function NewVersionDialog({ onClose }: { onClose: () => void }) {
  return (
    <FileDialog
      title="New version of the model"
      intro="The new file is compared with the one that this kit was made from. Names, roles, pivots, rig, clips and bindings stay; what was only moved goes along with its pivot; you see what is different before anything changes."
      withBase
      onClose={onClose}
    >
      {(brought) => <Compared brought={brought} onClose={onClose} />}
    </FileDialog>
  );
}

function Compared({ brought: { fileName, next, base }, onClose }: { brought: Brought; onClose: () => void }) {
  const { session } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const found = useMemo(() => matchVersion(kit, base, next, session.blobs), [kit, base, next, session]);
  const [changed, setChanged] = useState<Record<Id, Id | null>>({});
  const [onlyDifferent, setOnlyDifferent] = useState(true);
  const [withClips, setWithClips] = useState(true);
  const matches = useMemo(() => {
    const merged = { ...found };
    for (const [id, part] of Object.entries(changed)) {
      if (part === null) delete merged[id];
      else merged[id] = { part, reason: 'name' };
    }
    return merged;
  }, [found, changed]);
  const rows = useMemo(() => compareVersion(kit, base, next, matches, session.blobs), [kit, base, next, matches, session]);
  const known = new Set([...Object.values(kit.clips), ...Object.values(base?.clips ?? {})].map((clip) => clip.name));
  const newClips = clipsInOrder(next).filter((clip) => !known.has(clip.name));
  const parked = rows.filter((row) => row.state === 'gone').reduce((sum, row) => sum + row.tracks + row.bindings, 0);

  const pair = (id: Id, part: Id | null) => {
    // A part can be matched once: who had it before lets go of it.
    const holder = part === null ? undefined : Object.entries(matches).find(([other, match]) => other !== id && match.part === part)?.[0];
    setChanged((before) => ({ ...before, ...(holder ? { [holder]: null } : {}), [id]: part }));
  };
  const take = () => {
    const pairs = Object.fromEntries(Object.entries(matches).map(([id, match]) => [id, match.part]));
    const calls: Call[] = [callOf(takeVersion, { next, base, matches: pairs })];
    if (withClips && newClips.length > 0)
      calls.push(callOf(takeClips, { source: next, clips: newClips.map((clip) => clip.id), pairs, scale: 1 }));
    if (run(calls, `Take in “${fileName}”`)) onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>New version: {fileName}</DialogTitle>
      <DialogContent>
        <Box sx={{ fontSize: 13.5, mb: 2, lineHeight: 1.6 }} role="status">
          {summary(rows)}
          {parked > 0 &&
            ` ${count(parked, 'track or binding', 'tracks and bindings')} of parts that are gone will be parked, and can be given to others.`}
          {base === null && ' The first file is not kept with this kit, so parts are compared with the kit as it is.'}
        </Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={onlyDifferent} onChange={(_, on) => setOnlyDifferent(on)} />}
          label="Only what is different"
        />
        {newClips.length > 0 && (
          <FormControlLabel
            control={<Checkbox size="small" checked={withClips} onChange={(_, on) => setWithClips(on)} />}
            label={`Take the new clips too: ${newClips.map((clip) => clip.name).join(', ')}`}
          />
        )}
        <VersionTable rows={onlyDifferent ? rows.filter((row) => row.state !== 'same' || row.renamed) : rows} onPair={pair} />
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={take}>
          Take it in
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function summary(rows: VersionRow[]): string {
  const of = (test: (row: VersionRow) => boolean) => rows.filter(test).length;
  const said = [
    [of((row) => row.state === 'same' && !row.renamed), 'the same'],
    [of((row) => row.renamed), 'renamed'],
    [of((row) => row.state === 'moved'), 'moved'],
    [of((row) => row.state === 'changed'), 'changed'],
    [of((row) => row.state === 'new'), 'new'],
    [of((row) => row.state === 'gone'), 'gone'],
  ] as const;
  return `${said
    .filter(([n]) => n > 0)
    .map(([n, word]) => `${n} ${word}`)
    .join(', ')}.`;
}
