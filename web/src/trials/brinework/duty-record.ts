import type { StoreApi } from 'zustand';
import { freeName, newId, type Kit, type OwnDuty } from '@itchkit/core/document';
import { linesOfRecord, type LeverSet, type Order } from '@itchkit/core/trial';
import type { UiState } from '../../session/ui-store';

/** What can be worked: levers and orders. */
export interface Worked {
  key: string;
  variable: { name: string };
  index: number | null;
}

/** Listens to levers from now on. `stop` gives what was done with them. */
export function beginRecord(ui: StoreApi<UiState>, worked: readonly Worked[], now: () => number) {
  const began = now();
  const start = { ...ui.getState().trial.levers };
  const sets: LeverSet[] = [];
  const stop = ui.subscribe((state, before) => {
    if (state.trial.levers === before.trial.levers) return;
    for (const { key, variable, index } of worked) {
      const value = state.trial.levers[key];
      if (value !== before.trial.levers[key] && value !== undefined)
        sets.push({ key, variable: variable.name, index, time: (now() - began) / 1000, value });
    }
  });
  return () => {
    stop();
    return { sets, start, seconds: (now() - began) / 1000 };
  };
}

export type Recorded = ReturnType<ReturnType<typeof beginRecord>>;

/**
 * A duty of what was done: what an order moved is left to the order. It lasts as long as was written, an hour at most.
 *
 * @returns null where nothing was
 */
export function dutyOfRecord({ sets, start, seconds }: Recorded, orders: readonly Order[], { duties = [] }: Kit): OwnDuty | null {
  const ordered = new Set(orders.filter(({ key }) => sets.some((one) => one.key === key)).map(({ position }) => position.key));
  const lines = linesOfRecord(
    sets.filter(({ key }) => !ordered.has(key)),
    start,
  );
  if (lines.length === 0) return null;
  const name = freeName('My duty', new Set(duties.map((one) => one.name)), ' ');
  return { id: newId(), name, about: '', seconds: Math.min(3600, Math.max(1, Math.ceil(seconds))), lines };
}
