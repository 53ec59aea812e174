import Box from '@mui/material/Box';
import type { PlannedName } from '@itchkit/core/rulebook';

/** More rows than anyone reads; the counts beside the table are of all. */
const MOST_ROWS = 400;

/** Each name before and after; those that change stand out, those that clash more so. */
export function RenameTable({ plan }: { plan: PlannedName[] }) {
  // What changes is on top.
  const rows = [...plan.filter((one) => one.before !== one.after), ...plan.filter((one) => one.before === one.after)];
  return (
    <Box
      sx={{ maxHeight: 360, overflowY: 'auto', border: 1, borderColor: 'divider', borderRadius: 1 }}
      tabIndex={0}
      role="region"
      aria-label="Names before and after"
    >
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: 13,
          '& th': {
            textAlign: 'left',
            fontWeight: 600,
            fontSize: 12,
            color: 'text.secondary',
            position: 'sticky',
            top: 0,
            bgcolor: 'kit.sheet',
            px: 2,
            py: 1,
          },
          '& td': { px: 2, py: 0.5, borderTop: 1, borderColor: 'divider', overflowWrap: 'anywhere' },
        }}
      >
        <thead>
          <tr>
            <th scope="col">Before</th>
            <th scope="col">After</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, MOST_ROWS).map(({ id, before, after, clash }) => {
            const changes = before !== after;
            return (
              <tr key={id} data-renamed={changes ? after : undefined}>
                <Box component="td" sx={{ color: changes ? 'text.primary' : 'text.secondary' }}>
                  {before}
                </Box>
                <Box
                  component="td"
                  sx={changes ? { color: clash ? 'kit.stop' : 'kit.sea', fontWeight: 600 } : { color: 'text.secondary', fontWeight: 400 }}
                >
                  {after || '(empty)'}
                  {changes && clash && after !== '' && ' (taken)'}
                </Box>
              </tr>
            );
          })}
        </tbody>
      </Box>
      {plan.length > MOST_ROWS && (
        <Box sx={{ px: 2, py: 1, fontSize: 12, color: 'text.secondary' }}>and {plan.length - MOST_ROWS} more</Box>
      )}
    </Box>
  );
}
