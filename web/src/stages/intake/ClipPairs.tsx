'use client';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMemo } from 'react';
import { partsInOrder, type Id, type Kit } from '@itchkit/core';
import { useKit } from '../../session/context';

interface Props {
  source: Kit;
  /** Part of this kit by moving part of the other one; null leaves its motion out. */
  pairs: Record<Id, Id | null>;
  onChange: (pairs: Record<Id, Id | null>) => void;
}

/** Which part of this kit takes the motion of which of another one. */
export function ClipPairs({ source, pairs, onChange }: Props) {
  const kit = useKit();
  const parts = useMemo(() => partsInOrder(kit), [kit]);
  return (
    <Table size="small" aria-label="Parts of the file and of the kit">
      <TableHead>
        <TableRow>
          <TableCell>There</TableCell>
          <TableCell>In this kit</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {partsInOrder(source)
          .filter((part) => part.id in pairs)
          .map((part) => (
            <TableRow key={part.id}>
              <TableCell>{part.name}</TableCell>
              <TableCell>
                <Select
                  variant="standard"
                  size="small"
                  displayEmpty
                  value={pairs[part.id] ?? ''}
                  onChange={(event) => onChange({ ...pairs, [part.id]: event.target.value === '' ? null : (event.target.value as Id) })}
                  inputProps={{ 'aria-label': `Part of the kit for ${part.name}` }}
                  sx={{ fontSize: 13, minWidth: 120 }}
                >
                  <MenuItem value="">none</MenuItem>
                  {parts.map((one) => (
                    <MenuItem key={one.id} value={one.id}>
                      {one.name}
                    </MenuItem>
                  ))}
                </Select>
              </TableCell>
            </TableRow>
          ))}
      </TableBody>
    </Table>
  );
}
