'use client';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { formatBytes } from '../../format';
import { Empty, Fact, Section } from '../../panels/Section';
import type { LogLine } from '@itchkit/core/trial';
import { useTrial } from '../../trials/trial-state';

const SIGN: Record<LogLine['grade'], { mark: string; colour: string; word: string }> = {
  taken: { mark: '·', colour: 'kit.good', word: 'taken' },
  odd: { mark: '△', colour: 'kit.warn', word: 'odd' },
  refused: { mark: '■', colour: 'kit.stop', word: 'refused' },
};

/** What the stand-in said while it loaded the package. */
export function TrialCard() {
  const log = useTrial((state) => state.log);
  const message = useTrial((state) => state.message);
  const sha = useTrial((state) => state.sha);
  const bytes = useTrial((state) => state.bytes);
  const milliseconds = useTrial((state) => state.milliseconds);
  if (message) return <Empty>{message}</Empty>;
  if (!sha) return <Empty>The package is being built; the platform’s import log comes here.</Empty>;
  return (
    <>
      <Section title="Package in the trial">
        <Fact name="Size">
          <span className="figures">{formatBytes(bytes)}</span>, built in <span className="figures">{Math.round(milliseconds)} ms</span>
        </Fact>
        <Fact name="SHA-256">
          <span className="figures" data-testid="trial-sha">
            {sha}
          </span>
        </Fact>
      </Section>
      <Box sx={{ px: 3, py: 2.5 }}>
        <Typography variant="h3" sx={{ mb: 1 }}>
          Import log
        </Typography>
        <Box
          component="ol"
          aria-label="Import log"
          sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 12.5, lineHeight: 1.5, overflowWrap: 'anywhere' }}
        >
          {log.map((line, i) => (
            <Box
              component="li"
              key={i}
              data-log={line.grade}
              sx={{ display: 'grid', gridTemplateColumns: '16px minmax(0, 1fr)', py: 0.25 }}
            >
              <Box component="span" aria-label={SIGN[line.grade].word} role="img" sx={{ color: SIGN[line.grade].colour, fontWeight: 700 }}>
                {SIGN[line.grade].mark}
              </Box>
              <span>{line.text}</span>
            </Box>
          ))}
        </Box>
      </Box>
    </>
  );
}
