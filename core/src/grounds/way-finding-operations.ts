import Joi from 'joi';
import { count, defineOperation, idSchema, idsSchema, newId, partOf, type Blobs, type Id, type Kit } from '../document';
import { findBetween, findWay } from './find-way';
import { ringWay } from './ring-way';
import { walkRulesSchema, type WalkRules } from './rules';
import { seatPlaces, type SeatGroup } from './seats';
import { floorsOf } from './walk-floors';
import type { WalkWorld } from './walk-spans';
import { buildWalkWorld } from './walk-world';
import { knotOf, WalkwayError, walkwayOf } from './walkway-operations';

const groupsSchema = Joi.array().items(Joi.object({ carrier: idSchema.required(), seats: idsSchema.required() }));

/** What visitors walk on over the tiles of a kit, in all of its clips. @throws {WalkwayError} where it does not say which tiles it takes */
function worldOf(kit: Kit, blobs: Blobs, rules: WalkRules): WalkWorld {
  const footprint = kit.grounds?.footprint;
  if (!footprint)
    throw new WalkwayError('no-footprint', 'This kit does not say which tiles it takes, so it has no edge to come from. Say that first.');
  return buildWalkWorld(kit, blobs, Object.values(kit.clips), footprint, rules);
}

/**
 * Finds a way from the edge of the tiles to each group of seats, and makes it the walkway. What there was is replaced.
 *
 * @throws {WalkwayError} where the kit does not say which tiles it takes, has no seats, or no visitor comes to any of them
 */
export const findWalkway = defineOperation<{ rules: WalkRules; groups: SeatGroup[] }>({
  id: 'grounds.find-way',
  title: () => 'Find the way to the seats',
  args: Joi.object({ rules: walkRulesSchema.required(), groups: groupsSchema.required() }),
  change(kit, { rules, groups }, blobs) {
    const world = worldOf(kit, blobs, rules);
    if (groups.length === 0) throw new WalkwayError('no-seats', 'There are no seats to find a way to. Make one first.');
    const goals = groups.map(({ carrier, seats }) => ({ carrier: partOf(kit, carrier).id, places: seatPlaces(kit, seats) }));
    const { walkway, unreached } = findWay(world, goals);
    if (walkway.knots.length === 0)
      throw new WalkwayError(
        'no-way',
        'No visitor comes to any seat from the edge: a step is too high, a slope too steep, a passage too low or too narrow, or the seats are out of reach. Look at what stands between, and try again.',
      );
    kit.walkway = walkway;
    const names = unreached.map((id) => `“${kit.parts[id].name}”`);
    return { told: names.length > 0 ? `No way leads to the seats of ${names.join(', ')}` : null };
  },
});

/**
 * Lays a way between two knots, up stairs and ramps and round what stands there, as far as visitors can walk between them.
 *
 * @throws {WalkwayError} where they can't
 */
export const layBetween = defineOperation<{ rules: WalkRules; from: Id; to: Id }>({
  id: 'grounds.lay-between',
  title: () => 'Lay a way between two knots',
  args: Joi.object({ rules: walkRulesSchema.required(), from: idSchema.required(), to: idSchema.invalid(Joi.ref('from')).required() }),
  change(kit, { rules, from, to }, blobs) {
    const [a, b] = [from, to].map((id) => knotOf(kit, id));
    const between = findBetween(floorsOf(worldOf(kit, blobs, rules)), a.at, b.at);
    if (!between)
      throw new WalkwayError(
        'no-way-between',
        'No visitor can walk from the one knot to the other: a step is too high, a slope too steep, a passage too low or too narrow, or nothing is there to stand on. Look at what lies between them, and try again.',
      );
    const walkway = walkwayOf(kit);
    const ends = new Set([from, to]);
    walkway.ropes = walkway.ropes.filter((rope) => !ends.has(rope.from) || !ends.has(rope.to));
    const knots = between.map((at) => ({ id: newId(), name: '', at, edge: false, boards: [], leaves: [] }));
    walkway.knots.push(...knots);
    const ids = [from, ...knots.map(({ id }) => id), to];
    for (let i = 1; i < ids.length; i++) walkway.ropes.push({ id: newId(), from: ids[i - 1], to: ids[i], oneWay: false, rail: false });
    return { told: knots.length > 0 ? `${count(knots.length, 'knot')} between them` : null };
  },
});

/**
 * Lays a ring round the edge of the tiles, with a knot at the middle of each tile's outer side that the walkways of a park join, through
 * the knots that lie there already. Where something stands in the way it is left open.
 *
 * @throws {WalkwayError} where nobody can walk anywhere along the edge
 */
export const layRing = defineOperation<{ rules: WalkRules; tile: number }>({
  id: 'grounds.lay-ring',
  title: () => 'Lay a ring round the edge',
  args: Joi.object({ rules: walkRulesSchema.required(), tile: Joi.number().positive().max(1000).required() }),
  change(kit, { rules, tile }, blobs) {
    const floors = floorsOf(worldOf(kit, blobs, rules));
    const { knots, ropes, open } = ringWay(floors, kit.grounds!.footprint!, tile, kit.walkway);
    if (ropes.length === 0)
      throw new WalkwayError(
        'no-ring',
        'Nobody can walk along the edge of the tiles: something stands there all round, or the ring is there already. Take more tiles, or put knots by hand.',
      );
    const walkway = walkwayOf(kit);
    walkway.knots.push(...knots);
    walkway.ropes.push(...ropes);
    return { told: open > 0 ? `The ring is open at ${count(open, 'place')}: something stands there` : null };
  },
});
