import { trackLength } from '../../motion';
import { clipsInOrder } from '../../document';
import { budget } from './budget';

/** Keys of each clip, over all its tracks. */
export const budgetsKeys = budget({
  id: 'budgets.keys',
  stage: 'motion',
  about: 'Keys of each clip, over all its tracks',
  unit: 'keys',
  title: 'Too many keys',
  what: 'One clip has',
  measure: ({ kit }) =>
    clipsInOrder(kit).map((clip) => ({
      key: clip.id,
      value: clip.tracks.reduce((sum, track) => sum + trackLength(track), 0),
      more: `It is “${clip.name}”.`,
    })),
});
