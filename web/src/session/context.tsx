'use client';
import { useSnackbar } from 'notistack';
import { createContext, useCallback, useContext, useMemo, type ReactNode } from 'react';
import { useStore, type StoreApi } from 'zustand';
import { KitError, type Call, type Chosen, type Kit } from '@itchkit/core/document';
import { withDerived } from '@itchkit/core/rulebook';
import { rulebookOf } from '../rulebooks';
import type { Session, SessionState } from './session';
import type { UiState } from './ui-store';

interface OpenKit {
  session: Session;
  ui: StoreApi<UiState>;
}

const Context = createContext<OpenKit | null>(null);

export function OpenKitProvider({ session, ui, children }: OpenKit & { children: ReactNode }) {
  return <Context.Provider value={{ session, ui }}>{children}</Context.Provider>;
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

export function useSetUi(): (change: Partial<UiState>) => void {
  const { ui } = useOpenKit();
  return useCallback((change) => ui.setState(change), [ui]);
}

type SliceName = { [K in keyof UiState]: UiState[K] extends object ? K : never }[keyof UiState];

/** Changes of one slice of the interface's state. */
export function useSetSlice<K extends SliceName>(name: K): (change: Partial<UiState[K]>) => void {
  const { ui } = useOpenKit();
  return useCallback((change) => setSlice(ui, name, change), [ui, name]);
}

export function setSlice<K extends SliceName>(ui: StoreApi<UiState>, name: K, change: Partial<UiState[K]>): void {
  ui.setState((state) => ({ [name]: { ...(state[name] as object), ...change } }) as Partial<UiState>);
}

export type Run = (calls: Call | Call[], title?: string) => boolean;

/**
 * Runs operations, and goes along with what they say of what was chosen; where one can't be done, its sentence is shown and false is given.
 */
export function useRun(): Run {
  const { session, ui } = useOpenKit();
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(
    (calls, title) => {
      try {
        choose(ui, session.run(calls, title));
        return true;
      } catch (error) {
        if (!(error instanceof KitError)) throw error;
        enqueueSnackbar(error.message, { variant: 'error' });
        return false;
      }
    },
    [session, ui, enqueueSnackbar],
  );
}

/** What an operation says was chosen by it. */
export function choose(ui: StoreApi<UiState>, { parts, clip, keys, fresh, binding }: Chosen): void {
  const change: Partial<UiState> = {};
  if (parts) change.selection = parts;
  if (clip !== undefined && clip !== ui.getState().clip) Object.assign(change, { clip, time: 0, playing: false, keys: [] });
  // A tool works on all keys of the clip where none are chosen; then none are afterwards.
  if (keys && (fresh || ui.getState().keys.length > 0)) change.keys = keys;
  if (binding !== undefined) change.binding = binding;
  if (Object.keys(change).length > 0) ui.setState(change);
}

/** The rulebook of the target in view, with the kit's own variables among those of the platform. */
export function useRulebook() {
  const rulebook = rulebookOf(useSession((state) => state.kit.targets[0]));
  const derived = useSession((state) => state.kit.derived);
  return useMemo(() => rulebook && withDerived(rulebook, derived), [rulebook, derived]);
}
