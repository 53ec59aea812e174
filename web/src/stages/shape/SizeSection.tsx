'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { isEmptyBounds, kitBounds, sizeOf } from '@itchkit/core/geometry';
import { tilesUnder } from '../../bench/size-marks';
import { Choice } from '../../card/Choice';
import { Fact } from '../../panels/Section';
import { Fold } from '../../panels/Fold';
import { useKit, useOpenKit, useRulebook, useSetSlice, useUi } from '../../session/context';

/** How large the kit is, on how many tiles it stands, and which size classes hold it. */
export function SizeSection() {
  const kit = useKit();
  const { session } = useOpenKit();
  const rulebook = useRulebook();
  const setShape = useSetSlice('shape');
  const footprint = useUi((state) => state.shape.footprint);
  const ghost = useUi((state) => state.shape.ghost);
  const bounds = kitBounds(kit, session.blobs);
  if (isEmptyBounds(bounds)) return null;
  const size = sizeOf(bounds);
  const tile = rulebook?.tileMetres ?? 1;
  const { x, z } = tilesUnder(bounds, tile);
  const classes = rulebook?.sizeClasses ?? [];
  const holds = classes.filter(({ max }) => max.every((most, axis) => size[axis] <= most + 1e-6));
  return (
    <Fold title="Size" aside={<span className="figures">{size.map((side) => side.toFixed(2)).join(' × ')} m</span>}>
      <Box>
        <Fact name="Tiles">
          {x[1] - x[0]} × {z[1] - z[0]} of {tile} m
        </Fact>
        {classes.length > 0 && (
          <Fact name="Fits">{holds.length === 0 ? 'none of the size classes' : holds.map(({ name }) => name).join(', ')}</Fact>
        )}
      </Box>
      <FormControlLabel
        control={<Checkbox size="small" checked={footprint} onChange={(event) => setShape({ footprint: event.target.checked })} />}
        label="Show the tiles underneath"
      />
      {classes.length > 0 && (
        <Choice
          label="Size class as a box"
          value={ghost ?? ''}
          options={[['', 'none'], ...classes.map(({ name, max }) => [name, `${name}: ${max.join(' × ')} m`] as const)]}
          onChange={(name) => setShape({ ghost: name || null })}
        />
      )}
    </Fold>
  );
}
