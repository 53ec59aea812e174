'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Close from '@mui/icons-material/Close';
import { callOf, figure, OUTSIDES, type Binding, type BindingRow, type Outside, type PoseDelta, type Vec3 } from '@itchkit/core/document';
import { evaluateBinding, leverKey, removeBindingRow, setBinding, setBindingRow } from '@itchkit/core/wiring';
import type { Variable } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRun, useUi } from '../../session/context';
import { CellField } from './CellField';

const WORDS: Record<Outside, string> = { clamp: 'stay at the end', extend: 'go on straight', wrap: 'begin again' };
const GROUPS = [
  { property: 'offset', title: 'offset, m', digits: 4 },
  { property: 'turn', title: 'turn, °', digits: 3 },
  { property: 'size', title: 'size, ×', digits: 4 },
] as const;

/** The value table of a binding: the neutral row first. “Pose here” writes how the part stands on the bench at the lever's value. */
export function BindingTable({ binding, variable }: { binding: Binding; variable: Variable | undefined }) {
  const { ui } = useOpenKit();
  const kit = useKit();
  const run = useRun();
  const key = leverKey(binding.variable, binding.index);
  const value = useUi((state) => state.wiring.levers[key]) ?? variable?.neutral ?? 0;
  const held = useUi((state) => (state.held?.part === binding.part ? state.held.delta : null));
  const write = (row: BindingRow, replaces?: number) =>
    run(callOf(setBindingRow, { binding: binding.id, row, ...(replaces === undefined ? {} : { replaces }) }));
  const poseHere = () => {
    const delta: PoseDelta = held ?? evaluateBinding(binding, value);
    if (write({ value, offset: delta.offset, turn: delta.turn, size: delta.size })) ui.setState({ held: null });
  };
  const indices = variable?.indices ?? 0;
  return (
    <Box sx={{ p: 2.5, pt: 3 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 2, flexWrap: 'wrap' }}>
        <Box sx={{ fontWeight: 600, fontSize: 13 }}>{kit.parts[binding.part]?.name}</Box>
        {indices > 0 && (
          <TextField
            select
            label="Index"
            value={binding.index ?? ''}
            onChange={(event) => run(callOf(setBinding, { binding: binding.id, index: Number(event.target.value) }))}
            sx={{ width: 76 }}
          >
            {binding.index !== null && binding.index >= indices && <MenuItem value={binding.index}>{binding.index}</MenuItem>}
            {Array.from({ length: indices }, (_, i) => (
              <MenuItem key={i} value={i}>
                {i}
              </MenuItem>
            ))}
          </TextField>
        )}
        <TextField
          select
          label="Beyond the table"
          value={binding.outside}
          onChange={(event) => run(callOf(setBinding, { binding: binding.id, outside: event.target.value as Outside }))}
          sx={{ width: 150 }}
        >
          {OUTSIDES.map((one) => (
            <MenuItem key={one} value={one}>
              {WORDS[one]}
            </MenuItem>
          ))}
        </TextField>
        <Button variant={held ? 'contained' : 'outlined'} onClick={poseHere}>
          Pose here, at {figure(value)} {variable?.unit}
        </Button>
      </Box>
      <Box
        component="table"
        aria-label={`Table of ${key}`}
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& th': { fontWeight: 500, fontSize: 11.5, color: 'text.secondary', textAlign: 'left', p: 0.5 },
          '& td': { p: 0, borderTop: 1, borderColor: 'divider' },
        }}
      >
        <thead>
          <tr>
            <th>value, {variable?.unit}</th>
            {GROUPS.map(({ property, title }) => (
              <th key={property} colSpan={3}>
                {title} <span aria-hidden>(x y z)</span>
              </th>
            ))}
            <th aria-label="Delete" />
          </tr>
        </thead>
        <tbody>
          {binding.rows.map((row, i) => (
            <tr key={row.value} data-row={row.value}>
              <td>
                <CellField
                  label={`Value of row ${i + 1}`}
                  value={row.value}
                  digits={4}
                  unit={variable?.unit}
                  strong={i === 0}
                  onCommit={(next) => write({ ...row, value: next }, row.value)}
                />
              </td>
              {GROUPS.flatMap(({ property, digits }) =>
                row[property].map((number, axis) => (
                  <td key={`${property}${axis}`}>
                    <CellField
                      label={`${property} ${'xyz'[axis]} at ${figure(row.value)}`}
                      value={number}
                      digits={digits}
                      onCommit={(next) =>
                        write({ ...row, [property]: row[property].map((old, a) => (a === axis ? next : old)) as Vec3 }, row.value)
                      }
                    />
                  </td>
                )),
              )}
              <td>
                <IconButton
                  size="small"
                  aria-label={`Delete the row at ${figure(row.value)}`}
                  onClick={() => run(callOf(removeBindingRow, { binding: binding.id, value: row.value }))}
                  sx={{ p: 0.25 }}
                >
                  <Close sx={{ fontSize: 14 }} />
                </IconButton>
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
