import { partsInOrder, type Kit } from '../document';
import { withDerived, type Rulebook } from '../rulebook';
import { csvLine, tableText, unitOf, type TableLine } from './bindings-table';

/** The columns of the table, in their order. `from` counts, `below` does not; an empty one is no end. */
export const SWITCH_COLUMNS = ['variable', 'index', 'unit', 'part', 'from', 'below', 'one_of'] as const;

/** What is shown at which values as lines of CSV (RFC 4180), one a span. */
export function switchLines(kit: Kit, platform: Rulebook): TableLine[] {
  const rulebook = withDerived(platform, kit.derived);
  const lines: TableLine[] = [{ text: SWITCH_COLUMNS.join(','), part: null }];
  for (const part of partsInOrder(kit))
    for (const one of (kit.switches ?? []).filter((each) => each.part === part.id))
      for (const { from, to } of one.spans) {
        const fields = [one.variable, one.index ?? '', unitOf(one.variable, rulebook), part.name, from ?? '', to ?? '', one.among];
        lines.push({ text: csvLine(fields), part: part.id });
      }
  return lines;
}

/** What is shown at which values as CSV. */
export const switchesTable = (kit: Kit, rulebook: Rulebook): string => tableText(switchLines(kit, rulebook));
