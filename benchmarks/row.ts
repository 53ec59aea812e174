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

/** Runs two things in turn, so that what disturbs the machine disturbs both; a first pair warms up and is not counted. */
export async function paired(pairs: number, ours: () => Promise<number>, peer: () => Promise<number>): Promise<[number[], number[]]> {
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i <= pairs; i++) {
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
    for (const [run, list] of order) {
      const value = await run();
      if (i > 0) list.push(value);
    }
  }
  return [a, b];
}

export async function milliseconds(run: () => Promise<unknown>): Promise<number> {
  (globalThis as { gc?: () => void }).gc?.();
  const start = performance.now();
  await run();
  return performance.now() - start;
}
