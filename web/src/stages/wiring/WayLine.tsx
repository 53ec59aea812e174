'use client';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { callOf, type Binding } from '@itchkit/core/document';
import { wayInWords } from '@itchkit/core/geometry';
import { negateTables } from '@itchkit/core/wiring';
import { useTrying } from '../../card/TryButton';
import { useKit, useRun } from '../../session/context';
import type { BoundLever } from './levers';
import { useProbe } from './use-probe';

const COLOURS = { right: 'kit.good', wrong: 'kit.stop', astray: 'kit.stop', still: 'text.secondary', open: 'text.secondary' } as const;

/** What rising does to the part, beside what the rulebook says that it means. */
export function WayLine({ lever, binding }: { lever: BoundLever; binding: Binding }) {
  const run = useRun();
  const { trying, stop } = useTrying();
  const probe = useProbe(lever, binding);
  const linked = useKit().links?.some(({ parts }) => parts.includes(binding.part)) ?? false;
  if (!lever.variable || !probe) return null;
  const way = wayInWords(probe.goes);
  const words = {
    right: `Rising, it goes as it should: ${lever.variable.positive}.`,
    wrong: `Rising, it goes the other way. It means that ${lever.variable.positive}.`,
    astray: `Rising, it goes ${way}. It means that ${lever.variable.positive}.`,
    still: 'It does not move near neutral.',
    open: linked
      ? 'It turns as its link has to.'
      : `Rising, it goes ${way || 'nowhere'}; look whether that is right: ${lever.variable.positive}.`,
  }[probe.verdict];
  const negate = () => callOf(negateTables, { bindings: [binding.id] });
  return (
    <Box role="status" data-verdict={probe.verdict} sx={{ px: 2.5, pb: 1, fontSize: 12.5, lineHeight: 1.4, color: COLOURS[probe.verdict] }}>
      {words}{' '}
      {probe.verdict === 'wrong' && (
        <Link
          component="button"
          color="inherit"
          {...trying(negate)}
          onClick={() => {
            stop();
            run(negate());
          }}
          sx={{ font: 'inherit', fontWeight: 600 }}
        >
          Turn its way round
        </Link>
      )}
    </Box>
  );
}
