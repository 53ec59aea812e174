import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { rowOf, type Benchmark } from './row';
import { seaGlb } from './sea-glb';

const PAIRS = 5;

/** Peak memory of a process that reads the file, over one that has the same code loaded and reads none; bytes. */
function peak(script: string, path: string): number {
  const result = spawnSync(process.execPath, ['--import', 'tsx', script, path], { encoding: 'utf8' });
  if (result.status !== 0) throw new Error(`The memory benchmark's process failed:\n${result.stderr}`);
  return Number(result.stdout);
}

export const intakeMemory: Benchmark = {
  row: 'intake-memory',
  title: '1,000,000 triangles: peak memory of bytes to a kit, against the size of the file',
  async run() {
    const folder = mkdtempSync(join(tmpdir(), 'itchkit-bench-'));
    try {
      const bytes = await seaGlb(1000, 500);
      const path = join(folder, 'sea.glb');
      writeFileSync(path, bytes);
      const script = join(import.meta.dirname, 'intake-memory-process.ts');
      const ours = Array.from({ length: PAIRS }, () => peak(script, path) - peak(script, ''));
      return rowOf(
        'intake-memory',
        'MB',
        ours.map((value) => value / 1e6),
        ours.map(() => bytes.length / 1e6),
        6,
      );
    } finally {
      rmSync(folder, { recursive: true });
    }
  },
};
