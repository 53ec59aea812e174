'use client';
import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import { useEffect, useState } from 'react';
import type { Axis, Part, Vec3 } from '@itchkit/core/document';
import { OwnAxisChoice } from '../../card/OwnAxisChoice';
import { Fold } from '../../panels/Fold';
import { useSetUi, useUi } from '../../session/context';
import { useHingeLimits } from './use-hinge-limits';

/** Swings a part about one of its own axes, to see how its hinge lies. Nothing is kept: it stands at rest again when it is let go. */
export function HingeSection({ part }: { part: Part }) {
  return (
    <Fold title="Try the hinge">
      <Swing key={part.id} part={part} />
    </Fold>
  );
}

function Swing({ part }: { part: Part }) {
  const setUi = useSetUi();
  const laid = useUi((state) => state.shape.hinge);
  const [axis, setAxis] = useState<Axis>(laid?.part === part.id ? laid.axis : 1);
  const { min, max, why } = useHingeLimits(part, axis);
  const degrees = useUi((state) => (state.held?.part === part.id ? state.held.delta.turn[axis] : 0));
  useEffect(() => {
    setUi({ swing: { part: part.id, axis } });
    return () => setUi({ swing: null, held: null });
  }, [setUi, part.id, axis]);
  const swing = (value: number) => {
    const turn = [0, 1, 2].map((i) => (i === axis ? value : 0)) as Vec3;
    setUi({ held: value === 0 ? null : { part: part.id, delta: { offset: [0, 0, 0], turn, size: [1, 1, 1] } } });
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 52px', gap: 2, alignItems: 'center' }}>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <OwnAxisChoice part={part.id} value={axis} onChange={setAxis} />
      </Box>
      <Slider
        aria-label="Swing"
        size="small"
        min={min}
        max={max}
        marks={min < 0 && max > 0 ? [{ value: 0 }] : false}
        value={degrees}
        onChange={(_, value) => swing(value as number)}
        onChangeCommitted={(event) => event.type !== 'keyup' && event.type !== 'keydown' && swing(0)}
        onBlur={() => swing(0)}
      />
      <span className="figures">{degrees.toFixed(0)}°</span>
      <Box sx={{ gridColumn: '1 / -1', fontSize: 12.5, color: 'text.secondary' }}>
        It swings from {min}° to {max}°: {why}. Or drag “{part.name}” on the bench. Let go, and it stands at rest again.
      </Box>
    </Box>
  );
}
