'use client';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { partsInOrder, type Id, type Kit } from '@itchkit/core/document';
import { PartChoice } from './PartChoice';

interface Props {
  source: Kit;
  /** Part of this kit by moving part of the other one; null leaves its motion out. */
  pairs: Record<Id, Id | null>;
  onChange: (pairs: Record<Id, Id | null>) => void;
}

/** Which part of this kit takes the motion of which of another one. */
export function ClipPairs({ source, pairs, onChange }: Props) {
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
                <PartChoice
                  of={part.name}
                  value={pairs[part.id] ?? null}
                  none="none"
                  onChange={(chosen) => onChange({ ...pairs, [part.id]: chosen })}
                />
              </TableCell>
            </TableRow>
          ))}
      </TableBody>
    </Table>
  );
}
