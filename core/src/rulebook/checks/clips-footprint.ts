import { isEmptyBounds, joinBounds } from '../../geometry';
import { beyond, footprintOf, type SweptPart } from '../../grounds';
import type { Footprint, Kit } from '../../document';
import type { Check } from '../types';
import { figure, nameList } from '../wording';

/** Of a part that leaves its tiles: when it is furthest out, in words. */
function whenOut(kit: Kit, { low, high }: Footprint, { bounds: { min, max }, when }: SweptPart): string {
  const out = [low[0] - min[0], -Infinity, low[2] - min[2], max[0] - high[0], -Infinity, max[2] - high[2]];
  const moment = when[out.indexOf(Math.max(...out))];
  return moment === null ? 'at rest' : `at ${figure(moment.seconds, 2)} s of “${kit.clips[moment.clip].name}”`;
}

/** Nothing leaves the tiles that the kit says it takes, or where it says none, those that it takes at rest. */
export const clipsFootprint: Check = {
  id: 'clips.footprint',
  family: 'clips',
  stage: 'motion',
  about: 'Nothing leaves the whole tiles that the kit takes, at rest and in every clip',
  limit: 'millimetres',
  run(context, rule) {
    const { kit, rulebook } = context;
    const said = kit.grounds?.footprint;
    if (!said && Object.keys(kit.clips).length === 0) return [];
    const still = joinBounds(context.bounds().values());
    if (isEmptyBounds(still)) return [];
    const tile = rulebook.tileMetres;
    const footprint = said ?? footprintOf(still, tile)!;
    const leaving = [...context.swept()]
      .map(([id, swept]) => ({ id, swept, by: beyond(footprint, swept.bounds) }))
      .filter(({ by }) => 1000 * by > rule.limit!)
      .sort((a, b) => b.by - a.by);
    if (leaving.length === 0) return [];
    const names = nameList(leaving.map(({ id }) => kit.parts[id].name));
    const goes = leaving.length === 1 ? 'goes' : 'go';
    const tiles = said ? 'the tiles that it takes' : 'the tiles that the kit stands on';
    const mend = said && {
      title: 'Take more tiles',
      safe: false,
      call: { operation: 'grounds.sweep-footprint', args: { tile } },
      changes: ['the tiles are taken from all that moves'],
    };
    return [
      {
        title: 'Leaves its tiles',
        message: `${names} ${goes} up to ${figure(leaving[0].by)} m beyond ${tiles}, ${whenOut(kit, footprint, leaving[0].swept)}.`,
        measured: `${figure(1000 * leaving[0].by, 0)} mm beyond`,
        limit: `${figure(rule.limit!, 0)} mm`,
        parts: leaving.map(({ id }) => id),
        ...(mend && { mend }),
      },
    ];
  },
};
