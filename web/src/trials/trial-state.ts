import type { StoreApi } from 'zustand';
import type { Pose } from '@itchkit/core/geometry';
import { MemoryBlobs, SECTION_LIST, STAYING, type Blobs, type Id, type Kit } from '@itchkit/core/document';
import { readPackage, type LoadedPackage } from '@itchkit/core/ship';
import { choosesOwnClips, takenBy, trialFor, type HeldPose, type LogLine } from '@itchkit/core/trial';
import { rulebookOf } from '../rulebooks';
import { setSlice, useUi } from '../session/context';
import { togglePlay, type PlayStore } from '../session/run-clock';
import type { Session } from '../session/session';
import { slice, type UiState } from '../session/ui-store';

/** A package in the trial, with the blobs that were read from it. */
export interface InTrial extends LoadedPackage {
  blobs: Blobs;
}

export interface TrialState {
  status: 'empty' | 'building' | 'running' | 'failed';
  message: string | null;
  /** The document that the package was built from: another one in the session means that the trial is behind. */
  builtFrom: Kit | null;
  loaded: InTrial | null;
  sha: string | null;
  bytes: number;
  milliseconds: number;
  log: LogLine[];
  levers: Record<string, number>;
  clip: Id | null;
  time: number;
  playing: boolean;
  /** What stands otherwise than levers and clip say: where a figure has gone. */
  held: readonly HeldPose[];
  /** The pose that a stand-in has worked out by itself, anew in each frame; null where clip and levers say it. */
  body: { pose: Pose } | null;
  /** Bodies beside the one that is posed, as they stand now; null where it is alone. */
  row: readonly RowPose[] | null;
  /** Overlays that do not run along; null where none does. */
  quiet: readonly Id[] | null;
  /** Who walks about, where that is the stand-in's to say: places of feet in the axes of what is loaded. */
  walkers: readonly (readonly [x: number, y: number, z: number])[];
  /** Seats on which somebody sits. */
  seated: readonly Id[];
  /** Tiles of the ground about it, with how much higher than it they are, metres; null where it stands on level ground. */
  terrain: readonly { middle: readonly number[]; height: number }[] | null;
  night: boolean;
}

declare module '../session/ui-store' {
  interface UiState {
    trial: TrialState;
  }
}

/** How a body beside another one stands. */
export interface RowPose {
  pose: Pose;
  /** Of its root, degrees about its own axes. */
  turn: readonly [number, number, number];
  /** Where it has gone on the field, metres to its left and ahead, and where it faces, degrees. */
  place: readonly [number, number];
  facing: number;
  /** What is passed in for it alone, in a few words; empty where it is as all are. */
  label: string;
}

/** Whether two states of a kit make the same package: all that goes into one is the same. */
export const packsAlike = (a: Kit | null, b: Kit): boolean =>
  a === b || (a !== null && SECTION_LIST.every(({ name }) => STAYING.includes(name) || a[name] === b[name]));

const EMPTY: TrialState = {
  status: 'empty',
  message: null,
  builtFrom: null,
  loaded: null,
  sha: null,
  bytes: 0,
  milliseconds: 0,
  log: [],
  levers: {},
  clip: null,
  time: 0,
  playing: false,
  held: [],
  body: null,
  row: null,
  quiet: null,
  walkers: [],
  seated: [],
  terrain: null,
  night: false,
};

export const trialSlice = slice('trial', () => EMPTY);

export function useTrial<T>(select: (state: TrialState) => T): T {
  return useUi((state) => select(state.trial));
}

const playStores = new WeakMap<StoreApi<UiState>, PlayStore>();

/** Whether the stand-in of a package says itself what plays. */
export const choosesClips = (loaded: InTrial | null): boolean => loaded !== null && choosesOwnClips(loaded.manifest.target.rulebook);

/** Plays the open clip of the package, or lets what the stand-in plays go on; or stops. */
export function playTrial(ui: StoreApi<UiState>): void {
  const { loaded, playing } = ui.getState().trial;
  if (choosesClips(loaded)) return setSlice(ui, 'trial', { playing: !playing });
  let store = playStores.get(ui);
  if (!store) {
    store = { getState: () => ui.getState().trial, setState: (change) => setSlice(ui, 'trial', change) };
    playStores.set(ui, store);
  }
  togglePlay(store, ui.getState().trial.loaded?.kit.clips);
}

/** Builds the package of the kit as it stands and loads it into the stand-in, from nothing but the package's bytes. */
export async function startTrial(ui: StoreApi<UiState>, session: Session): Promise<void> {
  const set = (change: Partial<TrialState>) => setSlice(ui, 'trial', change);
  if (ui.getState().trial.status === 'building') return;
  const kit = session.shown;
  const rulebook = rulebookOf(kit.targets[0]);
  if (!rulebook) {
    set({ ...EMPTY, status: 'failed', message: 'This kit has no target whose rulebook is here. Choose one at the top.' });
    return;
  }
  const trial = trialFor(rulebook);
  if (!trial) {
    set({ ...EMPTY, status: 'failed', message: `There is no stand-in for ${rulebook.title}. Ship builds its package all the same.` });
    return;
  }
  set({ status: 'building', message: null });
  try {
    const built = await session.pack();
    const blobs = new MemoryBlobs();
    const loaded = { ...takenBy(await readPackage(built.bytes, blobs), rulebook), blobs };
    const levers = { ...ui.getState().trial.levers };
    for (const { key, variable } of trial.levers(loaded, rulebook)) levers[key] ??= variable.neutral;
    set({
      status: 'running',
      builtFrom: kit,
      loaded,
      sha: built.sha,
      bytes: built.bytes.length,
      milliseconds: built.milliseconds,
      log: trial.importLog(loaded, rulebook),
      levers,
      clip: null,
      time: 0,
      playing: false,
      held: [],
      body: null,
      quiet: trial.choosesClips ? [] : null,
      walkers: [],
      seated: [],
      terrain: null,
      night: false,
    });
  } catch (error) {
    set({ ...EMPTY, status: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
}
