import type { Kit } from './kit';
import { SECTION_LIST } from './sections';
import type { Move, Removal } from './sections/section';
import type { Id } from './values';

/**
 * Takes parts out, with everything that is on them. What hangs below them and is to stay has to hang elsewhere already. Writes to the
 * draft.
 * Use `takeOutParts` of geometry, which knows where parts stand.
 */
export function withoutParts(kit: Kit, removal: Removal): void {
  if (removal.gone.size > 0) for (const section of SECTION_LIST) section.without(kit, removal);
}

/** Hands on what is on a part that goes into another. Writes to the draft. @param move From the axes of the one into those of the other. */
export function handOn(kit: Kit, from: Id, into: Id, move: Move): void {
  for (const section of SECTION_LIST) section.joined(kit, from, into, move);
}

/** What stands on a part goes along, since its geometry was moved in its axes. Writes to the draft. */
export function moveWhatIsOn(kit: Kit, part: Id, move: Move): void {
  for (const section of SECTION_LIST) section.moved(kit, part, move);
}
