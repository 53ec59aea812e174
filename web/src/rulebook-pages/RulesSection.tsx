import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Check, Rule } from '@itchkit/core/rulebook';
import { GradeSign } from '../ledger/GradeCount';
import { BookTable } from './BookTable';

/** Rules by family, in words. */
export function RulesSection({ rules, checks }: { rules: Rule[]; checks: ReadonlyMap<string, Check> }) {
  const families = [...new Set(rules.map((rule) => checks.get(rule.check)?.family ?? 'others'))];
  return families.map((family) => (
    <Box key={family} sx={{ mb: 3 }}>
      <Typography variant="h3" sx={{ mb: 0.5, textTransform: 'capitalize' }}>
        {family === 'uv' ? 'UV' : family}
      </Typography>
      <BookTable
        head={['Grade', 'What is asked', 'Limit', 'Why']}
        rows={rules
          .filter((rule) => (checks.get(rule.check)?.family ?? 'others') === family)
          .map((rule) => ({
            key: rule.id,
            cells: [
              <Box key="grade" component="span" sx={{ display: 'inline-flex', gap: 1, alignItems: 'center' }}>
                <GradeSign grade={rule.grade} size={9} /> {rule.grade}
              </Box>,
              <>
                {checks.get(rule.check)?.about}
                {rule.roles && ` (${rule.roles.join(', ')})`}
              </>,
              rule.limit === undefined ? (
                ''
              ) : (
                <span key="limit" className="figures">
                  {rule.limit.toLocaleString('en')} {checks.get(rule.check)?.limit}
                </span>
              ),
              rule.why,
            ],
          }))}
      />
    </Box>
  ));
}
