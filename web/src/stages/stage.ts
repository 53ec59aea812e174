import type { ComponentType } from 'react';
import type { StoreApi } from 'zustand';
import { STAGE_TITLES, type Rulebook, type Stage } from '@itchkit/core/rulebook';
import type { BenchStage } from '../bench/bench-stage';
import type { Command } from '../panels/command';
import type { Run } from '../session/context';
import type { Session } from '../session/session';
import type { Slice, UiState } from '../session/ui-store';

/** What commands work on. */
export interface CommandContext {
  session: Session;
  ui: StoreApi<UiState>;
  rulebook: Rulebook | undefined;
  run: Run;
}

/** What keys of the whole workspace do in a stage. */
export interface StageKeys {
  /** Space. */
  play?(): void;
  /** Delete: what it takes away there. */
  remove?: Pick<Command, 'title' | 'blocked' | 'calls' | 'run'>;
}

/** All that there is to a stage. Beside what it says here, `core/rulebook` has its name and place in the work. */
export interface StageDefinition {
  id: Stage;
  /** Whether a target asks anything of it; without a rulebook every stage is there. */
  neededBy(rulebook: Rulebook): boolean;
  /** The row above the bench. */
  Tools: ComponentType;
  Card: ComponentType;
  /** Below the bench. */
  Strip: ComponentType | null;
  bench: BenchStage;
  /** Whether what is framed is the chosen parts; otherwise everything always is. */
  framesChosen: boolean;
  keys(context: CommandContext): StageKeys;
  /** What else can be done there, with keys and by the finder; in other stages they say where they are. */
  commands(context: CommandContext): Command[];
  /** What it adds to the interface's state. */
  slices: readonly Slice[];
}

export const titleOf = ({ id }: Pick<StageDefinition, 'id'>): string => STAGE_TITLES[id];
