'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { callOf, jointsOf, newId, partsInOrder, type Id, type Vec3 } from '@itchkit/core/document';
import { addJoints, jointsFromPins, pinsMoved, SKELETON_TEMPLATES, surfaceOf } from '@itchkit/core/rig';
import { sidedJointName } from '@itchkit/core/rulebook';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRulebook, useRun, useSetSlice, useSetUi, useUi } from '../../session/context';
import { JobProgress } from './JobProgress';
import { JointsFromFileDialog } from './JointsFromFileDialog';
import { useRigJob } from './use-rig-job';

/** A template's joints proposed for the body: pins on the bench, dragged until they sit, then made. */
export function FitSection() {
  const kit = useKit();
  const { session, ui } = useOpenKit();
  const rulebook = useRulebook();
  const run = useRun();
  const setRig = useSetSlice('rig');
  const setUi = useSetUi();
  const rig = useUi((state) => state.rig);
  const selection = useUi((state) => state.selection);
  const { share, start, cancel } = useRigJob();
  const wanted = rulebook?.skeleton?.length === 20 ? 'body-20' : 'body-15';
  const [template, setTemplate] = useState(wanted);
  const [links, setLinks] = useState(6);
  const [fromFile, setFromFile] = useState(false);
  const chain = template === 'chain';
  const parts = bodyParts(kit, selection);
  const fit = () =>
    start(async (job) => {
      const { positions, indices } = surfaceOf(kit, parts, session.blobs);
      const name = chain ? `chain-${links}` : template;
      const found = await job.fit(positions, indices, name, rig.symmetric);
      setRig({ fit: { template: name, fit: found, moved: {}, mirrored: rig.symmetric && found.pins.some((pin) => pin.side !== null) } });
    });
  const make = () => {
    if (!rig.fit) return;
    const pins = pinsMoved(rig.fit.fit.pins, rig.fit.moved, rig.fit.mirrored);
    const ids = new Map(pins.map((pin) => [pin.key, newId()]));
    const under = rootOf(kit);
    const joints = jointsFromPins(
      pins,
      (name, side) => sidedJointName(name, side, rulebook?.naming.sides),
      (key) => ids.get(key)!,
      under,
    );
    if (run(callOf(addJoints, { joints }))) setRig({ fit: null });
  };
  const look = (from: Vec3) => setUi({ frameRequest: { parts: [], nonce: ui.getState().frameRequest.nonce + 1, from } });
  const pins = rig.fit?.fit.pins.length ?? 0;
  const outside = rig.fit?.fit.pins.filter((pin) => !pin.inside).length ?? 0;
  return (
    <Fold title="Fit a skeleton" aside={jointsOf(kit).size === 0 ? 'no joints yet' : undefined} opens={jointsOf(kit).size === 0}>
      <Choice
        label="Template"
        value={template}
        options={[...SKELETON_TEMPLATES.map(({ id, title }) => [id, title] as const), ['chain', 'Chain of …']]}
        onChange={setTemplate}
        help={SKELETON_TEMPLATES.find(({ id }) => id === template)?.about}
      />
      {chain && (
        <NumberField label="Joints" value={links} min={2} max={60} step={1} digits={0} onCommit={(value) => setLinks(Math.round(value))} />
      )}
      {share !== null ? (
        <JobProgress label="Looking for tips and middle lines" share={share} onCancel={cancel} />
      ) : (
        <Buttons>
          <Button variant={rig.fit ? 'outlined' : 'contained'} disabled={parts.length === 0} onClick={() => void fit()}>
            {rig.fit ? 'Fit again' : 'Fit to the body'}
          </Button>
          {rig.fit && (
            <>
              <Button variant="contained" onClick={make}>
                Make {pins} joints
              </Button>
              <Button onClick={() => setRig({ fit: null })}>Leave it</Button>
            </>
          )}
        </Buttons>
      )}
      <Box>
        <Button onClick={() => setFromFile(true)}>Joints from a file …</Button>
      </Box>
      {fromFile && <JointsFromFileDialog onClose={() => setFromFile(false)} />}
      {rig.fit && (
        <Buttons>
          <Button size="small" variant="outlined" onClick={() => look([0, 0, 1])}>
            From the front
          </Button>
          <Button size="small" variant="outlined" onClick={() => look([1, 0, 0])}>
            From the side
          </Button>
        </Buttons>
      )}
      {rig.fit && (
        <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          Drag any pin on the bench; its untouched neighbours follow, and it keeps to the middle of the body (Alt: free).
          {outside > 0 && ` ${outside} ${outside === 1 ? 'pin stands' : 'pins stand'} outside of it.`}
        </Box>
      )}
    </Fold>
  );
}

/** The chosen parts that have a mesh, or all. */
function bodyParts(kit: ReturnType<typeof useKit>, selection: readonly Id[]): Id[] {
  const shown = Object.values(kit.parts).filter((part) => part.mesh !== null && !part.hidden);
  const chosen = shown.filter((part) => selection.includes(part.id));
  return (chosen.length > 0 ? chosen : shown).map((part) => part.id);
}

/** The one part at the top, which joints hang from; null where there are several. */
function rootOf(kit: ReturnType<typeof useKit>): Id | null {
  const tops = partsInOrder(kit).filter((part) => part.parent === null);
  return tops.length === 1 ? tops[0].id : null;
}
