import { KitError, type Clip, type LoopMode } from '../document';

/** A piece of a clip that becomes a clip of its own; seconds. */
export interface ClipRange {
  name: string;
  from: number;
  to: number;
  loop: LoopMode;
}

/** A line of a table of ranges that can't be read. */
export class RangeTableError extends KitError {
  constructor(message: string, line: number) {
    super('range-table', `Line ${line}: ${message}`, `line ${line}`);
  }
}

const LOOP_WORDS: Record<string, LoopMode> = {
  '': 'loop',
  loop: 'loop',
  yes: 'loop',
  true: 'loop',
  once: 'once',
  no: 'once',
  false: 'once',
  'ping-pong': 'ping-pong',
  pingpong: 'ping-pong',
  hold: 'hold',
};

/**
 * Reads what a person pastes to split a clip: a table (name, from, to, loop, with commas, semicolons or tabs; a heading is
 * passed over), or numbered names (`furl01…furl24, wave01…`), which share out the clip's frames one after the other.
 *
 * @param unit What bare numbers of a table are; `1.5s` and `36f` say it themselves.
 * @throws {RangeTableError} naming the line
 */
export function parseRanges(text: string, clip: Clip, unit: 'frames' | 'seconds'): ClipRange[] {
  const lines = text.split(/\r?\n/).map((line, i) => ({ line: line.trim(), number: i + 1 }));
  const filled = lines.filter(({ line }) => line !== '' && !line.startsWith('#'));
  if (filled.length === 0) return [];
  const numbered = filled.every(({ line }) => line.split(/[,;\t]/).every((entry) => entry.trim() === '' || NUMBERED.test(entry.trim())));
  return numbered ? fromNumbers(filled, clip) : fromTable(filled, clip, unit);
}

/** `furl01…furl24`, `furl01-24`, `wave01…` or one name with a number. */
const NUMBERED = /^(.*?\D)(\d+)(?:\s*(?:…|\.\.\.?|-|–|—|\bto\b)\s*(?:(?:.*?\D)?(\d+))?)?$/;
const OPEN = /(…|\.\.\.?|-|–|—|\bto)\s*$/;

function fromNumbers(lines: { line: string; number: number }[], clip: Clip): ClipRange[] {
  const frames = Math.round(clip.lengthSeconds * clip.rate) + 1;
  const ranges: { name: string; frames: number; line: number }[] = [];
  for (const { line, number } of lines) {
    for (const entry of line.split(/[,;\t]/).map((one) => one.trim())) {
      if (entry === '') continue;
      const [, stem, first, last] = NUMBERED.exec(entry)!;
      const name = stem.replace(/[ _.-]+$/, '') || stem;
      const open = OPEN.test(entry);
      const used = ranges.reduce((sum, range) => sum + range.frames, 0);
      const untold = open ? frames - used : 1;
      const count = last === undefined ? untold : Number(last) - Number(first) + 1;
      if (count < 1)
        throw new RangeTableError(`“${entry}” counts down, or there are no frames left for it. The clip has ${frames}.`, number);
      const before = ranges.at(-1);
      if (before?.name === name) before.frames += count;
      else ranges.push({ name, frames: count, line: number });
    }
  }
  let at = 0;
  return ranges.map(({ name, frames: count, line }) => {
    if (at + count > frames)
      throw new RangeTableError(`“${name}” needs frames ${at + 1} to ${at + count}, and the clip has ${frames}.`, line);
    const range: ClipRange = { name, from: at / clip.rate, to: (at + count - 1) / clip.rate, loop: 'loop' };
    at += count;
    return range;
  });
}

function fromTable(lines: { line: string; number: number }[], clip: Clip, unit: 'frames' | 'seconds'): ClipRange[] {
  const seconds = (text: string): number => {
    const match = /^([-+]?[\d.]+(?:e[-+]?\d+)?)\s*(s|f)?$/i.exec(text.trim());
    const value = match ? Number(match[1]) : NaN;
    const isFrames = match?.[2] ? match[2].toLowerCase() === 'f' : unit === 'frames';
    return isFrames ? value / clip.rate : value;
  };
  const isHeading = (cells: string[]) => cells.length >= 3 && Number.isNaN(seconds(cells[1])) && Number.isNaN(seconds(cells[2]));
  const rows = lines.map(({ line, number }) => ({
    cells: line.split(/[\t;,]/).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1')),
    number,
  }));
  if (isHeading(rows[0].cells)) rows.shift();
  return rows.map(({ cells, number }): ClipRange => {
    if (cells.length < 3)
      throw new RangeTableError(`a row is name, from, to and loop; “${cells.join(', ').slice(0, 60)}” has ${cells.length}.`, number);
    const [name, from, to, loop = ''] = cells;
    if (name === '') throw new RangeTableError('the name is missing.', number);
    const range = { name: name.slice(0, 200), from: seconds(from), to: seconds(to) };
    if (!Number.isFinite(range.from) || !Number.isFinite(range.to))
      throw new RangeTableError(`“${from}” and “${to}” should be two numbers, in ${unit}.`, number);
    if (range.from < -1e-6 || range.to > clip.lengthSeconds + 0.5 / clip.rate)
      throw new RangeTableError(
        `“${name}” runs from ${from} to ${to}, and the clip is ${Number(clip.lengthSeconds.toFixed(3))} s long (${Math.round(clip.lengthSeconds * clip.rate)} frames).`,
        number,
      );
    if (range.to < range.from) throw new RangeTableError(`“${name}” ends before it begins.`, number);
    const mode = LOOP_WORDS[loop.toLowerCase()];
    if (!mode) throw new RangeTableError(`“${loop}” is no loop mode. Say loop, once, ping-pong or hold.`, number);
    return { ...range, loop: mode };
  });
}
