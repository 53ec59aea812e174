'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { callOf, freeName, subtreeOf, type Axis, type Id, type Part } from '@itchkit/core/document';
import { restWorlds } from '@itchkit/core/geometry';
import { mirrorParts } from '@itchkit/core/shape';
import { twinName } from '@itchkit/core/rulebook';
import { Choice } from '../../card/Choice';
import { NumberField } from '../../card/NumberField';
import { Fold, useCloseFold } from '../../panels/Fold';
import { useKit, useRulebook, useRun } from '../../session/context';
import { useProposal } from './use-proposal';

/** The twins of the chosen parts across a plane, with all that they carry; shown on the bench before they are made. */
export function MirrorSection({ parts }: { parts: Part[] }) {
  return (
    <Fold key={parts.map((part) => part.id).join()} title="Mirror" passing>
      <Mirror parts={parts} />
    </Fold>
  );
}

const AXES: [Axis, string][] = [
  [0, 'the side (x)'],
  [1, 'the height (y)'],
  [2, 'the length (z)'],
];

function Mirror({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const rulebook = useRulebook();
  const run = useRun();
  const close = useCloseFold();
  const [axis, setAxis] = useState<Axis>(0);
  const [at, setAt] = useState(0);
  const ids = parts.map((part) => part.id);
  const branch = new Set(ids.flatMap((id) => [...subtreeOf(kit, id)]));
  const taken = new Set(Object.values(kit.parts).map(({ name }) => name));
  const names: Record<Id, string> = {};
  // What has no side of its own is counted on.
  for (const id of branch) taken.add((names[id] = freeName(twinName(kit.parts[id].name, rulebook?.naming.sides), taken)));
  const call = callOf(mirrorParts, { parts: ids, axis, at, names });
  useProposal(call);
  const pivot = restWorlds(kit).get(ids[0])!;
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        <Choice label="Across" value={axis} options={AXES} onChange={setAxis} />
        <NumberField label="Plane at" unit="m" value={at} step={0.1} onCommit={setAt} hint={`its pivot: ${pivot[12 + axis].toFixed(3)}`} />
      </Box>
      <Button variant="contained" onClick={() => run(call) && close()}>
        Make {branch.size === 1 ? `“${names[ids[0]]}”` : `${branch.size} twins`}
      </Button>
    </>
  );
}
