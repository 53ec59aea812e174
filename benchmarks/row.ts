/** One line of the benchmark: ours against a peer in the same run. */
export interface Row {
  row: string;
  /** Medians, in `unit`. */
  ours: number;
  peer: number;
  unit: string;
  ratio: number;
  /** The ratio holds up to this. */
  limit: number;
  holds: boolean;
}

export interface Benchmark {
  row: string;
  /** A few words: what is measured against what. */
  title: string;
  run: () => Promise<Row>;
}

export function median(values: number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

export function rowOf(row: string, unit: string, ours: number[], peer: number[], limit: number): Row {
  const [a, b] = [median(ours), median(peer)];
  const ratio = a / b;
  return { row, ours: a, peer: b, unit, ratio, limit, holds: ratio <= limit };
}

/** Both are run until this has gone by before anything is counted, milliseconds: the engine compiles what is run often. */
const WARM = 600;
const MOST_WARMING = 60;
/** Short runs are repeated until this has gone by, milliseconds: their median is that of more. */
const LONG_ENOUGH = 1200;
const MOST_PAIRS = 41;

/**
 * Runs two things in turn, so that what disturbs the machine disturbs both. What warms up is not counted.
 *
 * @param pairs How often at least
 */
export async function paired(pairs: number, ours: () => Promise<number>, peer: () => Promise<number>): Promise<[number[], number[]]> {
  let spent = 0;
  let warmed = 0;
  while (warmed === 0 || (spent < WARM && warmed < MOST_WARMING)) {
    const start = performance.now();
    await ours();
    await peer();
    spent += performance.now() - start;
    warmed++;
  }
  const wanted = Math.max(pairs, Math.min(MOST_PAIRS, Math.ceil(LONG_ENOUGH / (spent / warmed))));
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < wanted; i++) {
    const order =
      i % 2 === 0
        ? ([
            [ours, a],
            [peer, b],
          ] as const)
        : ([
            [peer, b],
            [ours, a],
          ] as const);
    for (const [run, list] of order) list.push(await run());
  }
  return [a, b];
}

export async function milliseconds(run: () => Promise<unknown>): Promise<number> {
  (globalThis as { gc?: () => void }).gc?.();
  const start = performance.now();
  await run();
  return performance.now() - start;
}
