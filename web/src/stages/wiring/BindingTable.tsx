'use client';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Close from '@mui/icons-material/Close';
import { callOf, figure, type Binding, type BindingRow, type Vec3 } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/formula';
import { removeBindingRow, setBindingRow } from '@itchkit/core/wiring';
import type { Variable } from '@itchkit/core/rulebook';
import { useRun } from '../../session/context';
import { CellField } from './CellField';

const isRest = ({ offset, turn, size }: BindingRow) =>
  [...offset, ...turn].every((value) => value === 0) && size.every((value) => value === 1);

const GROUPS = [
  { property: 'offset', title: 'offset, m', digits: 4 },
  { property: 'turn', title: 'turn, °', digits: 3 },
  { property: 'size', title: 'size, ×', digits: 4 },
] as const;

/** The value table of a binding: the neutral row first. Once that is rest it stays so; it can’t be typed over. */
export function BindingTable({ binding, variable }: { binding: Binding; variable: Variable | undefined }) {
  const run = useRun();
  const key = leverKey(binding.variable, binding.index);
  const write = (row: BindingRow, replaces?: number) =>
    run(callOf(setBindingRow, { binding: binding.id, row, ...(replaces === undefined ? {} : { replaces }) }));
  return (
    <Box sx={{ px: 2.5, pb: 2.5 }}>
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
              {i === 0 && isRest(row) && (
                <Box component="td" colSpan={9} sx={{ fontSize: 12, color: 'text.secondary' }}>
                  neutral: at rest
                </Box>
              )}
              {GROUPS.flatMap(({ property, digits }) =>
                (i === 0 && isRest(row) ? [] : row[property]).map((number, axis) => (
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
                {(i > 0 || !isRest(row)) && (
                  <IconButton
                    size="small"
                    aria-label={`Delete the row at ${figure(row.value)}`}
                    onClick={() => run(callOf(removeBindingRow, { binding: binding.id, value: row.value }))}
                    sx={{ p: 0.25 }}
                  >
                    <Close sx={{ fontSize: 14 }} />
                  </IconButton>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
