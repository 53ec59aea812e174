'use client';
import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { count, type Id } from '@itchkit/core/document';
import type { MatchReason, VersionRow } from '@itchkit/core/intake';
import { formatCount, formatLength } from '../../format';
import { PartChoice } from './PartChoice';

const REASONS: Record<MatchReason, string> = {
  path: 'by its path',
  name: 'by its name',
  shape: 'by its shape',
  children: 'by what hangs below it',
};

interface Props {
  rows: VersionRow[];
  onPair: (next: Id, part: Id | null) => void;
}

/** Parts of the new file against those of the kit; a match can be put right. */
export function VersionTable({ rows, onPair }: Props) {
  if (rows.length === 0) return <Box sx={{ py: 4, fontSize: 13.5, color: 'text.secondary' }}>Every part is the same.</Box>;
  return (
    <Table size="small" stickyHeader aria-label="Parts of the new version">
      <TableHead>
        <TableRow>
          <TableCell>In the new file</TableCell>
          <TableCell>In the kit</TableCell>
          <TableCell>What is different</TableCell>
          <TableCell align="right">Triangles</TableCell>
          <TableCell align="right">Longest side</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row) => (
          <TableRow key={row.next ?? row.part}>
            <TableCell>
              {row.nextName ?? (
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  not there
                </Box>
              )}
            </TableCell>
            <TableCell>
              {row.next === null ? (
                row.name
              ) : (
                <PartChoice of={row.nextName ?? ''} value={row.part} none="a new part" onChange={(chosen) => onPair(row.next!, chosen)} />
              )}
            </TableCell>
            <TableCell sx={{ color: row.state === 'gone' ? 'kit.warn' : undefined }}>{difference(row)}</TableCell>
            <TableCell align="right" className="figures">
              {change(row.triangles, formatCount)}
            </TableCell>
            <TableCell align="right" className="figures">
              {change(row.size, formatLength)}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function difference(row: VersionRow): string {
  const said: string[] = [];
  if (row.state === 'gone')
    said.push(
      row.tracks + row.bindings > 0
        ? `gone; parked: ${[row.tracks > 0 && count(row.tracks, 'track'), row.bindings > 0 && count(row.bindings, 'binding')].filter(Boolean).join(', ')}`
        : 'gone',
    );
  if (row.state === 'new') said.push('new');
  if (row.renamed) said.push('renamed');
  if (row.reason && row.reason !== 'path') said.push(`found ${REASONS[row.reason]}`);
  if (row.state === 'moved')
    return [...said, `moved by ${formatLength(row.moved)}; its pivot ${row.pivotGoes ? 'goes along' : 'stays where you put it'}`].join(
      ', ',
    );
  if (row.pivotMoved > 1e-4) said.push(`pivot ${formatLength(row.pivotMoved)} elsewhere in the file; the kit’s stays`);
  if (row.state === 'changed' && row.triangles[0] === row.triangles[1] && !(row.pivotMoved > 1e-4)) said.push('another mesh');
  return said.join(', ');
}

function change<T extends number>([before, after]: [T | null, T | null], format: (value: number) => string): string {
  if (before === null && after === null) return '';
  if (before === null) return format(after!);
  if (after === null) return format(before);
  return format(before) === format(after) ? format(after) : `${format(before)} → ${format(after)}`;
}
