'use client';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import { useEffect } from 'react';
import { clipsInOrder } from '@itchkit/core';
import { Empty, Section } from '../../frame/Section';
import { useKit, useSetUi, useUi } from '../../session/context';

export function ClipList() {
  const kit = useKit();
  const setUi = useSetUi();
  const chosen = useUi((state) => state.clip);
  const clips = clipsInOrder(kit);
  const first = clips[0]?.id ?? null;
  const known = chosen !== null && kit.clips[chosen] !== undefined;
  // A clip that went away (deleted, undone) leaves the first one in view.
  useEffect(() => {
    if (!known && first !== chosen) setUi({ clip: first, time: 0, playing: false, keys: [] });
  }, [known, first, chosen, setUi]);
  return (
    <Section title="Clips">
      {clips.length === 0 ? (
        <Empty>No clips yet. Add clip makes the first one.</Empty>
      ) : (
        <List component="div" role="group" dense disablePadding aria-label="Clips" sx={{ mx: -3 }}>
          {clips.map((clip) => (
            <ListItemButton key={clip.id} selected={clip.id === chosen} onClick={() => setUi({ clip: clip.id, time: 0, playing: false, keys: [] })} sx={{ px: 3, py: 0.25 }}>
              <ListItemText primary={clip.name} slotProps={{ primary: { sx: { fontSize: 13 } } }} />
              <span className="figures">
                {Number(clip.lengthSeconds.toFixed(2))} s {clip.loop}
              </span>
            </ListItemButton>
          ))}
        </List>
      )}
    </Section>
  );
}
