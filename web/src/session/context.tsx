'use client';
import { useSnackbar } from 'notistack';
import { createContext, useCallback, useContext, type ReactNode } from 'react';
import { useStore, type StoreApi } from 'zustand';
import { KitError, type Call, type Kit } from '@itchkit/core/document';
import { rulebookOf } from '../rulebooks';
import type { Session, SessionState } from './session';
import type { TrialState, TrialStore } from '../trial/trial-store';
import type { UiState } from './ui-store';

interface OpenKit {
  session: Session;
  ui: StoreApi<UiState>;
  trial: TrialStore;
}

const Context = createContext<OpenKit | null>(null);

export function OpenKitProvider({ session, ui, trial, children }: OpenKit & { children: ReactNode }) {
  return <Context.Provider value={{ session, ui, trial }}>{children}</Context.Provider>;
}

export function useOpenKit(): OpenKit {
  const open = useContext(Context);
  if (!open) throw new Error('useOpenKit outside of a workspace');
  return open;
}

export function useSession<T>(select: (state: SessionState) => T): T {
  return useStore(useOpenKit().session.store, select);
}

/** The kit in view: as it is, or an old revision that is looked at. */
export function useKit(): Kit {
  return useSession((state) => state.viewing?.kit ?? state.kit);
}

export function useUi<T>(select: (state: UiState) => T): T {
  return useStore(useOpenKit().ui, select);
}

export function useTrial<T>(select: (state: TrialState) => T): T {
  return useStore(useOpenKit().trial, select);
}

export function useSetUi(): (change: Partial<UiState>) => void {
  const { ui } = useOpenKit();
  return useCallback((change) => ui.setState(change), [ui]);
}

/** Changes of what Rig is at work on. */
export function useSetRig(): (change: Partial<UiState['rig']>) => void {
  const { ui } = useOpenKit();
  return useCallback((change) => ui.setState({ rig: { ...ui.getState().rig, ...change } }), [ui]);
}

/** Changes of what Motion is at work on. */
export function useSetMotion(): (change: Partial<UiState['motion']>) => void {
  const { ui } = useOpenKit();
  return useCallback((change) => ui.setState({ motion: { ...ui.getState().motion, ...change } }), [ui]);
}

/** Runs operations; where one can't be done, its sentence is shown and false is given. */
export function useRun(): (calls: Call | Call[], title?: string) => boolean {
  const { session } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(
    (calls, title) => {
      try {
        session.run(calls, title);
        return true;
      } catch (error) {
        if (!(error instanceof KitError)) throw error;
        enqueueSnackbar(error.message, { variant: 'error' });
        return false;
      }
    },
    [session, enqueueSnackbar],
  );
}

export function useRulebook() {
  return rulebookOf(useSession((state) => state.kit.targets[0]));
}
