'use client';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { scaleLinear } from 'd3-scale';
import type { Kit } from '@itchkit/core/document';
import { kitCounts, meshCounts } from '@itchkit/core/geometry';
import { formatCount } from '../../format';
import { Section } from '../../panels/Section';
import { useKit, useRulebook, useSetUi } from '../../session/context';

const MOST_BARS = 14;

/** Where the triangles are: the heaviest parts as bars, against the target's budget; a bar chooses its part. */
export function TriangleChart() {
  const kit = useKit();
  const rulebook = useRulebook();
  const setUi = useSetUi();
  const { triangles } = kitCounts(kit);
  const parts = heaviestOf(kit);
  if (parts.length === 0) return null;
  const limits =
    rulebook?.rules.filter((rule) => rule.check === 'budgets.triangles' && rule.limit !== undefined).map((rule) => rule.limit!) ?? [];
  const budget = limits.length > 0 ? Math.min(...limits) : null;
  const width = scaleLinear().domain([0, parts[0].triangles]).range([0, 100]);
  const rest = triangles - parts.reduce((sum, part) => sum + part.triangles, 0);
  return (
    <Section title="Where the triangles are" aside={<span className="figures">{formatCount(triangles)}</span>}>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {parts.map((part) => (
          <li key={part.id}>
            <ButtonBase
              onClick={() => setUi({ selection: [part.id], held: null })}
              sx={{
                width: '100%',
                display: 'grid',
                gridTemplateColumns: '96px 1fr 48px',
                gap: 1.5,
                alignItems: 'center',
                py: 0.5,
                fontSize: 12.5,
                textAlign: 'left',
                borderRadius: 1,
                '&:hover': { bgcolor: 'kit.card' },
              }}
            >
              <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                {part.name}
              </Box>
              <Box
                component="span"
                aria-hidden
                sx={{ height: 9, width: `${width(part.triangles)}%`, minWidth: 2, bgcolor: 'kit.sea', borderRadius: 0.5 }}
              />
              <Box component="span" className="figures" sx={{ textAlign: 'right' }}>
                {formatCount(part.triangles)}
              </Box>
            </ButtonBase>
          </li>
        ))}
      </Box>
      <Box sx={{ mt: 1, fontSize: 12.5, color: 'text.secondary' }}>
        {rest > 0 && `${formatCount(rest)} more in other parts. `}
        {budget !== null &&
          (triangles > budget
            ? `${formatCount(triangles - budget)} over the ${formatCount(budget)} that ${rulebook!.title} advises.`
            : `${formatCount(budget - triangles)} left of the ${formatCount(budget)} that ${rulebook!.title} advises.`)}
      </Box>
    </Section>
  );
}

function heaviestOf(kit: Kit): { id: string; name: string; triangles: number }[] {
  return Object.values(kit.parts)
    .map((part) => ({ id: part.id, name: part.name, triangles: meshCounts(kit, part.mesh).triangles }))
    .filter((part) => part.triangles > 0)
    .sort((a, b) => b.triangles - a.triangles)
    .slice(0, MOST_BARS);
}
