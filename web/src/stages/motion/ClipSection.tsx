'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { callOf, freeName, LOOP_MODES, newId, clipsInOrder, type Clip, type LoopMode, type Overlay } from '@itchkit/core/document';
import { addRestClip, duplicateClip, joinClips, placeClip, removeClip, setClip, setGroup, setOverlay } from '@itchkit/core/motion';
import { Choice } from '../../card/Choice';
import { useDraft } from '../../card/use-draft';
import { NumberField } from '../../card/NumberField';
import { useTrying } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { Section } from '../../panels/Section';
import { rulebookOf } from '../../rulebooks';
import { useKit, useRulebook, useRun, useUi } from '../../session/context';
import { SplitClipDialog } from '../intake/SplitClipDialog';
import { TrimClipDialog } from '../intake/TrimClipDialog';
import { usedBy } from './used-by';

const LOOP_WORDS: Record<LoopMode, string> = { once: 'once, then rest', loop: 'loop', 'ping-pong': 'ping-pong', hold: 'hold at the end' };

export function ClipSection({ clip }: { clip: Clip }) {
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const { trying, stop } = useTrying();
  const [dialog, setDialog] = useState<'split' | 'trim' | null>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const clips = clipsInOrder(kit);
  const others = clips.filter(({ id }) => id !== clip.id);
  const taken = new Set(clips.map((one) => one.name));
  const { field, taken: isTaken } = useDraft(clip.name, {
    take: (text) => text.trim() !== '' && run(callOf(setClip, { clip: clip.id, name: text.trim() })),
  });
  const duplicate = () => {
    run(callOf(duplicateClip, { clip: clip.id, id: newId(), name: freeName(clip.name, taken) }));
  };
  const rest = () => {
    const { rest: wanted, rate } = rulebook?.motion ?? {};
    run(callOf(addRestClip, { name: wanted ?? freeName('rest', taken), rate: rate ?? clip.rate }));
  };
  const join = (other: Clip) => callOf(joinClips, { clip: clip.id, others: [other.id] });
  const uses = usedBy(
    kit,
    clip,
    kit.targets.flatMap((target) => rulebookOf(target) ?? []),
  );
  const place = clips.findIndex(({ id }) => id === clip.id);
  const still = clips[0]?.tracks.length === 0 && clips[0].name === (rulebook?.motion?.rest ?? 'rest');
  return (
    <>
      <Section
        title="Clip"
        aside={
          <Button color="inherit" sx={{ fontSize: 12, py: 0, fontWeight: 500 }} onClick={() => run(callOf(removeClip, { clip: clip.id }))}>
            Delete clip
          </Button>
        }
      >
        <Box sx={{ display: 'grid', gap: 3, mt: 1 }}>
          <TextField label="Clip name" {...field} slotProps={{ htmlInput: { ...isTaken, list: 'clip-names' } }} />
          <datalist id="clip-names">
            {(rulebook?.motion?.clips ?? [])
              .filter((slot) => !taken.has(slot.name))
              .map((slot) => (
                <option key={slot.name} value={slot.name}>
                  {slot.about}
                </option>
              ))}
          </datalist>
          {uses.length > 0 && <Box sx={{ fontSize: 12, color: 'text.secondary', mt: -2 }}>Used: {uses.join('; ')}.</Box>}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <NumberField
              label="Length"
              unit="s"
              step={1 / clip.rate}
              min={1 / 240}
              max={3600}
              value={clip.lengthSeconds}
              onCommit={(lengthSeconds) => run(callOf(setClip, { clip: clip.id, lengthSeconds }))}
              hint={`${Math.round(clip.lengthSeconds * clip.rate)} frames`}
            />
            <NumberField
              label="Rate"
              unit="fps"
              step={1}
              min={1}
              max={240}
              value={clip.rate}
              onCommit={(rate) => run(callOf(setClip, { clip: clip.id, rate }))}
              hint="1 to 240"
            />
          </Box>
          <TextField
            select
            label="Loop mode"
            value={clip.loop}
            onChange={(event) => run(callOf(setClip, { clip: clip.id, loop: event.target.value as LoopMode }))}
          >
            {LOOP_MODES.map((loop) => (
              <MenuItem key={loop} value={loop}>
                {LOOP_WORDS[loop]}
              </MenuItem>
            ))}
          </TextField>
          <Buttons>
            <Button size="small" variant="outlined" onClick={duplicate}>
              Duplicate
            </Button>
            <Button size="small" variant="outlined" onClick={() => setDialog('trim')}>
              Trim …
            </Button>
            <Button size="small" variant="outlined" onClick={() => setDialog('split')}>
              Split …
            </Button>
            <Button size="small" variant="outlined" disabled={others.length === 0} onClick={(event) => setAnchor(event.currentTarget)}>
              Join …
            </Button>
            <Button
              size="small"
              variant="outlined"
              disabled={place <= 0}
              onClick={() => run(callOf(placeClip, { clip: clip.id, place: place - 1 }))}
            >
              Up
            </Button>
            <Button
              size="small"
              variant="outlined"
              disabled={place >= clips.length - 1}
              onClick={() => run(callOf(placeClip, { clip: clip.id, place: place + 1 }))}
            >
              Down
            </Button>
            {!still && (
              <Button size="small" variant="outlined" onClick={rest} title="A clip of one frame that moves nothing, in front of all others">
                Rest clip first
              </Button>
            )}
          </Buttons>
        </Box>
        <Menu
          anchorEl={anchor}
          open={anchor !== null}
          onClose={() => {
            stop();
            setAnchor(null);
          }}
        >
          {others.map((other) => (
            <MenuItem
              key={other.id}
              {...trying(() => join(other))}
              onClick={() => {
                stop();
                setAnchor(null);
                run(join(other));
              }}
            >
              “{other.name}” behind it
            </MenuItem>
          ))}
        </Menu>
        {dialog === 'split' && <SplitClipDialog clip={clip} onClose={() => setDialog(null)} />}
        {dialog === 'trim' && <TrimClipDialog clip={clip} onClose={() => setDialog(null)} />}
      </Section>
      <GroupAndOverlay clip={clip} />
    </>
  );
}

