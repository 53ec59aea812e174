import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import Close from '@mui/icons-material/Close';
import { CHECKS, GRADES, type Grade, type Rule } from '@itchkit/core/rulebook';
import { DraftNumber, DraftText, errorAt, type DraftError } from './DraftField';

/** Each rule with its grade, limit and reason; rules are added by what they look at. */
export function RuleForms({ rules, error, onChange }: { rules: Rule[]; error: DraftError; onChange: (rules: Rule[]) => void }) {
  const set = (i: number, fields: Partial<Rule>) => onChange(rules.map((one, k) => (k === i ? { ...one, ...fields } : one)));
  return (
    <>
      <AddRule rules={rules} onAdd={(rule) => onChange([...rules, rule])} />
      {rules.map((rule, i) => (
        <Box key={`${rule.id}/${i}`} data-rule={rule.id} sx={{ borderTop: 1, borderColor: 'divider', pt: 2 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', fontSize: 13, mb: 1.5 }}>
            <Box sx={{ flex: 1, color: errorAt(error, `rules.${i}`) ? 'kit.stop' : undefined }}>
              <b>{CHECKS.get(rule.check)?.about ?? rule.check}</b>
              {rule.roles && ` (${rule.roles.join(', ')})`}
            </Box>
            <Tooltip title="Take the rule out">
              <IconButton
                size="small"
                aria-label={`Take out the rule ${rule.id}`}
                onClick={() => onChange(rules.filter((_, k) => k !== i))}
              >
                <Close sx={{ fontSize: 15 }} />
              </IconButton>
            </Tooltip>
          </Box>
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: rule.limit === undefined ? '100px 1fr' : '100px 190px 1fr',
              gap: 2,
              alignItems: 'start',
            }}
          >
            <TextField
              select
              size="small"
              label="Grade"
              value={rule.grade}
              onChange={(event) => set(i, { grade: event.target.value as Grade })}
            >
              {GRADES.map((grade) => (
                <MenuItem key={grade} value={grade}>
                  {grade}
                </MenuItem>
              ))}
            </TextField>
            {rule.limit !== undefined && (
              <DraftNumber
                label="Limit"
                unit={shortUnit(CHECKS.get(rule.check)?.limit)}
                path={`rules.${i}.limit`}
                value={rule.limit}
                error={error}
                onChange={(value) => set(i, { limit: value })}
              />
            )}
            <DraftText
              label="Why"
              path={`rules.${i}.why`}
              value={rule.why}
              error={error}
              multiline
              onChange={(value) => set(i, { why: value })}
            />
          </Box>
        </Box>
      ))}
    </>
  );
}

const shortUnit = (unit: string | undefined) => unit?.split(/[,(]| of | a /)[0];

function AddRule({ rules, onAdd }: { rules: Rule[]; onAdd: (rule: Rule) => void }) {
  const checks = [...CHECKS.values()].sort((a, b) => a.family.localeCompare(b.family));
  return (
    <Autocomplete
      size="small"
      options={checks}
      value={null}
      blurOnSelect
      clearOnBlur
      groupBy={(check) => check.family}
      getOptionLabel={(check) => check.about}
      onChange={(_, check) => {
        if (!check) return;
        const base = check.id.replace('.', '-');
        const id = rules.some((rule) => rule.id === base) ? `${base}-${rules.length + 1}` : base;
        onAdd({
          id,
          check: check.id,
          grade: 'warn',
          why: 'Write here why the platform asks for it.',
          ...(check.limit ? { limit: 1 } : {}),
        });
      }}
      renderInput={(params) => <TextField {...params} label="Add a rule that looks at …" />}
    />
  );
}
