'use client';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useRouter } from 'next/navigation';
import type { ShelfKit } from '../api';
import { unsavedKits } from '../session/journal';
import { Session } from '../session/session';

/** Kits with changes that windows which are gone could not save: they are saved from here, or opened where there is something to decide. */
export function UnsavedKits({ kits }: { kits: readonly ShelfKit[] }) {
  const { data } = useQuery({ queryKey: ['unsaved'], queryFn: unsavedKits, refetchOnWindowFocus: true });
  const unsaved = kits.filter(({ id }) => data?.has(id));
  return unsaved.map((kit) => <UnsavedKit key={kit.id} kit={kit} />);
}

function UnsavedKit({ kit }: { kit: ShelfKit }) {
  const queries = useQueryClient();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const save = async () => {
    try {
      const session = await Session.open(kit.id, (message) => enqueueSnackbar(message));
      await session.flush();
      const { save: state } = session.store.getState();
      await session.kept();
      session.close();
      if (state === 'conflict') router.push(`/kits/${kit.id}/intake`);
      else if (state === 'saved') enqueueSnackbar(`“${kit.name}” is saved.`);
    } catch (error) {
      enqueueSnackbar(error instanceof Error ? error.message : String(error), { variant: 'error' });
    }
    await queries.invalidateQueries({ queryKey: ['unsaved'] });
    await queries.invalidateQueries({ queryKey: ['kits'] });
  };
  return (
    <Alert
      severity="warning"
      variant="outlined"
      sx={{ bgcolor: 'kit.card', mb: 3 }}
      action={
        <Button color="inherit" onClick={() => void save()}>
          Save now
        </Button>
      }
    >
      “{kit.name}” has changes that were not saved when its window was closed.
    </Alert>
  );
}
