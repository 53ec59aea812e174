'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { callOf, repeatAlongLine, repeatOnRing, restBounds, restWorlds, sizeOf, type Axis, type Call, type Kit, type Part, type Vec3 } from '@itchkit/core';
import { NumberField } from '../../card/NumberField';
import { VectorField } from '../../card/VectorField';
import { Section } from '../../frame/Section';
import { useKit, useOpenKit, useRun, useSetUi } from '../../session/context';

const AXES: { axis: Axis; title: string }[] = [
  { axis: 1, title: 'the upright axis' },
  { axis: 0, title: 'the side axis' },
  { axis: 2, title: 'the forward axis' },
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
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const ids = parts.map((part) => part.id);
  const chosen = ids.join();
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
  const [open, setOpen] = useState(false);
  const call = callFor(kit, parts, plan);

  useEffect(() => {
    setUi({
      proposal: open
        ? callFor(
            kit,
            chosen.split(',').flatMap((id) => kit.parts[id] ?? []),
            plan,
          )
        : null,
    });
    return () => setUi({ proposal: null });
  }, [open, plan, kit, chosen, setUi]);

  if (!open)
    return (
      <Section title="Repeat">
        <Button variant="outlined" onClick={() => setOpen(true)}>
          Along a line or on a ring
        </Button>
      </Section>
    );
  const set = (fields: Partial<Plan>) => setPlan({ ...plan, ...fields });
  return (
    <Section title="Repeat" aside={<span style={{ fontSize: 12 }}>shown on the bench</span>}>
      <Box sx={{ display: 'grid', gap: 2 }}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 90px', gap: 2 }}>
          <TextField select size="small" label="Way" value={plan.way} onChange={(event) => set({ way: event.target.value as Plan['way'] })}>
            <MenuItem value="line">along a line</MenuItem>
            <MenuItem value="ring">on a ring</MenuItem>
          </TextField>
          <NumberField label="Copies" value={plan.copies} step={1} min={1} max={500} digits={0} onCommit={(copies) => set({ copies: Math.round(copies) })} />
        </Box>
        {plan.way === 'line' ? (
          <VectorField title="Step" value={plan.step} unit="m" step={0.1} onCommit={(step) => set({ step })} />
        ) : (
          <>
            <TextField select size="small" label="About" value={plan.axis} onChange={(event) => set({ axis: Number(event.target.value) as Axis })}>
              {AXES.map(({ axis, title }) => (
                <MenuItem key={axis} value={axis}>
                  {title}
                </MenuItem>
              ))}
            </TextField>
            <TextField select size="small" label="Through" value={plan.centre} onChange={(event) => set({ centre: event.target.value as Plan['centre'] })}>
              <MenuItem value="parent">the pivot of what carries it</MenuItem>
              <MenuItem value="pivot">its own pivot</MenuItem>
              <MenuItem value="origin">the origin</MenuItem>
            </TextField>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 2, alignItems: 'start' }}>
              <NumberField label="From one to the next" value={plan.degrees} unit="°" step={5} onCommit={(degrees) => set({ degrees })} />
              <Button onClick={() => set({ degrees: Number((360 / (plan.copies + 1)).toFixed(4)) })}>Full ring</Button>
            </Box>
          </>
        )}
        <FormControlLabel control={<Checkbox size="small" checked={plan.ownMeshes} onChange={(event) => set({ ownMeshes: event.target.checked })} />} label="Each with a shape of its own" />
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button
            variant="contained"
            onClick={() => {
              setUi({ proposal: null });
              if (run(call)) setOpen(false);
            }}
          >
            Make {plan.copies} {plan.copies === 1 ? 'copy' : 'copies'}
          </Button>
          <Button onClick={() => setOpen(false)}>Leave it</Button>
        </Box>
      </Box>
    </Section>
  );
}

function callFor(kit: Kit, parts: Part[], { way, copies, step, axis, centre, degrees, ownMeshes }: Plan): Call {
  const ids = parts.map((part) => part.id);
  if (way === 'line') return callOf(repeatAlongLine, { parts: ids, copies, step, ownMeshes });
  return callOf(repeatOnRing, { parts: ids, copies, axis, degrees, ownMeshes, centre: centreOf(kit, parts[0], centre) });
}

function centreOf(kit: Kit, part: Part, centre: Plan['centre']): Vec3 {
  const id = centre === 'pivot' ? part.id : centre === 'parent' ? part.parent : null;
  const world = id === null ? null : restWorlds(kit).get(id);
  return world ? [world[12], world[13], world[14]] : [0, 0, 0];
}
