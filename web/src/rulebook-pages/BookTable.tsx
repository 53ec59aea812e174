import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** A table of a booklet; cells of figures are set in the figures' type. */
export function BookTable({ head, rows }: { head: string[]; rows: { key: string; cells: ReactNode[] }[] }) {
  return (
    <Box
      component="table"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        fontSize: 13.5,
        mb: 2,
        '& th': { textAlign: 'left', fontWeight: 600, fontSize: 12, color: 'text.secondary', py: 0.75, pr: 3 },
        '& td': { py: 1, pr: 3, verticalAlign: 'top', borderTop: 1, borderColor: 'divider', lineHeight: 1.45 },
      }}
    >
      <thead>
        <tr>
          {head.map((title) => (
            <th key={title} scope="col">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, cells }) => (
          <tr key={key}>
            {cells.map((cell, i) => (
              <td key={head[i]}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
