'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { callOf, count, EASINGS, moveKeys, removeKeys, setEasing, setKeys, type Clip, type Easing, type Key, type KeyTrack } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { Section } from '../../frame/Section';
import { useRun, useSetUi, useUi } from '../../session/context';
import { EasingSign } from '../../strip/EasingSign';

const UNIT = { offset: 'm', turn: '°', size: '×' } as const;
const STEP = { offset: 0.01, turn: 1, size: 0.01 } as const;

/** The keys chosen on the strip: easing, and for one key its time and value. */
export function KeysSection({ clip }: { clip: Clip }) {
  const run = useRun();
  const setUi = useSetUi();
  const refs = useUi((state) => state.keys);
  const chosen = refs.flatMap((ref): { track: KeyTrack; key: Key }[] => {
    const track = clip.tracks.find((one): one is KeyTrack => one.kind === 'keys' && one.id === ref.track);
    const key = track?.keys.find((one) => Math.abs(one.time - ref.time) < 1e-6);
    return track && key ? [{ track, key }] : [];
  });
  if (chosen.length === 0) return null;
  const easing = chosen.every(({ key }) => key.easing === chosen[0].key.easing) ? chosen[0].key.easing : null;
  const [{ track, key }] = chosen;
  const keys = chosen.map((one) => ({ track: one.track.id, time: one.key.time }));
  return (
    <Section
      title={chosen.length === 1 ? 'Key' : count(chosen.length, 'key')}
      aside={
        <Button
          color="inherit"
          sx={{ fontSize: 12, py: 0, fontWeight: 500 }}
          onClick={() => {
            if (run(callOf(removeKeys, { clip: clip.id, keys }))) setUi({ keys: [] });
          }}
        >
          Delete
        </Button>
      }
    >
      {chosen.length === 1 && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, my: 2 }}>
          <NumberField
            label="Time"
            unit="s"
            step={1 / clip.rate}
            min={0}
            max={clip.lengthSeconds}
            value={key.time}
            onCommit={(time) => {
              if (run(callOf(moveKeys, { clip: clip.id, keys, bySeconds: time - key.time }))) setUi({ keys: [{ track: track.id, time: Number(time.toFixed(9)) }] });
            }}
          />
          <NumberField
            label="Value"
            unit={UNIT[track.property]}
            step={STEP[track.property]}
            value={key.value}
            onCommit={(value) => run(callOf(setKeys, { clip: clip.id, time: key.time, easing: key.easing, values: [{ part: track.part, property: track.property, axis: track.axis, value }] }))}
          />
        </Box>
      )}
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={easing}
        aria-label="How it moves on to the next key"
        onChange={(_, next: Easing | null) => next && run(callOf(setEasing, { clip: clip.id, keys, easing: next }))}
      >
        {EASINGS.map((one) => (
          <ToggleButton key={one} value={one} sx={{ textTransform: 'none', fontSize: 12, display: 'grid', gap: 0.25, py: 0.5, color: 'text.primary' }}>
            <EasingSign easing={one} />
            {one}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Section>
  );
}