const PLACES: [Overlay['place'], string][] = [
  ['over', 'over the others'],
  ['under', 'under the others'],
];
const MODES: [Overlay['mode'], string][] = [
  ['add', 'comes to what they do'],
  ['replace', 'takes its place'],
];

/** The list that a clip belongs to, and whether it always runs along. */
function GroupAndOverlay({ clip }: { clip: Clip }) {
  const kit = useKit();
  const run = useRun();
  const { trying, stop } = useTrying();
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const { overlay } = clip;
  const set = (next: Overlay | null) => {
    stop();
    run(callOf(setOverlay, { clip: clip.id, overlay: next }));
  };
  const { field, taken } = useDraft(clip.group ?? '', {
    take: (text) => run(callOf(setGroup, { clips: [clip.id], group: text.trim() })),
  });
  return (
    <Fold title="Group and overlay" aside={overlay ? 'overlay' : clip.group}>
      <TextField label="Group" {...field} slotProps={{ htmlInput: { ...taken, list: 'clip-groups', maxLength: 120 } }} />
      <datalist id="clip-groups">
        {[...new Set(Object.values(kit.clips).flatMap((one) => one.group ?? []))].map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      {overlay ? (
        <>
          <Choice label="It runs" value={overlay.place} options={PLACES} onChange={(place) => set({ ...overlay, place })} />
          <Choice label="What it does" value={overlay.mode} options={MODES} onChange={(mode) => set({ ...overlay, mode })} />
          <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
            {overlay.parts === null
              ? 'It moves whatever it has tracks for.'
              : `It moves ${overlay.parts.map((id) => kit.parts[id]?.name).join(', ') || 'nothing'} alone.`}
          </Box>
          <Buttons>
            <Button variant="outlined" disabled={selection.length === 0} onClick={() => set({ ...overlay, parts: selection })}>
              Only the chosen parts
            </Button>
            {overlay.parts !== null && (
              <Button variant="outlined" onClick={() => set({ ...overlay, parts: null })}>
                All its parts
              </Button>
            )}
            <Button variant="outlined" {...trying(() => callOf(setOverlay, { clip: clip.id, overlay: null }))} onClick={() => set(null)}>
              An ordinary clip again
            </Button>
          </Buttons>
        </>
      ) : (
        <Button variant="outlined" onClick={() => set({ place: 'over', mode: 'add', parts: null })}>
          Let it always run along
        </Button>
      )}
    </Fold>
  );
}
