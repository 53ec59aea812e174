'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { callOf } from '@itchkit/core/document';
import { calloutPoints, measure, removeCallouts } from '@itchkit/core/shape';
import { measureText } from '../../bench/point-marks';
import { Fold } from '../../panels/Fold';
import { useKit, useRun } from '../../session/context';

/** The measures that are kept with the kit. */
export function MeasuresSection() {
  const kit = useKit();
  const run = useRun();
  const callouts = kit.callouts ?? [];
  if (callouts.length === 0) return null;
  return (
    <Fold title="Measures" aside={callouts.length}>
      {callouts.map((callout) => {
        const value = measure(callout.kind, calloutPoints(kit, callout));
        const names = [...new Set(callout.points.map(({ part }) => kit.parts[part].name))].join(' to ');
        return (
          <Box key={callout.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
            <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
              {names} <span className="figures">{value === null ? 'no circle' : measureText(callout.kind, value)}</span>
            </Box>
            <Button size="small" onClick={() => run(callOf(removeCallouts, { callouts: [callout.id] }))}>
              Take out
            </Button>
          </Box>
        );
      })}
    </Fold>
  );
}
