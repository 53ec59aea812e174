import type { Check, Said } from '../types';
import { count, figure } from '../wording';
import { faultsOfWay, needsGrounds } from './grounds-shared';

/** Every knot is joined to another, and who boards or leaves there is near enough to a seat. */
export const groundsKnots: Check = {
  id: 'grounds.knots',
  family: 'grounds',
  stage: 'wiring',
  about: 'Every knot of the walkway is joined to another, and near enough to the seats that are boarded there',
  needs: needsGrounds,
  run(context): Said[] {
    const { kit, rulebook } = context;
    const faults = faultsOfWay(context);
    if (!faults) return [];
    const said: Said[] = faults.tooFar.map(({ knot, carrier, metres }) => ({
      key: `far ${knot} ${carrier}`,
      title: 'Too far from the seats',
      message: Number.isFinite(metres)
        ? `From the knot where visitors board or leave “${kit.parts[carrier].name}” the nearest of its seats is ${figure(metres, 2)} m away.`
        : `The knot where visitors board or leave “${kit.parts[carrier].name}” stands above its seats, or too far below them.`,
      measured: Number.isFinite(metres) ? `${figure(metres, 2)} m` : 'not at their height',
      limit: `${figure(rulebook.grounds!.visitor.reach, 2)} m`,
      parts: [carrier],
    }));
    if (faults.alone.length > 0)
      said.push({
        key: 'alone',
        title: 'Knots that nothing joins',
        message: `${count(faults.alone.length, 'knot of the walkway is', 'knots of the walkway are')} joined to none.`,
        measured: String(faults.alone.length),
        limit: '0',
        parts: [],
        mend: {
          title: `Take ${faults.alone.length === 1 ? 'it' : 'them'} away`,
          safe: true,
          call: { operation: 'grounds.remove-knots', args: { knots: faults.alone } },
        },
      });
    return said;
  },
};
