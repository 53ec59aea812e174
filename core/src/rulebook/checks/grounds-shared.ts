import type { Id, Part, Vec3 } from '../../document';
import {
  buildWalkWorld,
  floorsOf,
  seatGroups,
  wayFaults,
  type Floors,
  type GroundsRules,
  type SeatGroup,
  type WayFaults,
} from '../../grounds';
import { patternOf, roleOf } from '../naming';
import { playedClip } from '../played-tracks';
import type { CheckContext, Rulebook } from '../types';

/** What the rulebook has to say for a check of grounds. */
export const needsGrounds = ({ grounds }: Rulebook): string | null => (grounds ? null : 'grounds');

/** Whether a part is a seat to a platform. */
export const isSeatOf =
  (rulebook: Rulebook) =>
  (part: Pick<Part, 'name' | 'role'>): boolean =>
    roleOf(rulebook, part) === 'seat';

/** How a platform's seats are called: what stands before their number, and how many figures it has. */
export function seatNames(rulebook: Rulebook): { prefix: string; figures: number } {
  const pattern = patternOf(rulebook, 'seat');
  const figures = /(\d+)$/.exec(pattern?.examples[0] ?? '')?.[1].length ?? 2;
  return { prefix: pattern?.prefix ?? 'seat-', figures };
}

/** Seats by what carries them. */
export const groupsOf = (context: CheckContext): SeatGroup[] =>
  context.once('seat groups', ({ kit, rulebook }) => seatGroups(kit, isSeatOf(rulebook)));

/** Groups with where their seats are at rest, metres. */
export function goalsOf(context: CheckContext): { carrier: Id; places: Vec3[] }[] {
  const rest = context.rest();
  return groupsOf(context).map(({ carrier, seats }) => ({
    carrier,
    places: seats.map((id) => Array.from(rest.worldOf(id).subarray(12, 15)) as Vec3),
  }));
}

/** Where visitors can stand on the tiles of the kit; null where it does not say which they are. */
const floorsIn = (context: CheckContext): Floors | null =>
  context.once('floors', ({ kit, blobs, rulebook }) => {
    const footprint = kit.grounds?.footprint;
    if (!footprint) return null;
    const clips = Object.values(kit.clips).map((clip) => playedClip(rulebook, clip));
    return floorsOf(buildWalkWorld(kit, blobs, clips, footprint, rulebook.grounds!.visitor));
  });

/** What is wrong with the walkway; null where there is none, or no tiles for it to lie on. */
export const faultsOfWay = (context: CheckContext): WayFaults | null =>
  context.once('way faults', (inner) => {
    const { walkway } = inner.kit;
    const floors = walkway ? floorsIn(inner) : null;
    return floors && walkway ? wayFaults(floors, walkway, goalsOf(inner)) : null;
  });

/** The mend that finds a way. */
export function findWayMend(context: CheckContext, rules: GroundsRules, title: string) {
  return {
    title,
    safe: false,
    call: { operation: 'grounds.find-way', args: { rules: { ...rules.visitor }, groups: groupsOf(context) } },
    changes: [context.kit.walkway ? 'the walkway is found anew; the one there is goes' : 'a walkway from the edge to the seats'],
  };
}
