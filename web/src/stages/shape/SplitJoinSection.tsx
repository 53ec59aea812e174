'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { callOf, freeName, newId, type Axis, type Part, type Vec3 } from '@itchkit/core/document';
import { loosePieces, meshPlaces, ownBounds } from '@itchkit/core/geometry';
import { joinParts, splitByMaterial, splitByPlane, splitLoose } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { TryButton } from '../../card/TryButton';
import { NumberField } from '../../card/NumberField';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRun, useSetUi } from '../../session/context';
import { SplitChoiceFields, useSplitChoice } from './SplitChoiceFields';
import { useProposal } from './use-proposal';

/** Splits the chosen part by loose pieces, by material, along a plane; joins several. */
export function SplitJoinSection({ parts }: { parts: Part[] }) {
  return <Fold title={parts.length > 1 ? 'Join' : 'Split'}>{parts.length > 1 ? <Join parts={parts} /> : <Split part={parts[0]} />}</Fold>;
}

function Join({ parts }: { parts: Part[] }) {
  const setUi = useSetUi();
  const [into, setInto] = useState(parts[0].id);
  const kept = parts.find((part) => part.id === into) ?? parts[0];
  return (
    <>
      <Choice label="Name and pivot of" value={kept.id} options={parts.map((part) => [part.id, part.name] as const)} onChange={setInto} />
      <TryButton
        calls={() => callOf(joinParts, { into: kept.id, parts: parts.map((part) => part.id) })}
        onDone={() => setUi({ selection: [kept.id] })}
      >
        Join {parts.length} parts into “{kept.name}”
      </TryButton>
    </>
  );
}

function Split({ part }: { part: Part }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const [choice, setChoice] = useSplitChoice();
  const mesh = part.mesh === null ? null : kit.meshes[part.mesh];
  const pieces = useMemo(() => (mesh ? loosePieces(meshPlaces(mesh, session.blobs)).pieces : 0), [mesh, session]);
  if (!mesh) return <Box sx={{ fontSize: 13, color: 'text.secondary' }}>“{part.name}” has no mesh.</Box>;
  const materials = new Set(mesh.primitives.map((primitive) => primitive.material)).size;
  return (
    <>
      <SplitChoiceFields choice={choice} onChange={setChoice} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <TryButton disabled={pieces < 2} calls={() => callOf(splitLoose, { part: part.id, ...choice })}>
          {pieces} loose {pieces === 1 ? 'piece' : 'pieces'}
        </TryButton>
        <TryButton disabled={materials < 2} calls={() => callOf(splitByMaterial, { part: part.id, ...choice })}>
          {materials} {materials === 1 ? 'material' : 'materials'}
        </TryButton>
      </Box>
      <PlaneCut part={part} />
    </>
  );
}

/** A cut across one of the part's own axes, shown before it is made. */
function PlaneCut({ part }: { part: Part }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const run = useRun();
  const [axis, setAxis] = useState<Axis>(1);
  const [open, setOpen] = useState(false);
  const bounds = ownBounds(kit, session.blobs, part);
  const middle = (which: Axis) => Number(((bounds.min[which] + bounds.max[which]) / 2).toFixed(4));
  const [at, setAt] = useState(() => middle(1));
  const vector = (value: number) => [0, 1, 2].map((i) => (i === axis ? value : 0)) as Vec3;
  const name = freeName(`${part.name}_half`, new Set(Object.values(kit.parts).map((one) => one.name)));
  const call = callOf(splitByPlane, { part: part.id, at: vector(at), normal: vector(1), id: 'cut', name, place: 'below', pivot: 'keep' });
  useProposal(open ? call : null);
  if (!open)
    return (
      <Button variant="outlined" onClick={() => setOpen(true)}>
        Along a plane …
      </Button>
    );
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <Choice
          label="Across its own"
          value={axis}
          options={[
            [0, 'x axis'],
            [1, 'y axis'],
            [2, 'z axis'],
          ]}
          onChange={(next) => {
            setAxis(next);
            setAt(middle(next));
          }}
        />
        <NumberField
          label="At"
          unit="m"
          value={at}
          step={0.01}
          hint={`${bounds.min[axis].toFixed(3)} to ${bounds.max[axis].toFixed(3)}`}
          onCommit={setAt}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button
          variant="contained"
          onClick={() => {
            if (run({ ...call, args: { ...(call.args as object), id: newId() } })) setOpen(false);
          }}
        >
          Cut there
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </Box>
    </Box>
  );
}
