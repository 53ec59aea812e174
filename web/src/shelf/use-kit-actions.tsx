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
  /** Says what was done, with a button that takes it back. */
  const offer = (message: string, word: string, back: () => Promise<unknown>) =>
    enqueueSnackbar(message, {
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            void attempt(back);
          }}
        >
          {word}
        </Button>
      ),
    });
  return {
    rename: (name: string) =>
      attempt(async () => {
        const next = name.trim();
        if (next === '' || next === kit.name) return;
        const save = (base: number, value: string) =>
          api.saveKit(kit.id, base, [{ op: 'replace', path: ['name'], value }], `Rename the kit to “${value}”`);
        const { revision } = await save(kit.revision, next.slice(0, 200));
        offer(`Renamed to “${next}”.`, 'Undo', () => save(revision, kit.name));
      }),
    duplicate: () => attempt(() => api.duplicateKit(kit.id)),
    remove: () =>
      attempt(async () => {
        await api.deleteKit(kit.id);
        offer(`“${kit.name}” was taken off the shelf.`, 'Put it back', () => api.restoreKit(kit.id));
      }),
  };
}
