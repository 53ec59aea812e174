'use client';
import Box from '@mui/material/Box';
import NextLink from 'next/link';
import type { Stage } from '@itchkit/core/rulebook';
import { useOpenKit, useRulebook, useSession } from '../session/context';
import { stagesFor } from '../stages/list';
import { titleOf } from '../stages/stage';

/** The stages as stops on a line: filled where nothing is owed, ringed where one is, with the count of stops in red. */
export function RouteRibbon({ stage }: { stage: Stage }) {
  const { session } = useOpenKit();
  const findings = useSession((state) => state.findings).filter((finding) => finding.aside === null);
  const rulebook = useRulebook();
  return (
    <Box
      component="nav"
      aria-label="Stages"
      sx={{
        display: 'flex',
        position: 'relative',
        '&::before': { content: '""', position: 'absolute', left: 34, right: 34, top: 11, height: 2, bgcolor: 'kit.sea', opacity: 0.5 },
      }}
    >
      {stagesFor(rulebook).map((one) => {
        const { id } = one;
        const title = titleOf(one);
        const own = findings.filter((finding) => finding.stage === id);
        const stops = own.filter((finding) => finding.grade === 'stop').length;
        const current = id === stage;
        return (
          <Box
            key={id}
            component={NextLink}
            href={`/kits/${session.id}/${id}`}
            aria-current={current ? 'page' : undefined}
            aria-label={stops > 0 ? `${title}, ${stops} ${stops === 1 ? 'stop' : 'stops'}` : title}
            sx={{
              width: 68,
              display: 'grid',
              justifyItems: 'center',
              gap: 0.5,
              textDecoration: 'none',
              color: current ? 'text.primary' : 'text.secondary',
              fontSize: 12,
              fontWeight: current ? 700 : 500,
              position: 'relative',
              pt: 0.5,
              '&:hover': { color: 'text.primary' },
            }}
          >
            <Box component="svg" viewBox="0 0 20 20" aria-hidden sx={{ width: 20, height: 20 }}>
              <Box
                component="circle"
                cx="10"
                cy="10"
                r={current ? 9 : 6.5}
                sx={{
                  fill: (t) => t.vars!.palette.kit.sheet,
                  stroke: (t) => (current ? t.vars!.palette.kit.signal : t.vars!.palette.kit.sea),
                  strokeWidth: 2,
                }}
              />
              {(own.length === 0 || current) && (
                <Box
                  component="circle"
                  cx="10"
                  cy="10"
                  r={current ? 4.5 : 6.5}
                  sx={{ fill: (t) => (own.length === 0 ? t.vars!.palette.kit.sea : t.vars!.palette.kit.line) }}
                />
              )}
            </Box>
            {title}
            {stops > 0 && (
              <Box
                component="span"
                className="figures"
                sx={{ position: 'absolute', top: -3, left: 44, color: 'kit.stop', fontWeight: 700, fontSize: 11 }}
              >
                {stops}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
