'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { callOf, type Id } from '@itchkit/core/document';
import { jointsInOrder, placingJoints, setWeights, skinTask, SOLVE_DEFAULTS, weightsArgs } from '@itchkit/core/rig';
import { NumberField } from '../../card/NumberField';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetUi, useUi } from '../../session/context';
import { JobProgress } from './JobProgress';
import { useRigJob } from './use-rig-job';

/** Weights by the way through the body from each joint, worked out beside the interface. */
export function SolveSection() {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const setUi = useSetUi();
  const selection = useUi((state) => state.selection);
  const symmetric = useUi((state) => state.rig.symmetric);
  const { enqueueSnackbar } = useSnackbar();
  const { share, start, cancel } = useRigJob();
  const joints = jointsInOrder(kit);
  const [options, setOptions] = useState({
    resolution: SOLVE_DEFAULTS.resolution,
    falloff: SOLVE_DEFAULTS.falloff,
    smoothing: SOLVE_DEFAULTS.smoothing,
  });
  const [switched, setSwitched] = useState<Record<Id, boolean>>({});
  const placing = placingJoints(kit, joints);
  const isOn = (id: Id) => switched[id] ?? !placing.has(id);
  const shown = Object.values(kit.parts).filter((part) => part.mesh !== null);
  const picked = shown.filter((part) => selection.includes(part.id));
  const parts = (picked.length > 0 ? picked : shown).map((part) => part.id);
  const set = (fields: Partial<typeof options>) => setOptions({ ...options, ...fields });
  const solve = () =>
    start(async (job, told) => {
      const task = skinTask(kit, parts, session.blobs, joints, new Set(joints.filter((id) => !isOn(id))));
      const solved = await job.solve(task, { ...options, mirrored: symmetric }, told);
      if (!run(callOf(setWeights, weightsArgs(task, solved, session.blobs, 'Solve the weights')))) return;
      const first = selection.find((id) => joints.includes(id)) ?? joints.find(isOn);
      if (first) setUi({ selection: [first] });
      if (solved.outside.length > 0)
        enqueueSnackbar(
          `${solved.outside.map((j) => kit.parts[task.joints[j]].name).join(', ')} ${solved.outside.length === 1 ? 'stands' : 'stand'} outside of the body, and hold from the nearest place in it.`,
          { variant: 'warning' },
        );
    });
  return (
    <Fold title="Solve" opens={Object.keys(kit.skins).length === 0}>
      <Box sx={{ fontSize: 12.5, lineHeight: 1.45, color: 'text.secondary' }}>
        The body is filled with small cubes, voxels, as many along its longest side as Resolution says, and each joint’s hold goes through
        them. Falloff is how fast it lets go on the way: higher is sharper. Smoothing evens it out over neighbours.
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.5 }}>
        <NumberField
          label="Resolution"
          value={options.resolution}
          min={8}
          max={192}
          step={8}
          digits={0}
          hint="voxels"
          onCommit={(resolution) => set({ resolution: Math.round(resolution) })}
        />
        <NumberField
          label="Falloff"
          value={options.falloff}
          min={1}
          max={8}
          step={0.5}
          digits={2}
          hint="2 soft, 4 sharp"
          onCommit={(falloff) => set({ falloff })}
        />
        <NumberField
          label="Smoothing"
          value={options.smoothing}
          min={0}
          max={50}
          step={1}
          digits={0}
          hint="rounds"
          onCommit={(smoothing) => set({ smoothing: Math.round(smoothing) })}
        />
      </Box>
      <Box component="details" sx={{ fontSize: 13 }}>
        <summary>
          {joints.filter(isOn).length} of {joints.length} joints hold
        </summary>
        <Box sx={{ maxHeight: 180, overflow: 'auto', mt: 1 }}>
          {joints.map((id) => (
            <FormControlLabel
              key={id}
              sx={{ display: 'flex', '& span': { py: 0.25, fontSize: 13 } }}
              control={
                <Checkbox size="small" checked={isOn(id)} onChange={(event) => setSwitched({ ...switched, [id]: event.target.checked })} />
              }
              label={kit.parts[id].name}
            />
          ))}
        </Box>
      </Box>
      {share !== null ? (
        <JobProgress label="Solving" share={share} onCancel={cancel} />
      ) : (
        <Button variant="contained" disabled={parts.length === 0} onClick={() => void solve()}>
          Solve the weights of {parts.length === 1 ? `“${kit.parts[parts[0]].name}”` : `${parts.length} parts`}
        </Button>
      )}
    </Fold>
  );
}
