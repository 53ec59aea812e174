'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { formatList } from '@itchkit/core/intake';
import { clipsInOrder, count, newId, partsInOrder, type Id } from '@itchkit/core/document';
import { AS_IT_IS, guessClipScale, matchByNames, plantedFeet, plantedHere, takenMotion, type TakenMotion } from '@itchkit/core/motion';
import { NumberField } from '../../card/NumberField';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { ClipPairs } from './ClipPairs';
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
  const { blobs } = useOpenKit().session;
  const run = useRun();
  const clips = clipsInOrder(next);
  const [off, setOff] = useState<ReadonlySet<Id>>(new Set());
  const [pairs, setPairs] = useState(() => matchByNames(next, kit));
  const [scale, setScale] = useState(() => guessClipScale(next, kit, pairs));
  const [pinned, setPinned] = useState(true);
  const standing = useMemo(() => new Map(clipsInOrder(next).map((clip) => [clip.id, plantedFeet(next, clip, blobs)])), [next, blobs]);
  const chosen = clips.filter((clip) => !off.has(clip.id));
  const rows = partsInOrder(next).filter((part) => part.id in pairs);
  const without = rows.filter((part) => pairs[part.id] === null).length;
  const motions = chosen.map((clip): TakenMotion => ({ source: next, clip, pairs, scale, planted: standing.get(clip.id)! }));
  const stands = motions.some((motion) => plantedHere(kit, motion).length > 0);
  const take = () =>
    run(
      motions.flatMap((motion) => takenMotion(kit, motion, { choices: AS_IT_IS, pinned }, { id: newId(), name: motion.clip.name })),
      `Take ${chosen.length === 1 ? `clip “${chosen[0].name}”` : count(chosen.length, 'clip')} from “${next.name}”`,
    ) && onClose();
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Clips from {fileName}</DialogTitle>
      <DialogContent>
        {clips.length === 0 ? (
          <Box sx={{ py: 4 }}>This file holds no motion. Choose one with clips in it: {formatList('or', ({ clips }) => clips)}.</Box>
        ) : (
          <>
            {clips.map((clip) => (
              <Box key={clip.id}>
                <FormControlLabel
                  control={
                    <Checkbox
                      size="small"
                      checked={!off.has(clip.id)}
                      onChange={() =>
                        setOff((before) =>
                          before.has(clip.id) ? new Set([...before].filter((id) => id !== clip.id)) : new Set([...before, clip.id]),
                        )
                      }
                    />
                  }
                  label={`${clip.name}, ${Number(clip.lengthSeconds.toFixed(2))} s, ${count(clip.tracks.length, 'track')}`}
                />
              </Box>
            ))}
            <Box sx={{ display: 'grid', gridTemplateColumns: '160px 1fr', gap: 3, my: 3, alignItems: 'center' }}>
              <NumberField
                label="Size of the moves"
                value={scale}
                min={0.0001}
                max={1000}
                digits={4}
                onCommit={setScale}
                hint="1 takes metres as they are"
              />
              <Box sx={{ fontSize: 13, color: without > 0 ? 'kit.warn' : 'text.secondary' }} role="status">
                {without === 0
                  ? `Each of the ${rows.length} moving parts has found one here.`
                  : `${without} of ${rows.length} moving parts have found none here; their motion is left out.`}
              </Box>
            </Box>
            {stands && (
              <FormControlLabel
                sx={{ mb: 2 }}
                control={<Checkbox size="small" checked={pinned} onChange={(_, on) => setPinned(on)} />}
                label="Feet pinned where they stand"
              />
            )}
            <Typography variant="h3" sx={{ mb: 1 }}>
              Matches
            </Typography>
            <ClipPairs source={next} pairs={pairs} onChange={setPairs} />
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={chosen.length === 0 || without === rows.length}
          onClick={take}
        >
          Take {chosen.length === 1 ? 'the clip' : `${chosen.length} clips`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
