import { count, keepable, nameList, type Kit } from '../document';

/**
 * Takes out of every text of a kit that was just read what no database and no file format keeps: NULs and halves of characters. A note says
 * so. Writes to the kit.
 */
export function cleanTexts(kit: Kit): void {
  const cleaned: string[] = [];
  clean(kit as unknown as Record<string, unknown>, cleaned);
  if (cleaned.length === 0 || !kit.source) return;
  const said = `Taken out of ${count(cleaned.length, 'text')} (${nameList(cleaned.map((text) => text.slice(0, 40)))}): characters that can’t be kept.`;
  kit.source.notes.push({ grade: 'note', code: 'text', message: keepable(said), part: null });
}

function clean(fields: Record<string, unknown>, cleaned: string[]): void {
  for (const [name, value] of Object.entries(fields)) {
    if (typeof value === 'string') {
      const text = keepable(value);
      if (text === value) continue;
      fields[name] = text;
      cleaned.push(text);
    } else if (Array.isArray(value) ? typeof value[0] !== 'number' : typeof value === 'object' && value !== null)
      clean(value as Record<string, unknown>, cleaned);
  }
}
