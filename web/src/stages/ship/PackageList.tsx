'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DownloadOutlined from '@mui/icons-material/DownloadOutlined';
import { useQuery } from '@tanstack/react-query';
import { api } from '../../api';
import { formatAgo, formatBytes } from '../../format';
import { Empty } from '../../panels/Section';
import { useOpenKit } from '../../session/context';

/** Packages built from this kit, newest first. */
export function PackageList() {
  const { session } = useOpenKit();
  const { data, error } = useQuery({ queryKey: ['packages', session.id], queryFn: () => api.listPackages(session.id) });
  return (
    <Box component="section" aria-label="Packages" sx={{ height: '100%', overflow: 'auto', bgcolor: 'kit.sheet' }}>
      {error && <Empty>{error.message}</Empty>}
      {data?.length === 0 && <Empty>No package has been built yet. Each one stays here with its hash, to be downloaded again.</Empty>}
      {data && data.length > 0 && (
        <Box
          component="table"
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            fontSize: 13,
            '& th': { textAlign: 'left', fontWeight: 500, fontSize: 12, color: 'text.secondary', px: 1.5, py: 1.5 },
            '& td': { px: 1.5, py: 1, borderTop: 1, borderColor: 'divider' },
          }}
        >
          <thead>
            <tr>
              <th aria-label="Download" />
              <th>Package</th>
              <th>Revision</th>
              <th>Size</th>
              <th>SHA-256</th>
              <th>Built</th>
              <th>For</th>
            </tr>
          </thead>
          <tbody>
            {data.map((row) => (
              <tr key={row.id}>
                <td>
                  <Button
                    component="a"
                    href={`/api/packages/${row.id}`}
                    download={row.fileName}
                    startIcon={<DownloadOutlined />}
                    variant="outlined"
                  >
                    Download
                  </Button>
                </td>
                <td className="figures">{row.fileName}</td>
                <td className="figures">{row.revision}</td>
                <td className="figures" style={{ whiteSpace: 'nowrap' }}>
                  {formatBytes(row.size)}
                </td>
                <td className="figures" title={row.sha} data-testid="package-sha">
                  {row.sha.slice(0, 10)}…
                </td>
                <td style={{ whiteSpace: 'nowrap' }}>{formatAgo(row.at)}</td>
                <td>
                  {row.rulebook} {row.version}
                </td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
