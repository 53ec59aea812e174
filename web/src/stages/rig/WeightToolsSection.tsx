'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { callOf, type Id } from '@itchkit/core/document';
import { runsOf } from '@itchkit/core/geometry';
import {
  copyWeights,
  fillWeights,
  holdRigid,
  letGoOfSkin,
  limitInfluences,
  mirrorWeights,
  normaliseWeights,
  pruneWeights,
  smoothWeights,
} from '@itchkit/core/rig';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useSetSlice, useSetUi, useUi } from '../../session/context';

/** What can be done to weights as a whole: of the chosen parts, or of all that joints hold. */
export function WeightToolsSection({ joint, skinned }: { joint: Id | null; skinned: Id[] }) {
  const kit = useKit();
  const setUi = useSetUi();
  const setRig = useSetSlice('rig');
  const selection = useUi((state) => state.selection);
  const faces = useUi((state) => state.faces);
  const picking = useUi((state) => state.pickMode === 'faces');
  const locked = useUi((state) => state.rig.locked);
  const brush = useUi((state) => state.rig.brush);
  const [rounds, setRounds] = useState(2);
  const [below, setBelow] = useState(0.05);
  const [most, setMost] = useState(4);
  const [from, setFrom] = useState('');
  const picked = selection.filter((id) => kit.parts[id]?.mesh);
  const parts = picked.length > 0 ? picked : skinned;
  const meshes = Object.values(kit.parts).filter((part) => part.mesh !== null);
  const [target, setTarget] = useState('');
  const rigid = kit.parts[target] ? [target] : picked;
  const held = joint === null ? '' : `“${kit.parts[joint].name}”`;
  return (
    <>
      <Fold title="Hold by one joint">
        <Choice
          label="Part"
          value={rigid[0] ?? ''}
          options={[['', 'choose a part'], ...meshes.map(({ id, name }) => [id, name] as const)]}
          onChange={setTarget}
        />
        <Buttons>
          <TryButton
            disabled={joint === null || rigid.length === 0}
            calls={() => (joint ? callOf(holdRigid, { parts: rigid, joint }) : null)}
          >
            All of it by {held || 'a joint'}
          </TryButton>
          <Button
            variant="outlined"
            aria-pressed={picking}
            onClick={() => {
              setRig({ brush: { ...brush, on: false } });
              setUi({ pickMode: picking ? 'parts' : 'faces', faces: null });
            }}
          >
            {picking ? 'Done picking' : 'Pick faces'}
          </Button>
          {faces && faces.chosen.size > 0 && (
            <TryButton
              variant="contained"
              disabled={joint === null}
              calls={() => (joint ? callOf(holdRigid, { parts: [faces.part], joint, faces: runsOf(faces.chosen) }) : null)}
              onDone={() => setUi({ faces: null, pickMode: 'parts', selection: joint ? [joint] : [] })}
            >
              {faces.chosen.size.toLocaleString('en')} faces by {held || 'a joint'}
            </TryButton>
          )}
        </Buttons>
      </Fold>
      {skinned.length > 0 && (
        <Fold title="Tools for weights">
          <Box sx={{ display: 'grid', gridTemplateColumns: '92px 1fr', gap: 1.5, alignItems: 'start' }}>
            <NumberField
              label="Rounds"
              value={rounds}
              min={1}
              max={100}
              step={1}
              digits={0}
              onCommit={(value) => setRounds(Math.round(value))}
            />
            <TryButton calls={() => callOf(smoothWeights, { parts, rounds, locked })}>Smooth</TryButton>
            <NumberField label="Below" value={below} min={0} max={1} step={0.01} digits={3} onCommit={setBelow} />
            <TryButton calls={() => callOf(pruneWeights, { parts, below })}>Prune weak holds</TryButton>
            <NumberField label="Joints" value={most} min={1} max={4} step={1} digits={0} onCommit={(value) => setMost(Math.round(value))} />
            <TryButton calls={() => callOf(limitInfluences, { parts, most })}>Keep the strongest</TryButton>
          </Box>
          <Buttons>
            <TryButton calls={() => callOf(mirrorWeights, { parts, from: 'left' })}>Left to right</TryButton>
            <TryButton calls={() => callOf(mirrorWeights, { parts, from: 'right' })}>Right to left</TryButton>
            <TryButton calls={() => callOf(normaliseWeights, { parts })}>Make them add up</TryButton>
            <TryButton calls={() => callOf(fillWeights, { parts })}>Fill loose vertices</TryButton>
            <TryButton calls={() => callOf(letGoOfSkin, { parts })}>Take off the joints</TryButton>
          </Buttons>
          {meshes.length > 1 && (
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1.5, alignItems: 'start' }}>
              <Choice
                label="Copy from"
                value={from}
                options={[['', 'a skinned part'], ...skinned.map((id) => [id, kit.parts[id].name] as const)]}
                onChange={setFrom}
              />
              <TryButton
                disabled={from === '' || picked.filter((id) => id !== from).length === 0}
                title="To the chosen parts, by the nearest surface"
                calls={() => callOf(copyWeights, { from: [from], to: picked.filter((id) => id !== from) })}
              >
                Copy
              </TryButton>
            </Box>
          )}
        </Fold>
      )}
    </>
  );
}
