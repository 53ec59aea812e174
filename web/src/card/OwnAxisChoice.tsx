'use client';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Axis, Id, Vec3 } from '@itchkit/core/document';
import { restWorlds, wayInWords } from '@itchkit/core/geometry';
import { AXIS_COLOURS } from '../strip/track-words';
import { useKit } from '../session/context';

const AXES: readonly Axis[] = [0, 1, 2];

interface Props {
  part: Id;
  value: Axis;
  onChange: (axis: Axis) => void;
  /** What else is to be said of each. */
  note?: (axis: Axis) => string | null;
}

/** One of a part's own axes, by its colour on the bench and by where it points. */
export function OwnAxisChoice({ part, value, onChange, note }: Props) {
  const world = restWorlds(useKit()).get(part);
  return (
    <TextField
      select
      size="small"
      fullWidth
      label="Own axis"
      value={value}
      onChange={(event) => onChange(Number(event.target.value) as Axis)}
      slotProps={{ inputLabel: { shrink: true } }}
    >
      {AXES.map((axis) => (
        <MenuItem key={axis} value={axis}>
          <Box component="span" aria-hidden sx={{ display: 'inline-block', width: 10, height: 10, mr: 1, bgcolor: AXIS_COLOURS[axis] }} />
          {'xyz'[axis]}, {world && wayInWords([...world.slice(4 * axis, 4 * axis + 3)] as Vec3)}
          {note?.(axis) && ` (${note(axis)})`}
        </MenuItem>
      ))}
    </TextField>
  );
}
