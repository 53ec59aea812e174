import { slice } from '../../session/ui-store';

export interface WiringState {
  /** Value of each lever, by `leverKey`. */
  levers: Record<string, number>;
}

declare module '../../session/ui-store' {
  interface UiState {
    wiring: WiringState;
  }
}

export const wiringSlice = slice('wiring', () => ({ levers: {} }));
