'use client';
import Box from '@mui/material/Box';
import { trialFor } from '@itchkit/core/trial';
import { createElement, Suspense } from 'react';
import { Empty } from '../../panels/Section';
import { useRulebook } from '../../session/context';
import { trialControls } from '../../trials/controls';
import { useTrial } from '../../trials/trial-state';

/** What the stand-in is worked with. */
export function TrialControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  if (loaded && rulebook && trialFor(rulebook)) return <Suspense>{createElement(trialControls(rulebook.id))}</Suspense>;
  return (
    <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>
      <Empty>The levers come here once the package is loaded.</Empty>
    </Box>
  );
}
