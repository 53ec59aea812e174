import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { api, type RevisionRow } from '../api';
import { Empty } from '../panels/Section';
import { formatAgo } from '../format';
import { useOpenKit, useSession } from '../session/context';
import { CompareRevisions } from './CompareRevisions';
import { NameRevision } from './NameRevision';
import { RevisionNote } from './RevisionNote';

/** All saved revisions, newest first: look at one, compare it with another, or name it so that it stays. */
export function RevisionList({ onView }: { onView: () => void }) {
  const { session } = useOpenKit();
  const revision = useSession((state) => state.revision);
  const viewing = useSession((state) => state.viewing?.number);
  const { enqueueSnackbar } = useSnackbar();
  const { data, error } = useQuery({ queryKey: ['revisions', session.id, revision], queryFn: () => api.listRevisions(session.id) });
  const [compared, setCompared] = useState<number | null>(null);
  const [named, setNamed] = useState<RevisionRow | null>(null);
  const view = async (number: number) => {
    try {
      if (number === revision) session.leaveView();
      else await session.view(number);
      onView();
    } catch (reason) {
      enqueueSnackbar(reason instanceof Error ? reason.message : String(reason), { variant: 'error' });
    }
  };
  if (error) return <Empty>{error.message}</Empty>;
  if (!data) return <Empty>Reading the revisions …</Empty>;
  return (
    <>
      <Box component="ol" reversed aria-label="Revisions" sx={{ listStyle: 'none', m: 0, p: 0, overflowY: 'auto' }}>
        {data.map((row) => (
          <Box
            component="li"
            key={row.number}
            sx={{
              px: 4,
              py: 1.5,
              borderBottom: 1,
              borderColor: 'divider',
              bgcolor: row.number === (viewing ?? revision) ? 'kit.card' : undefined,
            }}
          >
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', fontSize: 13 }}>
              <span className="figures">{row.number}</span>
              <Box sx={{ flex: 1, overflowWrap: 'anywhere' }}>
                {row.name !== null && <Box sx={{ fontWeight: 600 }}>{row.name}</Box>}
                {row.cause}
              </Box>
              <Box
                component="time"
                dateTime={row.at}
                title={new Date(row.at).toLocaleString('en')}
                sx={{ color: 'text.secondary', fontSize: 12, whiteSpace: 'nowrap' }}
              >
                {formatAgo(row.at)}
              </Box>
            </Box>
            <Box sx={{ display: 'flex', gap: 1, ml: -1 }}>
              <Button size="small" color="inherit" onClick={() => void view(row.number)} disabled={row.number === (viewing ?? revision)}>
                {row.number === revision ? 'Back to now' : 'Look at it'}
              </Button>
              <Button size="small" color="inherit" onClick={() => setCompared(row.number)} disabled={data.length < 2}>
                Compare
              </Button>
              <Button size="small" color="inherit" onClick={() => setNamed(row)}>
                {row.name === null ? 'Name it' : 'Rename'}
              </Button>
            </Box>
            {row.notes?.map((note) => (
              <RevisionNote key={note.at} note={note} revision={row.number} />
            ))}
          </Box>
        ))}
      </Box>
      {named && <NameRevision row={named} onClose={() => setNamed(null)} />}
      {compared !== null && <CompareRevisions rows={data} first={compared} onClose={() => setCompared(null)} />}
    </>
  );
}
