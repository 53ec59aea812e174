'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { count, type Call } from '@itchkit/core/document';
import { countGrades, STAGE_TITLES, STAGES, type Finding, type Stage } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useRulebook, useRun, useSession, useUi } from '../session/context';
import { AskMany, isAskable, type Asking } from './AskMany';
import { AskMend } from './AskMend';
import { filterFindings, NO_FILTER } from './filter-findings';
import { FindingRow } from './FindingRow';
import { LedgerFilters } from './LedgerFilters';
import { nextStep } from './next-step';

/** What is owed to the target, this stage first. */
export function Ledger({ stage }: { stage: Stage }) {
  const { session } = useOpenKit();
  const findings = useSession((state) => state.findings);
  const checked = useSession((state) => state.checked);
  const run = useRun();
  const [asking, setAsking] = useState<Asking | null>(null);
  /** Those that are looked at together. */
  const [many, setMany] = useState<Asking[] | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const refocus = useRef(false);
  const kit = useKit();
  const rulebook = useRulebook();
  const selection = useUi((state) => state.selection);
  const [filter, setFilter] = useState(NO_FILTER);
  const counts = countGrades(findings);
  const safe = findings.filter((finding) => finding.mend?.safe && finding.aside === null).length;
  const askable = findings.filter(isAskable);
  const shown = filterFindings(findings, { ...filter, parts: filter.parts && selection });
  const open = shown.filter((finding) => finding.aside === null);
  const aside = shown.filter((finding) => finding.aside !== null);

  // A mended row goes away with the keyboard's place in it: the first row left takes it.
  useEffect(() => {
    if (!refocus.current) return;
    refocus.current = false;
    list.current?.querySelector<HTMLElement>('[data-finding]')?.focus();
  }, [findings]);

  const apply = (call: Call) => {
    setAsking(null);
    refocus.current = true;
    run(call);
  };
  const onMend = (finding: Finding) => {
    if (finding.mend?.safe) apply(finding.mend.call);
    else if (finding.mend) setAsking({ ...finding, mend: finding.mend });
  };
  const mendAll = async (chosen: readonly string[] | null) => {
    setMany(null);
    refocus.current = true;
    await session.mendAll(chosen);
  };
  const order = [stage, ...STAGES.filter((one) => one !== stage)];

  return (
    <Box
      component="aside"
      aria-label="Ledger"
      data-checked={checked}
      sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: 'kit.sheet', borderRight: 1, borderColor: 'divider' }}
    >
      <Box sx={{ px: 3, pt: 2.5, pb: 2, borderBottom: 1, borderColor: 'divider' }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            Ledger
          </Typography>
        </Box>
        <LedgerFilters findings={findings} counts={counts} filter={filter} onFilter={setFilter} />
        {checked && (
          <Box data-next sx={{ mt: 1.5, fontSize: 13, lineHeight: 1.45 }}>
            {nextStep(kit, rulebook, findings)}
          </Box>
        )}
        {safe > 0 && (
          <Button data-mend-all variant="contained" fullWidth sx={{ mt: 2 }} onClick={() => void mendAll(null)}>
            Mend all safe ({safe})
          </Button>
        )}
        {safe === 0 && askable.length > 1 && (
          <Button data-mend-more variant="outlined" fullWidth sx={{ mt: 2 }} onClick={() => setMany(askable)}>
            Look at {count(askable.length, 'more mend')} …
          </Button>
        )}
      </Box>
      <Box ref={list} sx={{ overflowY: 'auto', flex: 1, minHeight: 0 }}>
        {shown.length === 0 && findings.length > 0 && (
          <Typography sx={{ p: 3, fontSize: 13, color: 'text.secondary' }}>No finding is of that kind.</Typography>
        )}
        {order.map((one) => {
          const own = open.filter((finding) => finding.stage === one);
          if (own.length === 0) return null;
          return (
            <Box key={one} component="section" aria-label={`Owed in ${one}`}>
              <Typography component="h3" sx={{ px: 3, pt: 2.5, pb: 0.75, fontSize: 12, fontWeight: 600, color: 'text.secondary' }}>
                {STAGE_TITLES[one]}
              </Typography>
              {own.map((finding) => (
                <FindingRow key={finding.id} finding={finding} stage={stage} onMend={() => onMend(finding)} />
              ))}
            </Box>
          );
        })}
        {aside.length > 0 && (
          <Box component="section" aria-label="Set aside">
            <Typography component="h3" sx={{ px: 3, pt: 2.5, pb: 0.75, fontSize: 12, fontWeight: 600, color: 'text.secondary' }}>
              Set aside
            </Typography>
            {aside.map((finding) => (
              <FindingRow key={finding.id} finding={finding} stage={stage} onMend={() => onMend(finding)} />
            ))}
          </Box>
        )}
      </Box>
      {many && <AskMany findings={many} onClose={() => setMany(null)} onApply={(ids) => void mendAll(ids)} />}
      {asking && <AskMend finding={asking} onClose={() => setAsking(null)} onApply={apply} />}
    </Box>
  );
}
