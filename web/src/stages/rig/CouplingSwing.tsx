'use client';
import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import type { Coupling } from '@itchkit/core/document';
import { useSetSlice, useUi } from '../../session/context';

/** Degrees and metres that are tried where a coupling has no limits. */
const FREE = { hinge: 180, slider: 1 };

/** Moves a hinge or a slide to try it. Nothing of it is kept. */
export function CouplingSwing({ coupling }: { coupling: Coupling }) {
  const setRig = useSetSlice('rig');
  const values = useUi((state) => state.rig.values);
  const value = (values[coupling.id] as number | undefined) ?? 0;
  const free = coupling.kind === 'hinge' ? FREE.hinge : FREE.slider;
  const [min, max] = [coupling.min ?? -free, coupling.max ?? free];
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 64px', gap: 2, alignItems: 'center', pl: 1 }}>
      <Slider
        size="small"
        aria-label={`Try ${coupling.name}`}
        min={min}
        max={max}
        step={(max - min) / 100 || 1}
        value={value}
        onChange={(_, next) => setRig({ values: { ...values, [coupling.id]: next as number } })}
      />
      <span className="figures">{coupling.kind === 'hinge' ? `${value.toFixed(0)}°` : `${(1000 * value).toFixed(0)} mm`}</span>
    </Box>
  );
}
