import type { StoreApi } from 'zustand';
import type { Clash, Kit, MemoryBlobs } from '@itchkit/core/document';
import type { Finding } from '@itchkit/core/rulebook';
import type { OpenWindow } from './company';
import type { Step } from './pending';

export type SaveState = 'saved' | 'saving' | 'waiting' | 'offline' | 'conflict' | 'refused';

export interface SessionState {
  kit: Kit;
  revision: number;
  undo: Step[];
  redo: Step[];
  save: SaveState;
  /** The sentence that goes with `offline`, `conflict` and `refused`. */
  saveMessage: string | null;
  /** What is owed to the first target. */
  findings: Finding[];
  /** What is owed to each target, by the rulebook's id. */
  owed: Record<string, Finding[]>;
  /** Whether `findings` are those of `kit` as it stands. */
  checked: boolean;
  /** An old revision that is looked at, read-only; null where the kit itself is in view. */
  viewing: Viewing | null;
  /** How long the last checks took, milliseconds, from the change to the Ledger. */
  checkMilliseconds: number;
  /** Where two windows changed the same fields; null where there is no conflict, or one of the whole. */
  clashes: Clash[] | null;
  /** Other windows that have the kit open. */
  others: OpenWindow[];
}

export interface Viewing {
  number: number;
  cause: string;
  at: string;
  kit: Kit;
}

/** What saving and checking see of the session. */
export interface SessionCore {
  readonly id: string;
  readonly store: StoreApi<SessionState>;
  readonly blobs: MemoryBlobs;
  readonly closed: boolean;
  /** What is in view: the kit, or an old revision. */
  readonly shown: Kit;
  notify(message: string): void;
  fetchBlobs(kit: Kit): Promise<void>;
  /** The document is another one: it is checked. */
  replaced(): void;
}
