'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useState } from 'react';
import { callOf, clipsInOrder, type Clip, type Id, type Kit } from '@itchkit/core/document';
import { keepClips } from '@itchkit/core/motion';
import { Section } from '../../panels/Section';
import { useKit, useRun } from '../../session/context';
import { ArrivalClip } from './ArrivalClip';
import { SplitClipDialog } from './SplitClipDialog';
import { TrimClipDialog } from './TrimClipDialog';

/** Tracks that found no part, by the clip that they were in; said while reading. */
function lostTracks(kit: Kit, clip: Clip): string[] {
  return (kit.source?.notes ?? [])
    .filter((note) => note.code.startsWith('track-') && note.message.includes(`“${clip.name}”`))
    .map((note) => note.message);
}

/** The clips that came with the file: which are kept, how they loop, what they move; one long one is split into several. */
export function ArrivalClips() {
  const kit = useKit();
  const run = useRun();
  const clips = clipsInOrder(kit);
  const [dropped, setDropped] = useState<ReadonlySet<Id>>(new Set());
  const [split, setSplit] = useState<Id | null>(null);
  const [trim, setTrim] = useState<Id | null>(null);
  if (clips.length === 0) return null;
  const kept = clips.filter((clip) => !dropped.has(clip.id));
  const mark = (id: Id) =>
    setDropped((before) => (before.has(id) ? new Set([...before].filter((one) => one !== id)) : new Set([...before, id])));
  const apply = () => run(callOf(keepClips, { clips: kept.map((clip) => clip.id) })) && setDropped(new Set());
  return (
    <Section
      title="Clips"
      aside={
        kept.length < clips.length && (
          <Button size="small" variant="contained" disabled={kept.length === 0} onClick={apply}>
            Keep {kept.length} of {clips.length}
          </Button>
        )
      }
    >
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }} aria-label="Clips of the file">
        {clips.map((clip) => (
          <Box
            component="li"
            key={clip.id}
            sx={{ display: 'flex', alignItems: 'flex-start', ml: -2, borderBottom: 1, borderColor: 'divider', py: 0.5 }}
          >
            <Checkbox
              size="small"
              checked={!dropped.has(clip.id)}
              onChange={() => mark(clip.id)}
              slotProps={{ input: { 'aria-label': `Keep ${clip.name}` } }}
              sx={{ p: 1 }}
            />
            <ArrivalClip clip={clip} lost={lostTracks(kit, clip)} onSplit={() => setSplit(clip.id)} onTrim={() => setTrim(clip.id)} />
          </Box>
        ))}
      </Box>
      {split !== null && kit.clips[split] && <SplitClipDialog clip={kit.clips[split]} onClose={() => setSplit(null)} />}
      {trim !== null && kit.clips[trim] && <TrimClipDialog clip={kit.clips[trim]} onClose={() => setTrim(null)} />}
    </Section>
  );
}
