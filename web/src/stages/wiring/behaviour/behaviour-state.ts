import type { Id } from '@itchkit/core/document';
import type { Pose } from '@itchkit/core/geometry';
import { slice } from '../../../session/ui-store';

export interface BehaviourUi {
  /** The layer and the passage that are worked on; null takes the first, and none. */
  layer: Id | null;
  passage: Id | null;
  /** The mix and the clip of it that are worked on; null takes the first, and none. */
  mix: Id | null;
  peg: Id | null;
  /** What stands on the strip. */
  view: 'passages' | 'map' | 'mixes';
  /** Words that passages are looked for by. */
  search: string;
  /** Whether the bench plays what is passed in, and the pose that it is in. */
  playing: boolean;
  body: { pose: Pose } | null;
  /** In which state each layer is, for *What if*; one that is not named is where it begins. */
  in: Readonly<Record<Id, Id>>;
  /** Groups of states that are folded, by their keys. */
  folded: readonly string[];
  /** Which asking to show something was the last that was heeded. */
  shown: number;
  /** What is passed in, for *What if*; what is not named is as at the start. */
  values: Readonly<Record<string, number | string | boolean>>;
}

declare module '../../../session/ui-store' {
  interface UiState {
    behaviour: BehaviourUi;
  }
}

const EMPTY: BehaviourUi = {
  layer: null,
  passage: null,
  mix: null,
  peg: null,
  view: 'passages',
  search: '',
  playing: false,
  body: null,
  in: {},
  folded: [],
  shown: 0,
  values: {},
};

export const behaviourSlice = slice('behaviour', () => EMPTY, undefined, [
  ({ behaviour }) => behaviour.passage !== null || behaviour.peg !== null,
  ({ behaviour }) => ({ behaviour: { ...behaviour, passage: null, peg: null } }),
]);
