'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { callOf, partsInOrder, type Axis, type Call, type Part } from '@itchkit/core/document';
import { isEmptyBounds, restBounds, sideOfBounds, type BoundsSide } from '@itchkit/core/geometry';
import { alignParts, type AlignSide } from '@itchkit/core/shape';
import { Choice } from '../../card/Choice';
import { TryButton } from '../../card/TryButton';
import { Buttons, Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRulebook } from '../../session/context';

const SIDES: [BoundsSide, string][] = [
  ['low', 'low side'],
  ['middle', 'middle'],
  ['high', 'high side'],
];

/** Moves the chosen parts onto the ground, the centre, a tile, or in line with another part. */
export function AlignSection({ parts }: { parts: Part[] }) {
  const kit = useKit();
  const { session } = useOpenKit();
  const rulebook = useRulebook();
  const [together, setTogether] = useState(true);
  const [other, setOther] = useState('');
  const [side, setSide] = useState<BoundsSide>('middle');
  const ids = parts.map((part) => part.id);
  const align = (axis: Axis, which: AlignSide, at: number): Call =>
    callOf(alignParts, { parts: ids, axis, side: which, at, together: together && ids.length > 1 });
  const tile = rulebook?.tileMetres ?? 1;
  const toTile = () => {
    const bounds = restBounds(kit, session.blobs, ids);
    return isEmptyBounds(bounds) ? null : ([0, 2] as Axis[]).map((axis) => align(axis, 'low', Math.round(bounds.min[axis] / tile) * tile));
  };
  const toOther = (axis: Axis) => {
    const bounds = restBounds(kit, session.blobs, [other]);
    if (isEmptyBounds(bounds)) return null;
    return align(axis, side, sideOfBounds(bounds, axis, side));
  };
  return (
    <Fold title="Align">
      {ids.length > 1 && (
        <FormControlLabel
          control={<Checkbox size="small" checked={together} onChange={(event) => setTogether(event.target.checked)} />}
          label="Together, as one"
        />
      )}
      <Buttons>
        <TryButton calls={() => align(1, 'low', 0)}>Onto the ground</TryButton>
        <TryButton calls={() => [align(0, 'middle', 0), align(2, 'middle', 0)]} step="Align to the centre">
          To the centre
        </TryButton>
        <TryButton title={`Tiles of ${tile} m`} calls={toTile} step="Align to the nearest tile">
          To the nearest tile
        </TryButton>
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
        <Choice label="Their" value={side} options={SIDES} onChange={setSide} />
      </Box>
      <Buttons>
        {(['x', 'y', 'z'] as const).map((letter, axis) => (
          <TryButton key={letter} disabled={other === ''} calls={() => toOther(axis as Axis)}>
            Along {letter}
          </TryButton>
        ))}
      </Buttons>
    </Fold>
  );
}
