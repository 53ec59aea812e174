import { isEmptyBounds, joinBounds } from '../../geometry';
import { figure, nameList } from '../wording';

/** A hair over a tile is the next one by rounding alone, metres. */
const NEAR = 1e-4;

import type { Check } from '../types';

/** Nothing leaves the footprint in whole tiles that the kit has at rest. */
export const clipsFootprint: Check = {
  id: 'clips.footprint',
  family: 'clips',
  stage: 'motion',
  about: 'Nothing leaves the footprint in whole tiles that the kit has at rest',
  limit: 'millimetres',
  run(context, rule) {
    const { kit, rulebook } = context;
    if (Object.keys(kit.clips).length === 0) return [];
    const still = joinBounds(context.bounds().values());
    if (isEmptyBounds(still)) return [];
    const tile = rulebook.tileMetres;
    const low = [0, 2].map((axis) => Math.floor((still.min[axis] + NEAR) / tile) * tile);
    const high = [0, 2].map((axis) => Math.ceil((still.max[axis] - NEAR) / tile) * tile);
    const leaving = [...context.swept()]
      .map(([id, { min, max }]) => ({ id, by: Math.max(low[0] - min[0], low[1] - min[2], max[0] - high[0], max[2] - high[1]) }))
      .filter(({ by }) => 1000 * by > rule.limit!)
      .sort((a, b) => b.by - a.by);
    if (leaving.length === 0) return [];
    return [
      {
        title: 'Leaves its tiles',
        message: `${nameList(leaving.map(({ id }) => kit.parts[id].name))} ${leaving.length === 1 ? 'goes' : 'go'} up to ${figure(leaving[0].by)} m beyond the tiles that the kit stands on.`,
        measured: `${figure(1000 * leaving[0].by, 0)} mm beyond`,
        limit: `${figure(rule.limit!, 0)} mm`,
        parts: leaving.map(({ id }) => id),
      },
    ];
  },
};
