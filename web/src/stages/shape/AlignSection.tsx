'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { alignParts, callOf, isEmptyBounds, partsInOrder, restBounds, type AlignSide, type Axis, type Call, type Part } from '@itchkit/core';
import { Choice } from '../../card/Choice';
import { Buttons, Fold } from '../../frame/Fold';
import { useKit, useOpenKit, useRulebook, useRun } from '../../session/context';

const SIDES: [AlignSide, string][] = [
  ['low', 'low side'],
  ['middle', 'middle'],
  ['high', 'high side'],
  ['pivot', 'pivot'],
];

/** Moves the chosen parts onto the ground, the centre, a tile, or in line with another part. */
export function AlignSection({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const rulebook = useRulebook();
  const run = useRun();
  const [together, setTogether] = useState(true);
  const [other, setOther] = useState('');
  const [side, setSide] = useState<AlignSide>('middle');
  const ids = parts.map((part) => part.id);
  const align = (axis: Axis, which: AlignSide, at: number): Call => callOf(alignParts, { parts: ids, axis, side: which, at, together: together && ids.length > 1 });
  const tile = rulebook?.tileMetres ?? 1;
  const toTile = () => {
    const bounds = restBounds(kit, session.blobs, ids);
    if (isEmptyBounds(bounds)) return;
    run(
      ([0, 2] as Axis[]).map((axis) => align(axis, 'low', Math.round(bounds.min[axis] / tile) * tile)),
      'Align to the nearest tile',
    );
  };
  const toOther = (axis: Axis) => {
    const bounds = restBounds(kit, session.blobs, [other]);
    if (isEmptyBounds(bounds)) return;
    const at = side === 'low' ? bounds.min[axis] : side === 'high' ? bounds.max[axis] : (bounds.min[axis] + bounds.max[axis]) / 2;
    run(align(axis, side, at));
  };
  return (
    <Fold title="Align">
      {ids.length > 1 && <FormControlLabel control={<Checkbox size="small" checked={together} onChange={(event) => setTogether(event.target.checked)} />} label="Together, as one" />}
      <Buttons>
        <Button variant="outlined" onClick={() => run(align(1, 'low', 0))}>
          Onto the ground
        </Button>
        <Button variant="outlined" onClick={() => run([align(0, 'middle', 0), align(2, 'middle', 0)], 'Align to the centre')}>
          To the centre
        </Button>
        <Button variant="outlined" title={`Tiles of ${tile} m`} onClick={toTile}>
          To the nearest tile
        </Button>
      </Buttons>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, mt: 1 }}>
        <Choice
          label="In line with"
          value={other}
          options={[
            ['', 'another part'],
            ...partsInOrder(kit)
              .filter((part) => part.mesh !== null && !ids.includes(part.id))
              .map((part) => [part.id, part.name] as const),
          ]}
          onChange={setOther}
        />
        <Choice label="Their" value={side} options={SIDES.slice(0, 3)} onChange={setSide} />
      </Box>
      <Buttons>
        {(['x', 'y', 'z'] as const).map((letter, axis) => (
          <Button key={letter} variant="outlined" disabled={other === ''} onClick={() => toOther(axis as Axis)}>
            Along {letter}
          </Button>
        ))}
      </Buttons>
    </Fold>
  );
}
