'use client';
import Box from '@mui/material/Box';
import { createElement } from 'react';
import { Empty } from '../../frame/Section';
import { useRulebook } from '../../session/context';
import { TRIAL_CONTROLS } from '../../trials/list';
import { useTrial } from '../../trials/trial-state';

/** What the stand-in is worked with. */
export function TrialControls() {
  const rulebook = useRulebook();
  const loaded = useTrial((state) => state.loaded);
  const controls = rulebook && TRIAL_CONTROLS[rulebook.id];
  if (loaded && controls) return createElement(controls);
  return (
    <Box sx={{ height: '100%', bgcolor: 'kit.sheet' }}>
      <Empty>The levers come here once the package is loaded.</Empty>
    </Box>
  );
}
