import type { Binding } from '@itchkit/core/document';
import { evaluateBinding, sortedRows } from '@itchkit/core/wiring';
import type { Variable } from '@itchkit/core/rulebook';

/** What a part does over a variable, in the unit in which it is shown. */
export const SHOWN = {
  turn: { title: 'turn', unit: '°', by: 1 },
  offset: { title: 'offset', unit: 'mm', by: 1000 },
  size: { title: 'size', unit: '×', by: 1 },
} as const;
export type Kind = keyof typeof SHOWN;

/** One number of a pose over a variable: values and what it is there, ascending. */
export interface ResponseLine {
  binding: string;
  axis: 0 | 1 | 2;
  points: { value: number; at: number; row: boolean }[];
}

/** Values between rows of a table that begins again or goes in curves: enough to show that it does. */
const ROUNDS = 240;

/** The kinds in which anything that follows moves, the most telling first; turn where nothing does. */
export function kindsOf(bindings: readonly Binding[]): Kind[] {
  const moves = (kind: Kind) =>
    bindings.some(({ rows }) => rows.some((row) => row[kind].some((value, axis) => Math.abs(value - rows[0][kind][axis]) > 1e-12)));
  const found = (Object.keys(SHOWN) as Kind[]).filter(moves);
  return found.length > 0 ? found : ['turn'];
}

/** What is in view: the variable's range with a little beyond it, and every row. */
export function domainOf(variable: Pick<Variable, 'min' | 'max'> | undefined, bindings: readonly Binding[]): [number, number] {
  const values = bindings.flatMap(({ rows }) => rows.map(({ value }) => value));
  const least = Math.min(variable?.min ?? Infinity, ...values);
  const most = Math.max(variable?.max ?? -Infinity, ...values);
  if (!(most > least)) return [least - 1, least + 1];
  const beyond = 0.07 * (most - least);
  return [least - beyond, most + beyond];
}

/** The numbers of one kind that move, over a stretch of the variable: as the target plays them, beyond the table, too. */
export function responseLines(bindings: readonly Binding[], kind: Kind, [from, to]: [number, number]): ResponseLine[] {
  return bindings.flatMap((binding) => {
    const rows = sortedRows(binding.rows);
    const own = new Set(rows.map(({ value }) => value));
    const smooth = binding.outside === 'wrap' || binding.between === 'curve';
    const more = smooth ? Array.from({ length: ROUNDS }, (_, i) => from + ((to - from) * (i + 0.5)) / ROUNDS) : [];
    const values = [...new Set([from, ...rows.map(({ value }) => value), ...more, to])].sort((a, b) => a - b);
    return ([0, 1, 2] as const)
      .filter((axis) => rows.some((row) => Math.abs(row[kind][axis] - rows[0][kind][axis]) > 1e-12))
      .map((axis): ResponseLine => ({
        binding: binding.id,
        axis,
        points: values.map((value) => ({
          value,
          at: evaluateBinding(binding, value)[kind][axis] * SHOWN[kind].by,
          row: own.has(value),
        })),
      }));
  });
}
