'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useEffect, useState } from 'react';
import { callOf, count, LOOP_MODES, type Clip, type LoopMode } from '@itchkit/core/document';
import { setClip } from '@itchkit/core/motion';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { endPreview, startPreview } from '../../strip/playing';

interface Props {
  clip: Clip;
  /** Sentences on tracks that found no part. */
  lost: string[];
  onSplit: () => void;
  onTrim: () => void;
}

/** One clip of the file: it plays on the bench while the pointer or the keyboard rests on it. */
export function ArrivalClip({ clip, lost, onSplit, onTrim }: Props) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const [open, setOpen] = useState(false);
  useEffect(() => () => endPreview(ui), [ui]);
  const parts = [...new Set(clip.tracks.map((track) => track.part))];
  const listen = {
    onMouseEnter: () => startPreview(ui, clip.id),
    onMouseLeave: () => endPreview(ui),
    onFocus: () => startPreview(ui, clip.id),
    onBlur: () => endPreview(ui),
  };
  return (
    <Box sx={{ flex: 1, minWidth: 0 }} {...listen}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Button
          color="inherit"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          sx={{
            flex: 1,
            minWidth: 0,
            justifyContent: 'flex-start',
            textAlign: 'left',
            overflowWrap: 'anywhere',
            fontWeight: 500,
            px: 1,
            py: 0.25,
          }}
        >
          {clip.name}
        </Button>
        <span className="figures">{Number(clip.lengthSeconds.toFixed(2))} s</span>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, pl: 1, fontSize: 12, color: 'text.secondary' }}>
        <Box component="span" sx={{ flex: 1 }}>
          {count(clip.tracks.length, 'track')}, {parts.length === 0 ? 'no part found' : count(parts.length, 'part')}
          {lost.length > 0 && (
            <Box component="span" sx={{ color: 'kit.warn' }}>
              , {lost.length} lost
            </Box>
          )}
        </Box>
        <Select
          size="small"
          variant="standard"
          value={clip.loop}
          onChange={(event) => run(callOf(setClip, { clip: clip.id, loop: event.target.value as LoopMode }))}
          inputProps={{ 'aria-label': `Loop mode of ${clip.name}` }}
          sx={{ fontSize: 12 }}
        >
          {LOOP_MODES.map((mode) => (
            <MenuItem key={mode} value={mode}>
              {mode}
            </MenuItem>
          ))}
        </Select>
        <Button
          size="small"
          color="inherit"
          sx={{ minWidth: 0, px: 1, py: 0, fontSize: 12 }}
          aria-label={`Trim ${clip.name}`}
          onClick={onTrim}
        >
          Trim
        </Button>
        <Button
          size="small"
          color="inherit"
          sx={{ minWidth: 0, px: 1, py: 0, fontSize: 12 }}
          aria-label={`Split ${clip.name}`}
          onClick={onSplit}
        >
          Split
        </Button>
      </Box>
      {open && (
        <Box sx={{ pl: 1, py: 0.5, fontSize: 12, lineHeight: 1.6 }}>
          Moves {parts.length === 0 ? 'nothing' : parts.map((id) => kit.parts[id]?.name).join(', ')}.
          {lost.map((line) => (
            <Box key={line} sx={{ color: 'kit.warn' }}>
              {line}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
