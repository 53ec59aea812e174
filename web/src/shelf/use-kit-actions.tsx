'use client';
import Button from '@mui/material/Button';
import { useQueryClient } from '@tanstack/react-query';
import { nanoid } from 'nanoid';
import { useSnackbar } from 'notistack';
import { count, cutText, keepable } from '@itchkit/core/document';
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
    rename: (typed: string) =>
      attempt(async () => {
        const next = keepable(typed.trim());
        if (next === '' || next === kit.name) return;
        const save = (base: number, was: string, now: string) => {
          const title = `Rename the kit to “${now}”`;
          return api.saveKit(kit.id, { base, key: nanoid(), title, changes: [{ path: ['name'], was, now }] });
        };
        const name = cutText(next, 200);
        const { revision } = await save(kit.revision, kit.name, name);
        offer(`Renamed to “${name}”.`, 'Undo', () => save(revision, name, kit.name));
      }),
    duplicate: () => attempt(() => api.duplicateKit(kit.id)),
    remove: () =>
      attempt(async () => {
        await api.deleteKit(kit.id);
        offer(`“${kit.name}” was taken off the shelf.`, 'Put it back', () => api.restoreKit(kit.id));
      }),
  };
}

/** What can be done with several kits at once; taking them off can be undone. */
export function useManyKits() {
  const queries = useQueryClient();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const each = async (kits: readonly ShelfKit[], run: (kit: ShelfKit) => Promise<unknown>) => {
    let done = 0;
    try {
      for (const kit of kits) {
        await run(kit);
        done++;
      }
    } catch (error) {
      enqueueSnackbar(error instanceof Error ? error.message : String(error), { variant: 'error' });
    }
    await queries.invalidateQueries({ queryKey: ['kits'] });
    await queries.invalidateQueries({ queryKey: ['history'] });
    return done;
  };
  const putBack = (kits: readonly ShelfKit[]) => each(kits, ({ id }) => api.restoreKit(id));
  return {
    copyAll: (kits: readonly ShelfKit[]) => each(kits, ({ id }) => api.duplicateKit(id)),
    async removeAll(kits: readonly ShelfKit[]) {
      const done = await each(kits, ({ id }) => api.deleteKit(id));
      if (done === 0) return;
      enqueueSnackbar(`${count(done, 'kit was', 'kits were')} taken off the shelf.`, {
        action: (key) => (
          <Button
            color="inherit"
            onClick={() => {
              closeSnackbar(key);
              void putBack(kits.slice(0, done));
            }}
          >
            Put them back
          </Button>
        ),
      });
    },
  };
}
