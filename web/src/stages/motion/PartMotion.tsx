'use client';
import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import { callOf, type Axis, type Clip, type Part, type Vec3 } from '@itchkit/core/document';
import { keyValueAt, setKeys } from '@itchkit/core/motion';
import { isPlayed } from '@itchkit/core/rulebook';
import { NumberField } from '../../card/NumberField';
import { useTrying } from '../../card/TryButton';
import { VectorField } from '../../card/VectorField';
import { Section } from '../../panels/Section';
import { useKit, useOpenKit, useRulebook, useRun, useSetSlice, useUi } from '../../session/context';
import { whereInClip } from '../../strip/playing';
import { PROPERTY } from '../../strip/track-words';

/** Where a part is in the clip now, relative to rest. A typed value writes a key. */
export function PartMotion({ clip, part }: { clip: Clip; part: Part }) {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const rulebook = useRulebook();
  const setStrip = useSetSlice('strip');
  const { begin, stop } = useTrying();
  const locked = useUi((state) => state.strip.locked);
  // While it plays the numbers would flicker by; they are shown again when it stops.
  const time = useUi((state) => (state.playing ? null : state.time));
  const at = whereInClip(session, ui)?.time ?? 0;
  const targets = part.mesh === null ? [] : (kit.meshes[part.mesh].targets ?? []);
  const keying = (property: 'offset' | 'turn' | 'size', value: Vec3, next: Vec3) => {
    const axes = ([0, 1, 2] as Axis[]).filter((axis) => next[axis] !== value[axis]);
    return axes.length === 0
      ? null
      : callOf(setKeys, { clip: clip.id, time: at, values: axes.map((axis) => ({ part: part.id, property, axis, value: next[axis] })) });
  };
  return (
    <Section title={part.name} aside={<span style={{ fontSize: 12 }}>{time === null ? 'playing' : `keys at ${at.toFixed(2)} s`}</span>}>
      <Box
        role="group"
        aria-label="Locked axes"
        sx={{ display: 'flex', gap: 0.5, alignItems: 'center', fontSize: 12, color: 'text.secondary', mb: 2 }}
      >
        <Box sx={{ flex: 1 }}>Locked on the bench</Box>
        {([0, 1, 2] as Axis[]).map((axis) => (
          <ToggleButton
            key={axis}
            value={axis}
            size="small"
            selected={locked.includes(axis)}
            aria-label={`Lock ${'xyz'[axis]}`}
            onChange={() => setStrip({ locked: locked.includes(axis) ? locked.filter((one) => one !== axis) : [...locked, axis] })}
            sx={{ p: 0, width: 26, height: 22, textTransform: 'none', fontSize: 12, color: 'text.primary' }}
          >
            {'xyz'[axis]}
          </ToggleButton>
        ))}
      </Box>
      {(['offset', 'turn', 'size'] as const).map((property) => {
        const value = [0, 1, 2].map((axis) => Number(keyValueAt(kit, clip.id, part.id, property, axis, at).toFixed(5))) as Vec3;
        const { title, unit, step } = PROPERTY[property];
        return (
          <VectorField
            key={property}
            title={title}
            note={rulebook && !isPlayed(rulebook, property) ? `not played by ${rulebook.title}` : undefined}
            unit={unit}
            step={step}
            digits={5}
            disabled={time === null}
            value={value}
            onDraft={(next) => (next === null ? stop() : begin(() => keying(property, value, next)))}
            takesSame
            lock={property === 'size' ? 'size-lock' : undefined}
            onCommit={(next, axes) => {
              stop();
              run(
                callOf(setKeys, {
                  clip: clip.id,
                  time: at,
                  values: axes.map((axis) => ({ part: part.id, property, axis, value: next[axis] })),
                }),
              );
            }}
          />
        );
      })}
      {targets.map((target, axis) => (
        <Box key={axis} sx={{ mb: 2 }}>
          <NumberField
            label={`Morph ${target.name}`}
            step={0.05}
            disabled={time === null}
            value={Number(
              (clip.tracks.some((track) => track.property === 'weight' && track.part === part.id && 'axis' in track && track.axis === axis)
                ? keyValueAt(kit, clip.id, part.id, 'weight', axis, at)
                : target.weight
              ).toFixed(5),
            )}
            onCommit={(value) =>
              run(callOf(setKeys, { clip: clip.id, time: at, values: [{ part: part.id, property: 'weight', axis, value }] }))
            }
          />
        </Box>
      ))}
    </Section>
  );
}
