'use client';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import type { StoreApi } from 'zustand';
import { Session } from '../session/session';
import { createUiStore, type UiState } from '../session/ui-store';
import { STAGES } from '../stages/list';

type Opened = { state: 'opening' } | { state: 'failed'; message: string } | { state: 'open'; session: Session; ui: StoreApi<UiState> };

/** Opens a kit for as long as the page shows it. */
export function useOpenedKit(id: string): Opened {
  const [opened, setOpened] = useState<Opened>({ state: 'opening' });
  const { enqueueSnackbar } = useSnackbar();
  useEffect(() => {
    let left = false;
    let session: Session | null = null;
    Session.open(id, (message) => enqueueSnackbar(message))
      .then((made) => {
        if (left) return made.close();
        session = made;
        setOpened({ state: 'open', session: made, ui: createUiStore(STAGES.flatMap(({ slices }) => slices)) });
      })
      .catch((error: unknown) => !left && setOpened({ state: 'failed', message: error instanceof Error ? error.message : String(error) }));
    return () => {
      left = true;
      session?.close();
    };
  }, [id, enqueueSnackbar]);
  return opened;
}
