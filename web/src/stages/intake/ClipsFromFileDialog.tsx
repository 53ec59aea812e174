'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { callOf, clipsInOrder, count, guessClipScale, matchByNames, partsInOrder, takeClips, type Id } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { useKit, useRun } from '../../session/context';
import { FileDialog } from './FileDialog';
import type { Brought } from './use-reading';

/** Takes the motions of another file onto this kit's parts, by a table of names that can be put right. */
export function ClipsFromFileDialog({ onClose }: { onClose: () => void }) {
  return (
    <FileDialog
      title="Clips from a file"
      intro="The motions of the file are taken onto the parts of this kit, joint by joint or part by part. Its meshes are left where they are."
      withBase={false}
      onClose={onClose}
    >
      {(brought) => <Chosen brought={brought} onClose={onClose} />}
    </FileDialog>
  );
}

function Chosen({ brought: { fileName, next }, onClose }: { brought: Brought; onClose: () => void }) {
  const kit = useKit();
  const run = useRun();
  const clips = clipsInOrder(next);
  const [off, setOff] = useState<ReadonlySet<Id>>(new Set());
  const [pairs, setPairs] = useState(() => matchByNames(next, kit));
  const [scale, setScale] = useState(() => guessClipScale(next, kit, pairs));
  const chosen = clips.filter((clip) => !off.has(clip.id));
  const parts = useMemo(() => partsInOrder(kit), [kit]);
  const rows = partsInOrder(next).filter((part) => part.id in pairs);
  const without = rows.filter((part) => pairs[part.id] === null).length;
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Clips from {fileName}</DialogTitle>
      <DialogContent>
        {clips.length === 0 ? (
          <Box sx={{ py: 4 }}>This file holds no motion. Choose one with clips in it: glTF, COLLADA or BVH.</Box>
        ) : (
          <>
            {clips.map((clip) => (
              <Box key={clip.id}>
                <FormControlLabel
                  control={
                    <Checkbox
                      size="small"
                      checked={!off.has(clip.id)}
                      onChange={() => setOff((before) => (before.has(clip.id) ? new Set([...before].filter((id) => id !== clip.id)) : new Set([...before, clip.id])))}
                    />
                  }
                  label={`${clip.name}, ${Number(clip.lengthSeconds.toFixed(2))} s, ${count(clip.tracks.length, 'track')}`}
                />
              </Box>
            ))}
            <Box sx={{ display: 'grid', gridTemplateColumns: '160px 1fr', gap: 3, my: 3, alignItems: 'center' }}>
              <NumberField label="Size of the moves" value={scale} min={0.0001} max={1000} digits={4} onCommit={setScale} hint="1 takes metres as they are" />
              <Box sx={{ fontSize: 13, color: without > 0 ? 'kit.warn' : 'text.secondary' }} role="status">
                {without === 0 ? `Each of the ${rows.length} moving parts has found one here.` : `${without} of ${rows.length} moving parts have found none here; their motion is left out.`}
              </Box>
            </Box>
            <Typography variant="h3" sx={{ mb: 1 }}>
              Matches
            </Typography>
            <Table size="small" aria-label="Parts of the file and of the kit">
              <TableHead>
                <TableRow>
                  <TableCell>In the file</TableCell>
                  <TableCell>In the kit</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {rows.map((part) => (
                  <TableRow key={part.id}>
                    <TableCell>{part.name}</TableCell>
                    <TableCell>
                      <Select
                        variant="standard"
                        size="small"
                        displayEmpty
                        value={pairs[part.id] ?? ''}
                        onChange={(event) => setPairs({ ...pairs, [part.id]: event.target.value === '' ? null : (event.target.value as Id) })}
                        inputProps={{ 'aria-label': `Part of the kit for ${part.name}` }}
                        sx={{ fontSize: 13, minWidth: 160 }}
                      >
                        <MenuItem value="">none</MenuItem>
                        {parts.map((one) => (
                          <MenuItem key={one.id} value={one.id}>
                            {one.name}
                          </MenuItem>
                        ))}
                      </Select>
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={chosen.length === 0 || without === rows.length}
          onClick={() => run(callOf(takeClips, { source: next, clips: chosen.map((clip) => clip.id), pairs, scale })) && onClose()}
        >
          Take {chosen.length === 1 ? 'the clip' : `${chosen.length} clips`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
