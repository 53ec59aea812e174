'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { callOf, type Axis, type Call, type Kit, type Part, type Vec3 } from '@itchkit/core/document';
import { restBounds, restWorlds, sizeOf } from '@itchkit/core/geometry';
import { repeatAlongLine, repeatOnRing } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { VectorField } from '../../card/VectorField';
import { Fold, useCloseFold } from '../../panels/Fold';
import { useKit, useOpenKit, useRun } from '../../session/context';
import { useProposal } from './use-proposal';

const AXES: [Axis, string][] = [
  [1, 'the upright axis'],
  [0, 'the side axis'],
  [2, 'the forward axis'],
];

interface Plan {
  way: 'line' | 'ring';
  copies: number;
  step: Vec3;
  axis: Axis;
  centre: 'origin' | 'pivot' | 'parent';
  degrees: number;
  ownMeshes: boolean;
}

/** Copies of the chosen parts along a line or on a ring, shown on the bench before they are made. */
export function RepeatSection({ parts }: { parts: Part[] }) {
  return (
    <Fold title="Repeat" passing>
      <Repeat parts={parts} />
    </Fold>
  );
}

function Repeat({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const close = useCloseFold();
  const ids = parts.map((part) => part.id);
  // Copies that stand beside one another with a tenth of a gap are seen at once.
  const [plan, setPlan] = useState<Plan>(() => ({
    way: 'line',
    copies: 3,
    step: [Number((1.1 * sizeOf(restBounds(kit, session.blobs, ids))[0] || 1).toFixed(3)), 0, 0],
    axis: 1,
    centre: 'parent',
    degrees: 90,
    ownMeshes: false,
  }));
  const call = callFor(kit, parts, plan);
  useProposal(call);
  const set = (fields: Partial<Plan>) => setPlan({ ...plan, ...fields });
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 90px', gap: 2 }}>
        <Choice
          label="Way"
          value={plan.way}
          options={[
            ['line', 'along a line'],
            ['ring', 'on a ring'],
          ]}
          onChange={(way) => set({ way })}
        />
        <NumberField
          label="Copies"
          value={plan.copies}
          step={1}
          min={1}
          max={500}
          digits={0}
          onCommit={(copies) => set({ copies: Math.round(copies) })}
        />
      </Box>
      {plan.way === 'line' ? (
        <VectorField title="Step" value={plan.step} unit="m" step={0.1} onCommit={(step) => set({ step })} />
      ) : (
        <>
          <Choice label="About" value={plan.axis} options={AXES} onChange={(axis) => set({ axis })} />
          <Choice
            label="Through"
            value={plan.centre}
            options={[
              ['parent', 'the pivot of what carries it'],
              ['pivot', 'its own pivot'],
              ['origin', 'the origin'],
            ]}
            onChange={(centre) => set({ centre })}
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 2, alignItems: 'start' }}>
            <NumberField label="From one to the next" value={plan.degrees} unit="°" step={5} onCommit={(degrees) => set({ degrees })} />
            <Button onClick={() => set({ degrees: Number((360 / (plan.copies + 1)).toFixed(4)) })}>Full ring</Button>
          </Box>
        </>
      )}
      <FormControlLabel
        control={<Checkbox size="small" checked={plan.ownMeshes} onChange={(event) => set({ ownMeshes: event.target.checked })} />}
        label="Each with a shape of its own"
      />
      <Button variant="contained" onClick={() => run(call) && close()}>
        Make {plan.copies} {plan.copies === 1 ? 'copy' : 'copies'}
      </Button>
    </>
  );
}

function callFor(kit: Kit, parts: Part[], { way, copies, step, axis, centre, degrees, ownMeshes }: Plan): Call {
  const ids = parts.map((part) => part.id);
  if (way === 'line') return callOf(repeatAlongLine, { parts: ids, copies, step, ownMeshes });
  return callOf(repeatOnRing, { parts: ids, copies, axis, degrees, ownMeshes, centre: centreOf(kit, parts[0], centre) });
}

function centreOf(kit: Kit, part: Part, centre: Plan['centre']): Vec3 {
  const id = { pivot: part.id, parent: part.parent, origin: null }[centre];
  const world = id === null ? null : restWorlds(kit).get(id);
  return world ? [world[12], world[13], world[14]] : [0, 0, 0];
}
