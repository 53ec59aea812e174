'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { callOf, setTarget } from '@itchkit/core/document';
import { compareRulebooks, type Finding, type Rulebook } from '@itchkit/core/rulebook';
import { GradeSign } from '../ledger/GradeCount';
import { useOpenKit, useRun, useSession } from '../session/context';

/** What a newer version of the target's rulebook changes, and which findings appear or go, before the kit is moved to it. */
export function MoveVersion({ from, to, onClose }: { from: Rulebook; to: Rulebook; onClose: () => void }) {
  const { session } = useOpenKit();
  const run = useRun();
  const now = useSession((state) => state.findings);
  const [then, setThen] = useState<Finding[] | null>(null);
  useEffect(() => {
    let left = false;
    void session.findingsFor({ rulebook: to.id, version: to.version }).then((findings) => !left && setThen(findings));
    return () => {
      left = true;
    };
  }, [session, to]);
  const changes = compareRulebooks(from, to);
  const appear = then?.filter((finding) => !now.some((other) => other.id === finding.id && other.grade === finding.grade)) ?? [];
  const go = then ? now.filter((finding) => !then.some((other) => other.id === finding.id && other.grade === finding.grade)) : [];
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>
        {to.title}: from {from.version} to {to.version}
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 5 }}>
        <Box>
          <Typography variant="h3" sx={{ mb: 1 }}>
            What changes ({changes.length})
          </Typography>
          <Box component="ul" tabIndex={0} sx={{ m: 0, pl: 4, fontSize: 13, lineHeight: 1.5, maxHeight: 340, overflowY: 'auto' }}>
            {changes.map(({ where, before, after }) => (
              <li key={where}>
                <b>{where}</b>: {before ?? 'new'} {before === null && after !== null ? '·' : '→'} {after ?? 'gone'}
              </li>
            ))}
          </Box>
        </Box>
        <Box>
          <FindingList title="Findings that appear" findings={appear} none={then ? 'None.' : 'Checking …'} />
          <FindingList title="Findings that go" findings={go} none={then ? 'None.' : 'Checking …'} />
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 6, pb: 4 }}>
        <Button onClick={onClose}>Stay with {from.version}</Button>
        <Button
          variant="contained"
          onClick={() => {
            onClose();
            run(callOf(setTarget, { rulebook: to.id, version: to.version }));
          }}
        >
          Move to {to.version}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function FindingList({ title, findings, none }: { title: string; findings: Finding[]; none: string }) {
  return (
    <Box sx={{ mb: 3 }}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        {title} ({findings.length})
      </Typography>
      {findings.length === 0 && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{none}</Box>}
      <Box
        component="ul"
        tabIndex={0}
        sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, lineHeight: 1.5, maxHeight: 150, overflowY: 'auto' }}
      >
        {findings.map((finding) => (
          <Box component="li" key={finding.id} sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
            <GradeSign grade={finding.grade} size={9} /> {finding.message}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
