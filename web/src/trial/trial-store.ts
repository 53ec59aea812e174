import { createStore, type StoreApi } from 'zustand';
import { MemoryBlobs, type Id, type Kit } from '@itchkit/core/document';
import { leverKey } from '@itchkit/core/wiring';
import { readPackage, type LoadedPackage } from '@itchkit/core/ship';
import { rulebookOf } from '../rulebooks';
import type { Session } from '../session/session';
import { importLog, type LogLine } from './brinework/import-log';

export interface TrialState {
  status: 'empty' | 'building' | 'running' | 'failed';
  message: string | null;
  /** The document that the package was built from: another one in the session means that the trial is behind. */
  builtFrom: Kit | null;
  loaded: LoadedPackage | null;
  blobs: MemoryBlobs | null;
  sha: string | null;
  bytes: number;
  milliseconds: number;
  log: LogLine[];
  levers: Record<string, number>;
  clip: Id | null;
  time: number;
  playing: boolean;
}

const EMPTY: TrialState = {
  status: 'empty',
  message: null,
  builtFrom: null,
  loaded: null,
  blobs: null,
  sha: null,
  bytes: 0,
  milliseconds: 0,
  log: [],
  levers: {},
  clip: null,
  time: 0,
  playing: false,
};

export type TrialStore = StoreApi<TrialState>;

export function createTrialStore(): TrialStore {
  return createStore(() => EMPTY);
}

/** Builds the package of the kit as it stands and loads it into the stand-in, from nothing but the package's bytes. */
export async function startTrial(store: TrialStore, session: Session): Promise<void> {
  if (store.getState().status === 'building') return;
  const kit = session.shown;
  const rulebook = rulebookOf(kit.targets[0]);
  if (!rulebook) {
    store.setState({ ...EMPTY, status: 'failed', message: 'This kit has no target whose rulebook is here. Choose one at the top.' });
    return;
  }
  store.setState({ status: 'building', message: null });
  try {
    const built = await session.pack();
    const blobs = new MemoryBlobs();
    const loaded = await readPackage(built.bytes, blobs);
    const levers = { ...store.getState().levers };
    for (const binding of Object.values(loaded.kit.bindings)) {
      const neutral = rulebook.variables.find((one) => one.name === binding.variable)?.neutral ?? 0;
      levers[leverKey(binding.variable, binding.index)] ??= neutral;
    }
    store.setState({
      status: 'running',
      builtFrom: kit,
      loaded,
      blobs,
      sha: built.sha,
      bytes: built.bytes.length,
      milliseconds: built.milliseconds,
      log: importLog(loaded, rulebook),
      levers,
      clip: null,
      time: 0,
      playing: false,
    });
  } catch (error) {
    store.setState({ ...EMPTY, status: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
}
