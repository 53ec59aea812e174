import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { compareKits, type KitComparison, type KitFigures } from '@itchkit/core/operations';
import { api, type RevisionRow } from '../api';
import { formatCount } from '../format';
import { GradeSign } from '../ledger/GradeCount';
import { useOpenKit } from '../session/context';
import type { Session } from '../session/session';

const FIGURES: [keyof KitFigures, string][] = [
  ['parts', 'Parts'],
  ['triangles', 'Triangles'],
  ['vertices', 'Vertices'],
  ['materials', 'Materials'],
  ['images', 'Textures'],
  ['clips', 'Clips'],
  ['bindings', 'Bindings'],
];

async function compare(session: Session, before: number, after: number): Promise<KitComparison> {
  const [a, b] = await Promise.all([before, after].map(async (number) => (await api.loadRevision(session.id, number)).document));
  return compareKits(a, b, [await session.findingsOf(a), await session.findingsOf(b)]);
}

/** Two revisions side by side: figures, parts, findings. */
export function CompareRevisions({ rows, first, onClose }: { rows: RevisionRow[]; first: number; onClose: () => void }) {
  const { session } = useOpenKit();
  const newest = rows[0].number;
  const [pair, setPair] = useState<[number, number]>(first === newest ? [rows[1].number, newest] : [first, newest]);
  const { data, error } = useQuery({ queryKey: ['compare', session.id, ...pair], queryFn: () => compare(session, ...pair) });
  const choose = (which: 0 | 1) => (
    <TextField
      select
      fullWidth
      label={which === 0 ? 'Before' : 'After'}
      value={pair[which]}
      onChange={(event) => setPair(pair.with(which, Number(event.target.value)) as [number, number])}
    >
      {rows.map((row) => (
        <MenuItem key={row.number} value={row.number}>
          {row.number}: {row.cause.slice(0, 60)}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Compare revisions</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, my: 2 }}>
          {choose(0)}
          {choose(1)}
        </Box>
        {error && <Box role="alert">{error.message}</Box>}
        {!data && !error && <Box sx={{ color: 'text.secondary' }}>Comparing …</Box>}
        {data && <Comparison data={data} />}
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose} variant="contained">
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Comparison({ data }: { data: KitComparison }) {
  const [before, after] = data.figures;
  return (
    <>
      <Table size="small" aria-label="Figures">
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell align="right">Before</TableCell>
            <TableCell align="right">After</TableCell>
            <TableCell align="right">Change</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {FIGURES.map(([key, name]) => (
            <TableRow key={key}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              {[before[key], after[key]].map((value, i) => (
                <TableCell key={i} align="right" className="figures">
                  {formatCount(value)}
                </TableCell>
              ))}
              <TableCell align="right" className="figures">
                {after[key] === before[key]
                  ? ''
                  : `${after[key] > before[key] ? '+' : '−'}${formatCount(Math.abs(after[key] - before[key]))}`}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="h3" sx={{ mt: 4, mb: 1 }}>
        Contents
      </Typography>
      <Lines empty="Nothing is different.">
        {data.differences.map(({ where, what }) => ({ key: `${where}: ${what}`, text: `${where}: ${what}`, grade: null }))}
      </Lines>
      <Typography variant="h3" sx={{ mt: 4, mb: 1 }}>
        Findings
      </Typography>
      <Lines empty="The same findings.">
        {data.findings.map((one, i) => ({ key: `${i}`, text: `${one.title} (${one.gone ? 'settled' : 'new'})`, grade: one.grade }))}
      </Lines>
    </>
  );
}

function Lines({
  children,
  empty,
}: {
  children: { key: string; text: string; grade: KitComparison['findings'][number]['grade'] | null }[];
  empty: string;
}) {
  if (children.length === 0) return <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{empty}</Box>;
  return (
    <Box
      component="ul"
      tabIndex={0}
      sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, lineHeight: 1.7, maxHeight: 200, overflowY: 'auto' }}
    >
      {children.map((line) => (
        <Box component="li" key={line.key} sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
          {line.grade && <GradeSign grade={line.grade} size={9} />}
          <span>{line.text}</span>
        </Box>
      ))}
    </Box>
  );
}
