import { seatPlaces, buildWalkWorld, findWay, floorsOf, wayFaults, type WalkRules } from '../grounds';
import type { Oracle } from './oracle';
import { PlainWalker } from './plain-walker';
import { Random } from './random';
import { HALF, randomPlot } from './random-plots';

const RULES: WalkRules = { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 1.2 };
/** Columns are this wide: what a body more, or less, may be. */
const CELL = RULES.radius / 3;

/** What is wrong with the way found in a plot of a number, by a walker who knows triangles alone; none where nothing is. */
export function wayFoundWrong(seed: number): string[] {
  const { kit, blobs, seat, triangles } = randomPlot(new Random(seed));
  const world = buildWalkWorld(kit, blobs, [], kit.grounds!.footprint!, RULES);
  const goals = [{ carrier: 'bench', places: seatPlaces(kit, ['seat-01']) }];
  const { walkway, unreached } = findWay(world, goals);
  const wrong: string[] = [];
  const found = unreached.length === 0;
  const wide = new PlainWalker(triangles, { ...RULES, reach: RULES.reach - 1.5 * CELL }, RULES.radius + 1.5 * CELL, HALF);
  const slim = new PlainWalker(triangles, { ...RULES, reach: RULES.reach + 1.5 * CELL }, RULES.radius - 1.5 * CELL, HALF);
  if (!found && wide.reaches(seat)) wrong.push('a wide walker comes to the seat, and no way was found');
  if (found && !slim.reaches(seat)) wrong.push('a way was found, and a slim walker does not come to the seat');
  const knots = new Map(walkway.knots.map((knot) => [knot.id, knot]));
  for (const { from, to } of walkway.ropes) {
    const [a, b] = [from, to].map((id) => knots.get(id)!.at);
    if (!slim.walks(a, b)) wrong.push(`a slim walker can’t go from ${a.join(', ')} to ${b.join(', ')}`);
  }
  if (found) {
    const faults = wayFaults(floorsOf(world), walkway, goals);
    for (const [kind, list] of Object.entries(faults)) if (list.length > 0) wrong.push(`the way found has faults of its own: ${kind}`);
  }
  return wrong;
}

/** The walkway that is found, against a walker who knows triangles alone. */
export const walkways: Oracle = {
  id: 'walkways',
  about: 'A way is found to each seat that can be walked to, and every rope of it can be walked',
  against: 'a walker on a lattice who sees triangles alone, a column and a half wider and slimmer',
  promised: 0,
  unit: 'share',
  cases: 40,
  deviation: (seed) => Number(wayFoundWrong(seed).length > 0),
};
