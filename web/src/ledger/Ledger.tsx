'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { countGrades, STAGES, type Finding, type Stage } from '@itchkit/core';
import { useKit, useOpenKit, useRun, useSession } from '../session/context';
import { BUILT_STAGES } from '../stages/stages';
import { AskMend } from './AskMend';
import { FindingRow } from './FindingRow';
import { GradeCount } from './GradeCount';

/** What is owed to the target, this stage first. */
export function Ledger({ stage }: { stage: Stage }) {
  const { session } = useOpenKit();
  const findings = useSession((state) => state.findings);
  const checked = useSession((state) => state.checked);
  const run = useRun();
  const { enqueueSnackbar } = useSnackbar();
  const [asking, setAsking] = useState<Finding | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const refocus = useRef(false);
  const counts = countGrades(findings);
  const safe = findings.filter((finding) => finding.mend?.safe).length;

  // A mended row goes away with the keyboard's place in it: the first row left takes it.
  useEffect(() => {
    if (!refocus.current) return;
    refocus.current = false;
    list.current?.querySelector<HTMLElement>('[data-finding]')?.focus();
  }, [findings]);

  const apply = (finding: Finding) => {
    setAsking(null);
    refocus.current = true;
    if (finding.mend) run(finding.mend.call);
  };
  const mend = (finding: Finding) => (finding.mend?.safe ? apply(finding) : finding.mend && setAsking(finding));
  const mendAll = async () => {
    refocus.current = true;
    const made = await session.mendAllSafe();
    enqueueSnackbar(`${made} ${made === 1 ? 'mend' : 'mends'} made, as one step of undo.`);
  };
  const order = [stage, ...STAGES.filter((one) => one !== stage)];

  return (
    <Box component="aside" aria-label="Ledger" data-checked={checked} sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: 'kit.sheet', borderRight: 1, borderColor: 'divider' }}>
      <Box sx={{ px: 3, pt: 2.5, pb: 2, borderBottom: 1, borderColor: 'divider' }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            Ledger
          </Typography>
          <Box sx={{ display: 'flex', gap: 2 }} aria-live="polite">
            {(['stop', 'warn', 'note'] as const).map((grade) => counts[grade] > 0 && <GradeCount key={grade} grade={grade} count={counts[grade]} />)}
          </Box>
        </Box>
        {safe > 0 && (
          <Button variant="contained" fullWidth sx={{ mt: 2 }} onClick={() => void mendAll()}>
            Mend all safe ({safe})
          </Button>
        )}
      </Box>
      <Box ref={list} sx={{ overflowY: 'auto', flex: 1, minHeight: 0 }}>
        {findings.length === 0 && checked && <NothingOwed />}
        {order.map((one) => {
          const own = findings.filter((finding) => finding.stage === one);
          if (own.length === 0) return null;
          return (
            <Box key={one} component="section" aria-label={`Owed in ${one}`}>
              <Typography component="h3" sx={{ px: 3, pt: 2.5, pb: 0.75, fontSize: 12, fontWeight: 600, color: 'text.secondary' }}>
                {BUILT_STAGES.find((built) => built.id === one)?.title ?? one}
              </Typography>
              {own.map((finding) => (
                <FindingRow key={finding.id} finding={finding} stage={stage} onMend={() => mend(finding)} />
              ))}
            </Box>
          );
        })}
      </Box>
      {asking && <AskMend finding={asking} onClose={() => setAsking(null)} onApply={() => apply(asking)} />}
    </Box>
  );
}

/** An empty Ledger says what to do next. */
function NothingOwed() {
  const kit = useKit();
  const next =
    kit.targets.length === 0
      ? 'Choose a target at the top; its rulebook says what is owed.'
      : Object.keys(kit.bindings).length === 0 && Object.keys(kit.clips).length === 0
        ? 'Nothing is owed. Next: give it motion in Motion, or bind its parts in Wiring.'
        : 'Nothing is owed. Try the package in Trial, then build it in Ship.';
  return <Typography sx={{ p: 3, fontSize: 13, color: 'text.secondary' }}>{next}</Typography>;
}
