import type { Kit } from './kit';
import { SECTION_LIST } from './sections';
import type { Difference } from './sections/section';

/** What two states of a kit differ in, section by section; parts by their newer path. */
export function kitDifferences(before: Kit, after: Kit): Difference[] {
  return SECTION_LIST.flatMap((section) => section.compare(before, after).sort((a, b) => a.where.localeCompare(b.where)));
}
