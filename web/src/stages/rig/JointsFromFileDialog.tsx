'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { callOf, newId } from '@itchkit/core/document';
import { addJoints, jointsInOrder, jointsLike } from '@itchkit/core/rig';
import { NumberField } from '../../card/NumberField';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { FileDialog } from '../intake/FileDialog';
import type { Brought } from '../intake/use-reading';
import { guessScale } from './guess-scale';

/** Takes the skeleton of a file, such as a BVH, into the kit; its motion and its meshes are left. */
export function JointsFromFileDialog({ onClose }: { onClose: () => void }) {
  return (
    <FileDialog
      title="Joints from a file"
      intro="The skeleton of the file is made in this kit, at this kit’s size: BVH, glTF or COLLADA. Its motion and its meshes are left."
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
  const { session } = useOpenKit();
  const joints = jointsInOrder(next);
  const [scale, setScale] = useState(() => guessScale(kit, next, session.blobs));
  const make = () => {
    const ids = new Map(joints.map((id) => [id, newId()]));
    const tops = Object.values(kit.parts).filter((part) => part.parent === null);
    const made = jointsLike(next, scale, (id) => ids.get(id)!, tops.length === 1 ? tops[0].id : null);
    if (!run(callOf(addJoints, { joints: made }))) return;
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>Joints from {fileName}</DialogTitle>
      <DialogContent>
        {joints.length === 0 ? (
          <Box sx={{ py: 2 }}>This file has no joints. Choose one with a skeleton in it.</Box>
        ) : (
          <>
            <Box sx={{ fontSize: 13.5, mb: 3 }}>
              {joints.length} joints, from “{next.parts[joints[0]].name}” on. They are sized so that the topmost stands where this kit’s
              would.
            </Box>
            <NumberField label="At" unit="×" value={scale} min={0.0001} max={10_000} step={0.05} digits={4} onCommit={setScale} />
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" disabled={joints.length === 0} onClick={make}>
          Make {joints.length} joints
        </Button>
      </DialogActions>
    </Dialog>
  );
}
