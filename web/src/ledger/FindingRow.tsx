'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Link from '@mui/material/Link';
import { useRouter } from 'next/navigation';
import { useState, type KeyboardEvent } from 'react';
import { STAGE_TITLES, type Finding, type Stage } from '@itchkit/core/rulebook';
import { useKit, useOpenKit, useSetUi } from '../session/context';

import { GradeSign } from './GradeCount';
import { SetAside } from './SetAside';
import { ShareBar } from './ShareBar';

const MOST_PARTS = 12;

/** One finding: a row that opens to what was measured, the limit, why the platform cares, and the parts. */
export function FindingRow({ finding, stage, onMend }: { finding: Finding; stage: Stage; onMend: () => void }) {
  const [open, setOpen] = useState(false);
  const { session, ui } = useOpenKit();
  const kit = useKit();
  const setUi = useSetUi();
  const router = useRouter();
  const { things = [] } = finding;
  const show = (parts: string[]) => {
    const known = parts.filter((id) => kit.parts[id]);
    if (known.length > 0)
      setUi({ selection: known, held: null, frameRequest: { parts: known, nonce: ui.getState().frameRequest.nonce + 1 } });
    if (things.length > 0) setUi({ shown: { things, nonce: ui.getState().shown.nonce + 1 } });
    const work = finding.stage;
    if (work !== stage) router.push(`/kits/${session.id}/${work}`);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const rows = [...document.querySelectorAll<HTMLElement>('[data-finding]')];
      event.preventDefault();
      rows[rows.indexOf(event.currentTarget as HTMLElement) + (event.key === 'ArrowDown' ? 1 : -1)]?.focus();
    }
    if (event.key !== 'Enter') return;
    event.preventDefault();
    if (finding.mend) onMend();
    else show(finding.parts);
  };

  return (
    <Box sx={{ borderBottom: 1, borderColor: 'divider', '&:last-of-type': { borderBottom: 0 } }}>
      <ButtonBase
        data-finding={finding.id}
        data-grade={finding.grade}
        onClick={() => setOpen(!open)}
        onKeyDown={onKeyDown}
        aria-expanded={open}
        sx={{
          width: '100%',
          px: 3,
          py: 1.5,
          display: 'grid',
          gridTemplateColumns: '14px 1fr',
          columnGap: 1.5,
          textAlign: 'left',
          alignItems: 'baseline',
          '&:hover': { bgcolor: 'kit.card' },
        }}
      >
        <GradeSign grade={finding.grade} />
        <Box component="span" sx={{ minWidth: 0 }}>
          <Box component="span" sx={{ display: 'block', fontWeight: 600, fontSize: 13.5 }}>
            {finding.title}
          </Box>
          <Box
            component="span"
            className="figures"
            sx={{ display: 'block', color: 'text.secondary', overflowWrap: 'anywhere', lineHeight: 1.5 }}
          >
            {finding.measured} / {finding.limit}
          </Box>
        </Box>
      </ButtonBase>
      {open && (
        <Box sx={{ px: 3, pb: 2, pl: '32px', fontSize: 13, lineHeight: 1.5 }}>
          <Box sx={{ mb: 1 }}>{finding.message}</Box>
          {finding.share !== null && <ShareBar share={finding.share} grade={finding.grade} />}
          <Box sx={{ mb: 1, color: 'text.secondary' }}>{finding.why}</Box>
          {finding.parts.length > 0 && (
            <Box sx={{ mb: 1.5 }}>
              {finding.parts.slice(0, MOST_PARTS).map((id, i) => (
                <span key={id}>
                  {i > 0 && ', '}
                  <Link component="button" onClick={() => show([id])} sx={{ fontSize: 13, verticalAlign: 'baseline' }}>
                    {kit.parts[id]?.name}
                  </Link>
                </span>
              ))}
              {finding.parts.length > MOST_PARTS && ` and ${finding.parts.length - MOST_PARTS} more`}
            </Box>
          )}
          {finding.mend && things.length > 0 && (
            <Button variant="text" onClick={() => show(finding.parts)} sx={{ py: 0.25, ml: -1.5 }}>
              Show me
            </Button>
          )}
          <SetAside finding={finding} />
        </Box>
      )}
      <Box sx={{ px: 3, pb: 1.75, pl: '32px', mt: -0.5 }}>
        {finding.mend ? (
          <Button variant="outlined" onClick={onMend} sx={{ py: 0.25 }}>
            {finding.mend.title}
            {finding.mend.safe ? '' : ' …'}
          </Button>
        ) : (
          (finding.parts.length + things.length > 0 || finding.stage !== stage) && (
            <Button variant="text" onClick={() => show(finding.parts)} sx={{ py: 0.25, ml: -1.5 }}>
              {finding.parts.length + things.length > 0 ? 'Show me' : `Go to ${STAGE_TITLES[finding.stage]}`}
            </Button>
          )
        )}
      </Box>
    </Box>
  );
}
