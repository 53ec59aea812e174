import type { Id, PoseDelta } from '@itchkit/core/document';
import { slice } from '../../session/ui-store';

/** What stands below the bench. */
export const VIEWS = ['stations', 'table', 'text'] as const;

export interface WiringState {
  /** Value of each lever, by `leverKey`. */
  levers: Record<string, number>;
  /** Parts that were posed on the bench and are not written into a table yet. */
  posed: Record<Id, PoseDelta>;
  view: (typeof VIEWS)[number];
}

declare module '../../session/ui-store' {
  interface UiState {
    wiring: WiringState;
  }
}

export const wiringSlice = slice('wiring', () => ({ levers: {}, posed: {}, view: 'stations' }), undefined, [
  ({ wiring }) => Object.keys(wiring.posed).length > 0,
  ({ wiring }) => ({ wiring: { ...wiring, posed: {} } }),
]);
