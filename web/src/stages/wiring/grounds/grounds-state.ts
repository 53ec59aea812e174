import type { Footprint, Id, Vec3 } from '@itchkit/core/document';
import { slice } from '../../../session/ui-store';

export interface GroundsUi {
  /** Knots of the walkway that are chosen. */
  knots: Id[];
  /** Whether a click on what can be walked puts a knot. */
  putting: boolean;
  /** What is being dragged just now: a knot, or the tiles. */
  dragged: { knot: Id; at: Vec3 } | null;
  tiles: Pick<Footprint, 'low' | 'high'> | null;
  night: boolean;
  /** Paints that are looked at, by the name of the material. */
  paints: Readonly<Record<string, string>>;
  /** Whether where everything comes is drawn. */
  shell: boolean;
  /** Whether how high it stands on each tile is drawn. */
  heights: boolean;
}

declare module '../../../session/ui-store' {
  interface UiState {
    grounds: GroundsUi;
  }
}

const EMPTY: GroundsUi = { knots: [], putting: false, dragged: null, tiles: null, night: false, paints: {}, shell: false, heights: false };

export const groundsSlice = slice('grounds', () => EMPTY, undefined, [
  ({ grounds }) => grounds.putting || grounds.knots.length > 0,
  ({ grounds }) => ({ grounds: { ...grounds, putting: false, knots: grounds.putting ? grounds.knots : [] } }),
]);
