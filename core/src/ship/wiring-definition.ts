import { MemoryBlobs, conformRows, type Id, type Kit } from '../document';
import { CANONICAL, changeOfSpace, conforming } from '../geometry';
import type { Rulebook } from '../rulebook';
import { bindingLines, tableText, type TableLine } from './bindings-table';
import { plainTables } from './plain-tables';
import { switchLines } from './switches-table';

/** A text of the package as it will be written, with the part that each line speaks of. */
export interface DefinitionFile {
  /** As it is called in the package. */
  path: string;
  text: string;
  /** By line, from the first. */
  parts: (Id | null)[];
}

/** The tables of a kit's wiring as its package will have them, in the platform's unit and axes. */
export function wiringDefinition(made: Kit, rulebook: Rulebook): DefinitionFile[] {
  const kit = plainTables(made, rulebook);
  const to = conforming(changeOfSpace(CANONICAL, rulebook.space), new MemoryBlobs());
  const bindings = Object.fromEntries(Object.entries(kit.bindings).map(([id, one]) => [id, { ...one, rows: conformRows(one.rows, to) }]));
  const conformed = { ...kit, bindings };
  const lines: Partial<Record<string, (kit: Kit, rulebook: Rulebook) => TableLine[]>> = {
    'bindings-table': bindingLines,
    'switches-table': switchLines,
  };
  return rulebook.packaging.flatMap(({ path, holds }): DefinitionFile[] => {
    const all = lines[holds]?.(conformed, rulebook);
    return all ? [{ path: path.slice(path.lastIndexOf('/') + 1), text: tableText(all), parts: all.map(({ part }) => part) }] : [];
  });
}
