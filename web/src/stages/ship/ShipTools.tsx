'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import FileDownloadOutlined from '@mui/icons-material/FileDownloadOutlined';
import Inventory2Outlined from '@mui/icons-material/Inventory2Outlined';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { count } from '@itchkit/core/document';
import { countGrades } from '@itchkit/core/rulebook';
import { api } from '../../api';
import { useOpenKit, useSession } from '../../session/context';
import { ViewTools } from '../../bench/BenchTools';

export function ShipTools() {
  const { session } = useOpenKit();
  const findings = useSession((state) => state.findings);
  const checked = useSession((state) => state.checked);
  const queries = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const { stop } = countGrades(findings);
  const build = useMutation({
    mutationFn: async () => {
      await session.flush();
      return api.buildPackage(session.id);
    },
    onSuccess: (row) => {
      void queries.invalidateQueries({ queryKey: ['packages', session.id] });
      enqueueSnackbar(`Built ${row.fileName}.`, { variant: 'success' });
    },
    onError: (error) => enqueueSnackbar(error.message, { variant: 'error' }),
  });
  const exportKit = async () => {
    await session.flush();
    window.location.assign(`/api/kits/${session.id}/archive`);
  };
  return (
    <>
      <Button
        variant="contained"
        startIcon={<Inventory2Outlined />}
        disabled={!checked || stop > 0 || build.isPending}
        onClick={() => build.mutate()}
        sx={{ whiteSpace: 'nowrap', flex: 'none' }}
      >
        {build.isPending ? 'Building …' : 'Build package'}
      </Button>
      <Tooltip describeChild title="The kit itself as a file: any shelf takes it in, and the command line too">
        <Button
          color="inherit"
          startIcon={<FileDownloadOutlined />}
          onClick={() => void exportKit()}
          sx={{ ml: 1, whiteSpace: 'nowrap', flex: 'none' }}
        >
          Export kit
        </Button>
      </Tooltip>
      <Box component="span" role="status" sx={{ fontSize: 12.5, lineHeight: 1.25, mx: 2, color: stop > 0 ? 'kit.stop' : 'text.secondary' }}>
        {stop > 0 ? `${count(stop, 'stop is', 'stops are')} open: see the Ledger` : 'nothing stops it'}
      </Box>
      <ViewTools />
    </>
  );
}
