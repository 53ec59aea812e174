'use client';
import { callOf, KEY_PROPERTIES, keyValueAt, setKeys, type Axis, type Clip, type KeyProperty, type Part, type Vec3 } from '@itchkit/core';
import { VectorField } from '../../card/VectorField';
import { Section } from '../../frame/Section';
import { useKit, useOpenKit, useRun, useUi } from '../../session/context';
import { whereInClip } from '../../strip/playing';

const WORDS: Record<KeyProperty, { title: string; unit: string; step: number }> = {
  offset: { title: 'Offset', unit: 'm', step: 0.01 },
  turn: { title: 'Turn', unit: '°', step: 1 },
  size: { title: 'Size', unit: '×', step: 0.01 },
};

/** Where a part is in the clip now, relative to rest. A typed value writes a key. */
export function PartMotion({ clip, part }: { clip: Clip; part: Part }) {
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  // While it plays the numbers would flicker by; they are shown again when it stops.
  const time = useUi((state) => (state.playing ? null : state.time));
  const at = whereInClip(session, ui)?.time ?? 0;
  return (
    <Section title={part.name} aside={<span style={{ fontSize: 12 }}>{time === null ? 'playing' : `keys at ${at.toFixed(2)} s`}</span>}>
      {KEY_PROPERTIES.map((property) => {
        const value = [0, 1, 2].map((axis) => Number(keyValueAt(kit, clip.id, part.id, property, axis as Axis, at).toFixed(5))) as Vec3;
        const { title, unit, step } = WORDS[property];
        return (
          <VectorField
            key={property}
            title={title}
            unit={unit}
            step={step}
            digits={5}
            disabled={time === null}
            value={value}
            onCommit={(next) => {
              const axes = ([0, 1, 2] as Axis[]).filter((axis) => next[axis] !== value[axis]);
              run(callOf(setKeys, { clip: clip.id, time: at, values: axes.map((axis) => ({ part: part.id, property, axis, value: next[axis] })) }));
            }}
          />
        );
      })}
    </Section>
  );
}
