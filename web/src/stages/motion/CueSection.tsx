'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Close from '@mui/icons-material/Close';
import { useState } from 'react';
import { callOf, FLAG_COLOURS, newId, type Clip, type Cue, type CueKind, type Flag } from '@itchkit/core/document';
import { removeCues, removeFlags, setCue, setFlag } from '@itchkit/core/motion';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetSlice, useSetUi, useUi } from '../../session/context';
import { whereInClip } from '../../strip/playing';
import { EFFECTS } from './cue-effects';
import { hear, SOUNDS } from './sounds';
import { snapStep } from '../../strip/snap-time';

const KINDS: [CueKind, string][] = [
  ['sound', 'a sound'],
  ['effect', 'an effect'],
  ['message', 'a message'],
];
const COLOURS: Record<Flag['colour'], string> = { sea: 'blue', signal: 'orange', good: 'green', note: 'slate' };

const namesOf = (kind: CueKind): string[] => ({ sound: SOUNDS, effect: EFFECTS, message: [] })[kind].map(({ name }) => name);

/** What the clip says at a time, and named times on its ruler. */
export function CueSection({ clip }: { clip: Clip }) {
  const kit = useKit();
  const run = useRun();
  const setUi = useSetUi();
  const setMotion = useSetSlice('motion');
  const { session, ui } = useOpenKit();
  const on = useUi((state) => state.motion.cues);
  const snap = useUi((state) => state.strip.snap);
  const selection = useUi((state) => state.selection).filter((id) => kit.parts[id]);
  const [kind, setKind] = useState<CueKind>('sound');
  const [name, setName] = useState<string>(SOUNDS[0].name);
  const [flag, setFlagName] = useState('');
  const [colour, setColour] = useState<Flag['colour']>('sea');
  const time = () => whereInClip(session, ui)?.time ?? 0;
  const { cues = [], flags = [] } = clip;
  const choose = (next: CueKind) => {
    setKind(next);
    setName(namesOf(next)[0] ?? '');
  };
  const change = (cue: Cue, fields: Partial<Cue>) => run(callOf(setCue, { clip: clip.id, cue: { ...cue, ...fields } }));
  const names = namesOf(kind);
  return (
    <Fold title="Cues and flags" aside={cues.length + flags.length || undefined}>
      <Choice label="At this time" value={kind} options={KINDS} onChange={choose} />
      {kind === 'message' ? (
        <TextField
          size="small"
          label="Message"
          value={name}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
      ) : (
        <Choice
          label={kind === 'sound' ? 'Sound' : 'Effect'}
          value={name}
          options={names.map((one) => [one, one] as const)}
          onChange={setName}
        />
      )}
      <Buttons>
        <Button
          variant="contained"
          disabled={name.trim() === ''}
          onClick={() =>
            run(
              callOf(setCue, {
                clip: clip.id,
                cue: { id: newId(), time: time(), kind, name: name.trim(), part: selection.length === 1 ? selection[0] : null },
              }),
            )
          }
        >
          Set the cue{selection.length === 1 ? ` at “${kit.parts[selection[0]].name}”` : ''}
        </Button>
        {kind === 'sound' && (
          <Button variant="outlined" onClick={() => hear(name)}>
            Hear it
          </Button>
        )}
        <Button variant="outlined" onClick={() => setMotion({ cues: !on })}>
          {on ? 'Play silently' : 'Play with cues'}
        </Button>
      </Buttons>
      {cues.map((cue) => (
        <Box key={cue.id} sx={{ display: 'grid', gridTemplateColumns: '1fr 84px auto', gap: 1, alignItems: 'center', fontSize: 12.5 }}>
          <Box
            component="button"
            onClick={() => setUi({ time: cue.time, playing: false })}
            sx={{
              font: 'inherit',
              textAlign: 'left',
              border: 0,
              p: 0,
              bgcolor: 'transparent',
              color: 'text.primary',
              cursor: 'pointer',
              overflowWrap: 'anywhere',
            }}
          >
            {cue.kind} “{cue.name}”{cue.part !== null && ` at ${kit.parts[cue.part]?.name}`}
          </Box>
          <NumberField
            label={`Time of ${cue.kind} ${cue.name}`}
            caption="at"
            unit="s"
            step={snapStep(clip, snap)}
            min={0}
            max={clip.lengthSeconds}
            value={cue.time}
            onCommit={(next) => change(cue, { time: next })}
          />
          <IconButton
            size="small"
            aria-label={`Take out ${cue.kind} ${cue.name}`}
            onClick={() => run(callOf(removeCues, { clip: clip.id, cues: [cue.id] }))}
          >
            <Close sx={{ fontSize: 15 }} />
          </IconButton>
        </Box>
      ))}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 96px', gap: 1, pt: 1 }}>
        <TextField
          size="small"
          label="Flag"
          value={flag}
          onChange={(event) => setFlagName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 80, 'aria-label': 'Name of the flag' } }}
        />
        <Choice label="Colour" value={colour} options={FLAG_COLOURS.map((one) => [one, COLOURS[one]] as const)} onChange={setColour} />
      </Box>
      <Buttons>
        <Button
          variant="outlined"
          disabled={flag.trim() === ''}
          onClick={() => {
            if (run(callOf(setFlag, { clip: clip.id, flag: { id: newId(), time: time(), name: flag.trim(), colour } }))) setFlagName('');
          }}
        >
          Set the flag here
        </Button>
      </Buttons>
      {flags.map((one) => (
        <Box key={one.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 12.5 }}>
          <Box sx={{ flex: 1, borderLeft: 3, borderColor: `kit.${one.colour}`, pl: 1 }}>{one.name}</Box>
          <span className="figures">{one.time.toFixed(2)} s</span>
          <IconButton
            size="small"
            aria-label={`Take out flag ${one.name}`}
            onClick={() => run(callOf(removeFlags, { clip: clip.id, flags: [one.id] }))}
          >
            <Close sx={{ fontSize: 15 }} />
          </IconButton>
        </Box>
      ))}
    </Fold>
  );
}
