'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import { useEffect, useMemo } from 'react';
import { callOf, clipsInOrder, newId, type Clip } from '@itchkit/core/document';
import { addClip, libraryMotionFor, putMotion, rolesOf } from '@itchkit/core/motion';
import { Empty, Section } from '../../panels/Section';
import { rulebookOf } from '../../rulebooks';
import { useKit, useRulebook, useRun, useSetUi, useUi } from '../../session/context';
import { usedBy } from './used-by';

/** The kit's clips by group, and those that the target would play its own of. */
export function ClipList() {
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const setUi = useSetUi();
  const chosen = useUi((state) => state.clip);
  const clips = clipsInOrder(kit);
  const roles = useMemo(() => rolesOf(kit), [kit]);
  const targets = kit.targets.flatMap((target) => rulebookOf(target) ?? []);
  const first = clips.find(({ overlay }) => !overlay)?.id ?? clips[0]?.id ?? null;
  // The empty name is none, by choice.
  const lost = chosen !== null && chosen !== '' && kit.clips[chosen] === undefined;
  // A clip that went away (deleted, undone) leaves the first one in view; so does coming here with none open.
  useEffect(() => {
    if (lost || (chosen === null && first !== null)) setUi({ clip: first, time: 0, playing: false, keys: [] });
  }, [lost, first, chosen, setUi]);
  const missing = (rulebook?.motion?.clips ?? []).filter((slot) => !clips.some(({ name }) => name === slot.name));
  const named = new Set(clips.flatMap(({ group }) => group ?? []));
  const groups = clips.some(({ group }) => !group) ? ['', ...named] : [...named];
  const rate = rulebook?.motion?.rate ?? 30;
  const make = (name: string, loop: Clip['loop'] | null) => {
    const motion = libraryMotionFor(name, roles);
    const clip = newId();
    const made = motion
      ? run(callOf(putMotion, { motion: motion.id, clip, name, rate, inPlace: true }))
      : run(callOf(addClip, { id: clip, name, lengthSeconds: 1, rate, loop: loop ?? 'loop' }));
    if (made) setUi({ clip, time: 0, playing: false, keys: [] });
  };
  return (
    <Section
      title="Clips"
      aside={
        chosen !== null &&
        chosen !== '' && (
          <Button
            color="inherit"
            sx={{ fontSize: 12, py: 0, fontWeight: 500 }}
            onClick={() => setUi({ clip: '', time: 0, playing: false, keys: [], held: null })}
            title="The bench shows rest"
          >
            Show rest
          </Button>
        )
      }
    >
      {clips.length === 0 && <Empty>No clips yet. Add clip makes the first one.</Empty>}
      {groups.map((group) => (
        <Box key={group}>
          {group !== '' && <Box sx={{ fontSize: 12, color: 'text.secondary', mt: 1 }}>{group}</Box>}
          <List component="div" role="group" dense disablePadding aria-label={group === '' ? 'Clips' : `Clips of ${group}`} sx={{ mx: -3 }}>
            {clips
              .filter((clip) => (clip.group ?? '') === group)
              .map((clip) => (
                <ListItemButton
                  key={clip.id}
                  selected={clip.id === chosen}
                  onClick={() => setUi({ clip: clip.id, time: 0, playing: false, keys: [] })}
                  sx={{ px: 3, py: 0.25, gap: 1 }}
                >
                  <ListItemText
                    primary={clip.name}
                    secondary={usedBy(kit, clip, targets).join('; ') || undefined}
                    slotProps={{ primary: { sx: { fontSize: 13 } }, secondary: { sx: { fontSize: 11.5 } } }}
                  />
                  <span className="figures">
                    {Number(clip.lengthSeconds.toFixed(2))} s {clip.loop}
                  </span>
                </ListItemButton>
              ))}
          </List>
        </Box>
      ))}
      {missing.map((slot) => (
        <Box
          key={slot.name}
          sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 12.5, color: 'text.secondary', py: 0.25 }}
          title={slot.about}
        >
          <Box component="span" sx={{ flex: 1 }}>
            {slot.name}: {slot.needed ? 'asked for, and missing' : 'the platform’s own is played'}
          </Box>
          <Button
            size="small"
            sx={{ fontSize: 12, py: 0 }}
            onClick={() => make(slot.name, slot.loop)}
            title={
              libraryMotionFor(slot.name, roles)
                ? 'Put on from the library, fitted to this skeleton'
                : 'A clip of a second, empty until it has keys'
            }
          >
            {libraryMotionFor(slot.name, roles) ? 'Put it on' : 'Make it'}
          </Button>
        </Box>
      ))}
    </Section>
  );
}
