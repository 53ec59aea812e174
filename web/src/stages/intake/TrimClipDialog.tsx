'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Slider from '@mui/material/Slider';
import { useState } from 'react';
import { callOf, count, type Clip } from '@itchkit/core/document';
import { trimClip } from '@itchkit/core/motion';
import { NumberField } from '../../card/NumberField';
import { useRun } from '../../session/context';
import { MarksThatGo } from './MarksThatGo';

/** Cuts a clip to the frames between two ends. */
export function TrimClipDialog({ clip, onClose }: { clip: Clip; onClose: () => void }) {
  const run = useRun();
  const frames = Math.round(clip.lengthSeconds * clip.rate);
  const [[from, to], setRange] = useState<[number, number]>([0, frames]);
  const change = (next: [number, number]) =>
    setRange([Math.max(0, Math.min(next[0], next[1] - 1)), Math.min(frames, Math.max(next[1], next[0] + 1))]);
  const seconds = (frame: number) => Math.min(clip.lengthSeconds, frame / clip.rate);
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>Trim “{clip.name}”</DialogTitle>
      <DialogContent>
        <Box sx={{ px: 2 }}>
          <Slider
            value={[from, to]}
            min={0}
            max={frames}
            onChange={(_, value) => change(value as [number, number])}
            getAriaLabel={(i) => (i === 0 ? 'First frame' : 'Last frame')}
            valueLabelDisplay="auto"
          />
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, mt: 2 }}>
          <NumberField
            label="First frame"
            value={from}
            min={0}
            max={to - 1}
            digits={0}
            onCommit={(value) => change([Math.round(value), to])}
            hint={`${seconds(from).toFixed(3)} s`}
          />
          <NumberField
            label="Last frame"
            value={to}
            min={from + 1}
            max={frames}
            digits={0}
            onCommit={(value) => change([from, Math.round(value)])}
            hint={`${seconds(to).toFixed(3)} s`}
          />
        </Box>
        <MarksThatGo clip={clip} pieces={[{ from: seconds(from), to: seconds(to) }]} />
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={from === 0 && to === frames}
          onClick={() => run(callOf(trimClip, { clip: clip.id, from: seconds(from), to: seconds(to) })) && onClose()}
        >
          Trim to {count(to - from, 'frame')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
