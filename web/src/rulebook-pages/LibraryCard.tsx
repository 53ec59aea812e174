import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { CHECKS, GRADES, type Rulebook } from '@itchkit/core/rulebook';
import { GradeCount } from '../ledger/GradeCount';
import { exportRulebook, type useRulebookActions } from './use-rulebooks';

export function LibraryCard({
  rulebook,
  own,
  actions,
}: {
  rulebook: Rulebook;
  own: boolean;
  actions: ReturnType<typeof useRulebookActions>;
}) {
  const families = new Set(rulebook.rules.map((rule) => CHECKS.get(rule.check)?.family));
  return (
    <Box
      component="li"
      data-rulebook={rulebook.id}
      sx={{
        bgcolor: 'kit.card',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1.5,
        px: 4,
        py: 3,
        display: 'flex',
        flexDirection: 'column',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h3" component="h3" sx={{ flex: 1, fontSize: 17 }}>
          {rulebook.title}
        </Typography>
        <span className="figures">{rulebook.version}</span>
      </Box>
      <Typography sx={{ fontSize: 13, color: 'text.secondary', my: 1.5, flex: 1 }}>{rulebook.summary}</Typography>
      <Box sx={{ display: 'flex', gap: 2.5, alignItems: 'center', mb: 2 }}>
        {GRADES.map((grade) => (
          <GradeCount key={grade} grade={grade} count={rulebook.rules.filter((rule) => rule.grade === grade).length} />
        ))}
        <Box component="span" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          rules of {families.size} families
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button component={NextLink} href={`/rulebooks/${rulebook.id}`} variant="outlined">
          Read
        </Button>
        {own && (
          <Button component={NextLink} href={`/rulebooks/${rulebook.id}/edit`} variant="outlined">
            Edit
          </Button>
        )}
        <Button onClick={() => void actions.copy(rulebook)}>Copy</Button>
        <Button onClick={() => exportRulebook(rulebook)}>Export</Button>
        {own && (
          <Button color="error" onClick={() => void actions.remove(rulebook)}>
            Delete
          </Button>
        )}
      </Box>
    </Box>
  );
}
