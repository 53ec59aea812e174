'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  callOf,
  count,
  EASING_FAMILIES,
  EASING_WAYS,
  type Clip,
  type Easing,
  type EasingFamily,
  type EasingWay,
} from '@itchkit/core/document';
import { moveKeys, removeKeys, setEasing, setKeys } from '@itchkit/core/motion';
import { NumberField } from '../../card/NumberField';
import { useTrying } from '../../card/TryButton';
import { Section } from '../../panels/Section';
import { useRun, useUi } from '../../session/context';
import { keysOf } from '../../strip/chosen-keys';
import { EasingSign } from '../../strip/EasingSign';
import { PROPERTY } from '../../strip/track-words';
import { snapStep } from '../../strip/snap-time';

const PLAIN: [Easing, string][] = [
  ['hold', 'hold'],
  ['straight', 'straight'],
  ['curve', 'smooth'],
];

const look = { textTransform: 'none', fontSize: 12, display: 'grid', gap: 0.25, py: 0.5, color: 'text.primary' } as const;

/** The keys chosen on the strip: easing, and for one key its time and value. */
export function KeysSection({ clip }: { clip: Clip }) {
  const run = useRun();
  const refs = useUi((state) => state.keys);
  const snap = useUi((state) => state.strip.snap);
  const { trying, begin, stop } = useTrying();
  const chosen = keysOf(clip, refs);
  if (chosen.length === 0) return null;
  const [{ track, key }] = chosen;
  const same = chosen.every((one) => one.key.easing === key.easing) ? key.easing : null;
  const easing = same === 'bounce' ? 'bounce-out' : same;
  const [family, way] = (easing?.split('-') ?? []) as [EasingFamily?, EasingWay?];
  const keys = chosen.map((one) => ({ track: one.track.id, time: one.key.time }));
  const easingCall = (next: Easing) => callOf(setEasing, { clip: clip.id, keys, easing: next });
  const ease = (next: Easing | null) => {
    stop();
    if (next) run(easingCall(next));
  };
  const { unit, step } = PROPERTY[track.property];
  const valueCall = (value: number) =>
    callOf(setKeys, {
      clip: clip.id,
      time: key.time,
      easing: key.easing,
      values: [{ part: track.part, property: track.property, axis: track.axis, value }],
    });
  return (
    <Section
      title={chosen.length === 1 ? 'Key' : count(chosen.length, 'key')}
      aside={
        <Button
          color="inherit"
          sx={{ fontSize: 12, py: 0, fontWeight: 500 }}
          onClick={() => run(callOf(removeKeys, { clip: clip.id, keys }))}
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
            step={snapStep(clip, snap)}
            min={0}
            max={clip.lengthSeconds}
            value={key.time}
            onCommit={(time) => run(callOf(moveKeys, { clip: clip.id, keys, bySeconds: time - key.time }))}
          />
          <NumberField
            label="Value"
            unit={unit}
            step={step}
            value={key.value}
            onDraft={(value) => (value === null ? stop() : begin(() => valueCall(value)))}
            onCommit={(value) => {
              stop();
              run(valueCall(value));
            }}
          />
        </Box>
      )}
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={easing}
        aria-label="How it moves on to the next key"
        onChange={(_, next: Easing | null) => ease(next)}
      >
        {PLAIN.map(([one, title]) => (
          <ToggleButton key={one} value={one} sx={look} {...trying(() => easingCall(one))}>
            <EasingSign easing={one} />
            {title}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mt: 1.5, mb: 0.5 }}>Eased</Box>
      <Box
        role="group"
        aria-label="Eased by family"
        sx={{ display: 'grid', gridTemplateColumns: 'auto repeat(3, 1fr)', gap: 0.5, alignItems: 'center', fontSize: 12 }}
      >
        <span />
        {EASING_WAYS.map((one) => (
          <Box key={one} component="span" sx={{ textAlign: 'center', color: 'text.secondary' }}>
            {one}
          </Box>
        ))}
        {EASING_FAMILIES.map((one) => (
          <Box key={one} sx={{ display: 'contents' }}>
            <span>{one}</span>
            {EASING_WAYS.map((side) => {
              const made: Easing = `${one}-${side}`;
              return (
                <ToggleButton
                  key={side}
                  value={made}
                  size="small"
                  selected={family === one && way === side}
                  aria-label={`Ease ${made.replace('-', ' ')}`}
                  onChange={() => ease(made)}
                  sx={{ p: 0.25, color: 'text.primary' }}
                  {...trying(() => easingCall(made))}
                >
                  <EasingSign easing={made} />
                </ToggleButton>
              );
            })}
          </Box>
        ))}
      </Box>
    </Section>
  );
}
