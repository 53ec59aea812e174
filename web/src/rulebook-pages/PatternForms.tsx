import Box from '@mui/material/Box';
import type { NamingPattern } from '@itchkit/core/rulebook';
import { DraftText, type DraftError } from './DraftField';

export function PatternForms({
  patterns,
  error,
  onChange,
}: {
  patterns: NamingPattern[];
  error: DraftError;
  onChange: (patterns: NamingPattern[]) => void;
}) {
  const set = (i: number, fields: Partial<NamingPattern>) => onChange(patterns.map((one, k) => (k === i ? { ...one, ...fields } : one)));
  return patterns.map((pattern, i) => (
    <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '72px 1fr 1.2fr 1fr', gap: 2, alignItems: 'start' }}>
      <Box sx={{ pt: 2, fontSize: 13 }}>{pattern.role ?? 'all others'}</Box>
      <DraftText
        label="Pattern"
        path={`naming.patterns.${i}.pattern`}
        value={pattern.pattern}
        error={error}
        figures
        onChange={(value) => set(i, { pattern: value })}
      />
      <DraftText
        label="In words"
        path={`naming.patterns.${i}.explain`}
        value={pattern.explain}
        error={error}
        onChange={(value) => set(i, { explain: value })}
      />
      <DraftText
        label="Examples"
        path={`naming.patterns.${i}.examples`}
        value={pattern.examples.join(', ')}
        error={error}
        figures
        onChange={(value) =>
          set(i, { examples: value.split(',').map((one, k, all) => (k === all.length - 1 ? one.replace(/^ /, '') : one.trim())) })
        }
      />
    </Box>
  ));
}
