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
import { callOf, count, KitError, type Clip } from '@itchkit/core/document';
import { parseRanges, splitClip, type ClipRange } from '@itchkit/core/motion';
import { wrongOf, type Wrong } from '../../panels/code-editor-props';
import { TextEditor } from '../../panels/TextEditor';
import { useRun } from '../../session/context';
import { MarksThatGo } from './MarksThatGo';
import { Toggles } from '../../panels/Toggles';

type Unit = 'frames' | 'seconds';

/** Splits a long clip by what a person pastes, and shows the pieces on a line as it is typed. */
export function SplitClipDialog({ clip, onClose }: { clip: Clip; onClose: () => void }) {
  const run = useRun();
  const [text, setText] = useState('');
  const [unit, setUnit] = useState<Unit>('frames');
  const [keep, setKeep] = useState(false);
  const { ranges, failure } = useMemo(() => parse(text, clip, unit), [text, clip, unit]);
  const frames = Math.round(clip.lengthSeconds * clip.rate);
  const load = async (file: File | undefined) => file && setText(await file.text());
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Split “{clip.name}”</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 3, fontSize: 13.5, lineHeight: 1.5 }}>
          It is {frames} frames long ({Number(clip.lengthSeconds.toFixed(2))} s). Paste a table with name, from, to and loop, one clip a
          line; or numbered names such as furl01…furl24, wave01… that share out the frames.
        </Box>
        <TextEditor
          label="Ranges"
          language="table"
          rows={[5, 12]}
          focused
          text={text}
          wrong={failure}
          says={ranges.length > 0 ? count(ranges.length, 'clip') : undefined}
          hint="furl, 0, 23, once"
          onChange={setText}
        />
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, my: 2 }}>
          <Toggles
            label="Unit of from and to"
            value={unit}
            options={[
              ['frames', 'Frames'],
              ['seconds', 'Seconds'],
            ]}
            onChange={setUnit}
          />
          <Button component="label" color="inherit">
            From a CSV file
            <input type="file" accept=".csv,.txt,text/csv,text/plain" hidden onChange={(event) => void load(event.target.files?.[0])} />
          </Button>
          <FormControlLabel
            control={<Checkbox size="small" checked={keep} onChange={(_, on) => setKeep(on)} />}
            label="Keep the long clip too"
          />
        </Box>
        <RangeLine clip={clip} ranges={ranges} />
        {!keep && ranges.length > 0 && <MarksThatGo clip={clip} pieces={ranges} />}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={ranges.length === 0}
          onClick={() => run(callOf(splitClip, { clip: clip.id, ranges, keep })) && onClose()}
        >
          Split into {ranges.length}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function parse(text: string, clip: Clip, unit: Unit): { ranges: ClipRange[]; failure: Wrong | null } {
  try {
    return { ranges: parseRanges(text, clip, unit), failure: null };
  } catch (error) {
    if (!(error instanceof KitError)) throw error;
    return { ranges: [], failure: wrongOf(text, error) };
  }
}

/** The pieces along the clip, each in a row of its own so that overlaps and gaps are seen. */
function RangeLine({ clip, ranges }: { clip: Clip; ranges: ClipRange[] }) {
  const share = (time: number) => `${(100 * time) / clip.lengthSeconds}%`;
  return (
    <Box
      sx={{
        position: 'relative',
        height: 18 * Math.max(1, Math.min(8, ranges.length)),
        bgcolor: 'kit.paper',
        borderRadius: 1,
        overflow: 'hidden',
      }}
      role="img"
      aria-label={`${ranges.length} pieces along the clip`}
    >
      {ranges.slice(0, 8).map((range, row) => (
        <Box
          key={row}
          sx={{
            position: 'absolute',
            top: 18 * row + 1,
            height: 16,
            left: share(range.from),
            width: share(Math.max(range.to - range.from, 0.4 / clip.rate)),
            minWidth: 3,
            bgcolor: 'kit.sea',
            color: 'kit.sheet',
            borderRadius: 0.5,
            px: 1,
            fontSize: 11,
            lineHeight: '16px',
            whiteSpace: 'nowrap',
          }}
        >
          {range.name}
        </Box>
      ))}
    </Box>
  );
}
