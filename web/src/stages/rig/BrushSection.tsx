'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { Id } from '@itchkit/core/document';
import { BRUSH_MODES, type BrushMode } from '@itchkit/core/rig';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { Fold } from '../../panels/Fold';
import { useKit, useSetSlice, useUi } from '../../session/context';

const WORDS: Record<BrushMode, string> = { add: 'add', take: 'take away', smooth: 'smooth', set: 'set to the strength' };

/** The brush: how large, how strong, what it does. */
export function BrushSection({ joint }: { joint: Id | null }) {
  const kit = useKit();
  const setRig = useSetSlice('rig');
  const brush = useUi((state) => state.rig.brush);
  const set = (fields: Partial<typeof brush>) => setRig({ brush: { ...brush, ...fields } });
  return (
    <Fold title="Brush" aside={brush.on ? 'on' : undefined}>
      <FormControlLabel
        control={<Checkbox size="small" checked={brush.on} onChange={(event) => set({ on: event.target.checked })} />}
        label={joint ? `Brush “${kit.parts[joint].name}” on the bench` : 'Choose a joint first'}
        disabled={joint === null}
      />
      <Choice
        label="The brush shall"
        value={brush.mode}
        options={BRUSH_MODES.map((mode) => [mode, WORDS[mode]] as const)}
        onChange={(mode) => set({ mode })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <NumberField
          label="Radius"
          unit="m"
          value={brush.radius}
          min={0.001}
          max={10}
          step={0.01}
          digits={3}
          onCommit={(radius) => set({ radius })}
        />
        <NumberField
          label="Strength"
          value={brush.strength}
          min={0.01}
          max={1}
          step={0.05}
          digits={2}
          onCommit={(strength) => set({ strength })}
        />
      </Box>
      <FormControlLabel
        control={<Checkbox size="small" checked={brush.through} onChange={(event) => set({ through: event.target.checked })} />}
        label="Through to the other side"
      />
    </Fold>
  );
}
