'use client';
import Button from '@mui/material/Button';
import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { api, type ShelfKit } from '../api';

/** What can be done with a kit on the shelf; taking one off can be undone. */
export function useKitActions(kit: ShelfKit) {
  const queries = useQueryClient();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const attempt = async (run: () => Promise<unknown>) => {
    try {
      await run();
    } catch (error) {
      enqueueSnackbar(error instanceof Error ? error.message : String(error), { variant: 'error' });
    }
    await queries.invalidateQueries({ queryKey: ['kits'] });
  };
  return {
    rename: (name: string) =>
      attempt(async () => {
        const next = name.trim();
        if (next === '' || next === kit.name) return;
        await api.saveKit(kit.id, kit.revision, [{ op: 'replace', path: ['name'], value: next.slice(0, 200) }], `Rename the kit to “${next}”`);
      }),
    duplicate: () => attempt(() => api.duplicateKit(kit.id)),
    remove: () =>
      attempt(async () => {
        await api.deleteKit(kit.id);
        enqueueSnackbar(`“${kit.name}” was taken off the shelf.`, {
          action: (key) => (
            <Button
              color="inherit"
              onClick={() => {
                closeSnackbar(key);
                void attempt(() => api.restoreKit(kit.id));
              }}
            >
              Put it back
            </Button>
          ),
        });
      }),
  };
}
