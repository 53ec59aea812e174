import { seatOrder } from '../../grounds';
import type { Check, Said } from '../types';
import { count, nameList } from '../wording';
import { groupsOf, needsGrounds, seatNames } from './grounds-shared';

/** There are seats, and they are numbered from 1 without a gap. */
export const groundsSeats: Check = {
  id: 'grounds.seats',
  family: 'grounds',
  stage: 'wiring',
  about: 'There are seats, numbered from 1 without a gap',
  needs: needsGrounds,
  run(context): Said[] {
    const { kit, rulebook } = context;
    const groups = groupsOf(context);
    const seats = groups.flatMap((group) => group.seats);
    if (seats.length === 0)
      return [
        {
          key: 'none',
          title: 'No seats',
          message: 'Nobody can sit on it: no part is a seat. In Grounds, put seats onto the parts that are sat on.',
          measured: '0',
          limit: '1 or more',
          parts: [],
        },
      ];
    const names = seatNames(rulebook);
    const wanted = new Set(seats.map((_, i) => `${names.prefix}${String(i + 1).padStart(names.figures, '0')}`));
    const off = seats.filter((id) => !wanted.delete(kit.parts[id].name));
    if (off.length === 0) return [];
    return [
      {
        key: 'numbers',
        title: 'Seats are not numbered through',
        message: `${count(seats.length, 'seat')} should be ${names.prefix}${'1'.padStart(names.figures, '0')} and on; ${nameList([...wanted])} ${wanted.size === 1 ? 'is' : 'are'} missing.`,
        measured: nameList(off.map((id) => kit.parts[id].name)),
        limit: 'numbered from 1',
        parts: off,
        mend: {
          title: 'Number them in order',
          safe: true,
          call: { operation: 'grounds.number-seats', args: { ...names, seats: seatOrder(kit, groups) } },
        },
      },
    ];
  },
};
