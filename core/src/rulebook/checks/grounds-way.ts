import type { Check, Said } from '../types';
import { nameList } from '../wording';
import { faultsOfWay, findWayMend, groupsOf, needsGrounds } from './grounds-shared';

/** Visitors come from the edge to every group of seats, and back. */
export const groundsWay: Check = {
  id: 'grounds.way',
  family: 'grounds',
  stage: 'wiring',
  about: 'Visitors come from the edge to every group of seats, and back',
  needs: needsGrounds,
  run(context): Said[] {
    const { kit, rulebook } = context;
    const groups = groupsOf(context);
    // Before it says which tiles it takes there is no edge to come from: that is another rule's to say.
    if (groups.length === 0 || !kit.grounds?.footprint) return [];
    const mend = findWayMend(context, rulebook.grounds!, 'Find the way');
    const faults = faultsOfWay(context);
    if (faults === null)
      return [
        {
          title: 'No way to the seats',
          message: 'There is no walkway: visitors stay at the edge.',
          measured: 'none',
          limit: 'from the edge to the seats and back',
          parts: groups.map(({ carrier }) => carrier),
          mend,
        },
      ];
    const name = (ids: string[]) => nameList(ids.map((id) => kit.parts[id].name));
    const lost = (key: string, ids: string[], title: string, message: string): Said[] =>
      ids.length === 0 ? [] : [{ key, title, message, measured: 'no way', limit: 'from the edge to the seats and back', parts: ids, mend }];
    return [
      ...lost('unboarded', faults.unboarded, 'Nobody gets on', `No knot says that visitors board ${name(faults.unboarded)} there.`),
      ...lost(
        'unreached',
        faults.unreached,
        'No way to the seats',
        `From the edge no rope leads to where visitors board ${name(faults.unreached)}.`,
      ),
      ...lost('unleft', faults.unleft, 'Nobody gets off', `No knot says that visitors leave ${name(faults.unleft)} there.`),
      ...lost(
        'stranded',
        faults.stranded,
        'No way back',
        `From where visitors leave ${name(faults.stranded)} no rope leads back to the edge.`,
      ),
    ];
  },
};
